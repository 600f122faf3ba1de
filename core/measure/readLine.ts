import { amountText } from './amountText.ts'
import { readAmount } from './readAmount.ts'
import { type Amount, type MeasureKit, UNIT_NAMES, UNITS, type Unit, volumeMlOfAmount } from './units.ts'

/** Something about a line that a person should look at. Nothing is changed by itself. */
export interface LineFlag {
  code: 'unitsDisagree' | 'range' | 'fruit' | 'noUnit' | 'noAmount' | 'unusual' | 'swapped'
  text: string
  /** What was likely meant, to be taken with one press: another amount… */
  likely?: Amount
  /** …or another thing, by its slug. */
  likelyIngredient?: string
}

/** A line of a recipe as it was read. */
export interface ReadLine {
  asWritten: string
  /** Undefined when no amount could be read. */
  amount: Amount | undefined
  /** Written as a count of fruit. */
  fruit?: { count: number; name: string }
  /** What is left of the line: what is poured. */
  words: string
  flags: LineFlag[]
}

/** What a fruit gives here, ml, and how that is known. */
export interface FruitMl {
  ml: number
  basis: 'measured' | 'assumed'
}

export interface LineContext {
  kit: MeasureKit
  /** What a bare number is; default the house's first unit, oz. */
  bareUnit?: Unit
  fruitMl?: (fruit: string) => FruitMl | undefined
}

/** Juice of one fruit, ml, until the house has pressed its own (assumed; boxes differ by half as much again). */
export const ASSUMED_FRUIT_ML: Record<string, number> = {
  lime: 25,
  lemon: 40,
  orange: 75,
  grapefruit: 150,
  'passion fruit': 15,
}

const VULGAR = '¼½¾⅓⅔⅛⅜⅝⅞⅕⅙'
const NUMBER = String.raw`(?:\d+\s+\d+\s*\/\s*\d+|\d+\s*\/\s*\d+|\d+(?:[.,]\d+)?\s*[${VULGAR}]?|[${VULGAR}]|half(?: an?| of an?)?|a quarter(?: of an?)?|one|two|three|four|an?)`
const UNIT_WORDS = UNIT_NAMES.flatMap((u) => [u, UNITS[u].label, ...UNITS[u].names])
  .map((w) => w.toLowerCase())
  .sort((a, b) => b.length - a.length)
  .map((w) => w.replace('.', '\\.'))
const UNIT = `(?:${UNIT_WORDS.join('|')})\\.?(?![a-z])`
const FRUIT = '(passion fruit|grapefruit|lime|lemon|orange)'
const WORD_VALUES: Record<string, number> = { half: 0.5, quarter: 0.25, one: 1, two: 2, three: 3, four: 4, a: 1, an: 1 }
/** Books differ by how large an ounce is; what differs by more than this was not rounded, it is wrong. */
const ROUNDING = 0.11

/** "half a" → 0.5, "1 1/2" → 1.5, "2,5" → 2.5. */
function readNumber(text: string): number | undefined {
  const plain = text.trim().toLowerCase()
  const word = plain.replace(/\b(of|an?)\b/g, ' ').trim() || 'a'
  const named = WORD_VALUES[word]
  if (named !== undefined) return named
  const read = readAmount(plain, 'ml')
  return read.ok ? read.amount.value : undefined
}

const ml = (value: number) => `${Number(value.toFixed(1))} ml`

/**
 * Reads a line as people write it: "1½ oz lime", "45 ml / 1.5 oz rum", "half a lime", "juice of 1
 * lemon", "2 to 3 dashes bitters", "sugar syrup, 15 ml". What does not fit together is flagged, with
 * what was likely meant; the first amount written is the one that is taken.
 */
export function readLine(text: string, context: LineContext): ReadLine {
  const asWritten = text.trim()
  const line = asWritten
    .replace(/^[-*•·]\s*/, '')
    .replace(/[–—]/g, '-')
    .replace(/\s+/g, ' ')
  const flags: LineFlag[] = []
  return readFruit(line) ?? readLeading(line) ?? readTrailing(line) ?? nothingRead()

  function nothingRead(): ReadLine {
    flags.push({ code: 'noAmount', text: 'no amount was found; write one, like 1½ oz or 45 ml' })
    return { asWritten, amount: undefined, words: line, flags }
  }

  /** "half a lime", "juice of 1 lemon", "2 limes, juiced". */
  function readFruit(from: string): ReadLine | undefined {
    const juice = new RegExp(`^(?:the )?juice (?:of|from) (${NUMBER})?\\s*${FRUIT}s?\\b`, 'i').exec(from)
    const bare = new RegExp(
      `^(${NUMBER})\\s*(?:fresh |small |large |whole )*${FRUIT}s?(?=$|[,(]| juiced| squeezed|, juice)`,
      'i',
    ).exec(from)
    const match = juice ?? bare
    if (!match) return undefined
    const count = match[1] ? readNumber(match[1]) : 1
    const name = match[2]?.toLowerCase()
    if (count === undefined || name === undefined) return undefined
    const each = context.fruitMl?.(name) ?? { ml: ASSUMED_FRUIT_ML[name] ?? 30, basis: 'assumed' as const }
    const volumeMl = Number((count * each.ml).toFixed(1))
    const how = each.basis === 'measured' ? 'by the house’s pressings' : 'assumed: nobody has pressed one here'
    flags.push({ code: 'fruit', text: `a count of fruit is not a measure: ${ml(each.ml)} each, ${how}` })
    return {
      asWritten,
      amount: { value: volumeMl, unit: 'ml', asWritten },
      fruit: { count, name },
      words: `${name} juice`,
      flags,
    }
  }

  /** "45 ml / 1.5 oz rum", "2-3 dashes bitters". */
  function readLeading(from: string): ReadLine | undefined {
    const pattern = new RegExp(`^(${NUMBER})(?:\\s*(?:-|to|or)\\s*(${NUMBER}))?\\s*(${UNIT})?(.*)$`, 'i')
    const match = pattern.exec(from)
    const value = match?.[1] === undefined ? undefined : readNumber(match[1])
    if (!match || value === undefined) return undefined
    const [, , upTo, unitWord, rest = ''] = match
    if (!unitWord && /^an?$|^one$/i.test(match[1]?.trim() ?? '')) return undefined
    const unit = toUnit(unitWord)
    let amount: Amount = { value, unit: unit ?? context.bareUnit ?? 'oz', asWritten }
    if (upTo !== undefined) {
      const high = readNumber(upTo)
      if (high !== undefined && high > value) {
        const middle = Number(((value + high) / 2).toFixed(3))
        flags.push({
          code: 'range',
          text: `a range: ${value} to ${high}; the lower end is taken`,
          likely: { value: middle, unit: amount.unit },
        })
      }
    }
    if (!unit) flags.push({ code: 'noUnit', text: `no unit is written; taken as ${UNITS[amount.unit].label}` })
    const second = new RegExp(
      `^\\s*(?:\\/|\\(|=|or|,)\\s*(?:about |ca\\.? )?(${NUMBER})\\s*(${UNIT})\\s*\\)?(.*)$`,
      'i',
    ).exec(rest)
    let words = rest
    if (second && unit) {
      const other = readNumber(second[1] ?? '')
      const otherUnit = toUnit(second[2])
      if (other !== undefined && otherUnit) {
        checkBoth(amount, { value: other, unit: otherUnit })
        words = second[3] ?? ''
      }
    }
    amount = { ...amount, value: Number(amount.value.toFixed(4)) }
    return { asWritten, amount, words: cleaned(words), flags }
  }

  /** "lime juice, 1 oz". */
  function readTrailing(from: string): ReadLine | undefined {
    const match = new RegExp(`^(.*?)[,:]?\\s+(${NUMBER}\\s*${UNIT}(?:\\s*(?:\\/|\\(|=|or).*)?)$`, 'i').exec(from)
    if (!match?.[1] || !match[2] || !/\D/.test(match[1])) return undefined
    const read = readLeading(match[2])
    return read && { ...read, words: cleaned(match[1]) }
  }

  function toUnit(word: string | undefined): Unit | undefined {
    if (word === undefined) return undefined
    const wanted = word.toLowerCase().replace(/\.$/, '')
    return UNIT_NAMES.find((u) => {
      const names: readonly string[] = UNITS[u].names
      return u.toLowerCase() === wanted || UNITS[u].label === wanted || names.includes(wanted)
    })
  }

  /** Two amounts on one line: the same within rounding, or one of them is wrong. */
  function checkBoth(first: Amount, second: Amount): void {
    const a = volumeMlOfAmount(first, context.kit)
    const b = volumeMlOfAmount(second, context.kit)
    if (a === undefined || b === undefined || a === 0 || b === 0) return
    const ratio = b / a
    if (Math.abs(ratio - 1) <= ROUNDING) return
    const times = [2, 3, 10].find((n) => Math.abs(ratio / n - 1) < 0.08 || Math.abs(1 / ratio / n - 1) < 0.08)
    const how =
      times === undefined
        ? `${Math.round(100 * (Math.max(ratio, 1 / ratio) - 1))} % apart`
        : `${{ 2: 'twice', 3: 'three times', 10: 'ten times' }[times]} as much`
    const bigger = ratio > 1 ? second : first
    const smaller = ratio > 1 ? first : second
    flags.push({
      code: 'unitsDisagree',
      text: `${amountText(bigger)} (${ml(Math.max(a, b))}) is not ${amountText(smaller)} (${ml(Math.min(a, b))}): ${how}`,
      likely: { value: second.value, unit: second.unit },
    })
  }
}

const cleaned = (words: string) =>
  words
    .replace(/^[\s,.:;)-]+(?:of\s+)?/i, '')
    .replace(/^of\s+/i, '')
    .replace(/[\s,.;:(-]+$/, '')
    .trim()
