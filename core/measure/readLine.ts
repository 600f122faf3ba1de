import { amountText } from './amountText.ts'
import { type CountedThing, readCounted } from './counted.ts'
import { NUMBER_PATTERN, readNumber } from './numbers.ts'
import { type Amount, type MeasureKit, UNIT_NAMES, UNITS, type Unit, volumeMlOfAmount } from './units.ts'

/** Something about a line that a person should look at. Nothing is changed by itself. */
export interface LineFlag {
  code: 'unitsDisagree' | 'range' | 'fruit' | 'noUnit' | 'noAmount' | 'unusual' | 'swapped' | 'sibling' | 'about'
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
  /** Written as a count of fruit, or of eggs. */
  fruit?: { count: number; name: string }
  /** Said to lie on top, or to come in the glass; left out: with the rest. */
  into?: 'float' | 'glass'
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
  /** What a bare number is; default the house's first unit, oz, and ml from ten on. */
  bareUnit?: Unit
  fruitMl?: (fruit: string) => FruitMl | undefined
}

export { ASSUMED_FRUIT_ML } from './counted.ts'

const NUMBER = NUMBER_PATTERN
const UNIT_WORDS = UNIT_NAMES.flatMap((u) => [u, UNITS[u].label, ...UNITS[u].names])
  .map((w) => w.toLowerCase())
  .sort((a, b) => b.length - a.length)
  .map((w) => w.replace(/\./g, '\\.'))
const UNIT = `(?:${[...new Set(UNIT_WORDS)].join('|')})\\.?(?![a-z])`
/** Nobody measures these: the words of a line, not of what is poured. */
const HOW_MUCH_ABOUT =
  /^(?:about|approx\.?|approximately|around|roughly|circa|ca\.?|scant|heaped|heaping|generous|good|short|full|level|bare|just|~)\s+/i
const BETWEEN = String.raw`\s*(?:-|to|or)\s*`

/** Books differ by how large an ounce is; what differs by more than this was not rounded, it is wrong. */
const ROUNDING = 0.11
/** A bare number from here on is metric: nobody pours ten ounces of one thing. */
const LEAST_BARE_ML = 10

const FLOAT = /^(?:and )?(?:an? )?float of\s+|^(?:to )?float(?:ed)?(?: with)?[:,]?\s+/i
const TOP = /^(?:to )?top(?: up| off)?(?: it)?(?: with)?[:,]?\s+|^(?:add|lengthen with|finish with)\s+/i
const POURED = /^(?:pour|measure|use|take)\s+(?=\S*\d|[¼½¾⅓⅔⅛⅜⅝⅞]|half|an?\b|one\b|two\b)/i
const FLOATED = /[\s,(-]+(?:(?:to |as a |for a )?float(?:ed)?(?: on (?:top|the top))?|on top)\)?$/i
const TOPPED = /[\s,(-]+(?:to top(?: up)?|to fill|for the top)\)?$/i

/** What a line says first and last of where it goes, and the rest of it. */
function placeOf(line: string): { into?: 'float' | 'glass'; rest: string } {
  if (FLOAT.test(line)) return { into: 'float', rest: line.replace(FLOAT, '') }
  if (TOP.test(line)) {
    const isAdd = /^(?:add|finish)/i.test(line)
    return { ...(isAdd ? {} : { into: 'glass' as const }), rest: line.replace(TOP, '') }
  }
  if (FLOATED.test(line)) return { into: 'float', rest: line.replace(FLOATED, '') }
  if (TOPPED.test(line)) return { into: 'glass', rest: line.replace(TOPPED, '') }
  return { rest: line.replace(POURED, '') }
}

const ml = (value: number) => `${Number(value.toFixed(1))} ml`

/**
 * Reads a line as people write it: "1½ oz lime", "one and a half oz rum", "45 ml / 1.5 oz rum", "half a lime", "juice of 3
 * lime halves", "2 to 3 dashes bitters", "sugar syrup, 15 ml", "Float ½ oz black rum". What does not fit together is
 * flagged, with what was likely meant; the first amount written is the one that is taken.
 */
export function readLine(text: string, context: LineContext): ReadLine {
  const asWritten = text.trim()
  const plain = asWritten
    .replace(/^(?:[-*•·–—]|\d{1,2}[.)]\s(?=\S))\s*/, '')
    .replace(/[–—]/g, '-')
    .replace(/\s+/g, ' ')
  const { into, rest: line } = placeOf(plain)
  const { amount, ...found } =
    readCount(line, context) ?? readLeading(line, context) ?? readTrailing(line, context) ?? nothingRead(line)
  return { asWritten, amount: amount && { ...amount, asWritten }, ...found, ...(into ? { into } : {}) }
}

/** What one way of reading a line finds; the line as it was written is put to it afterwards. */
type Found = Omit<ReadLine, 'asWritten' | 'into'>

function nothingRead(line: string): Found {
  const flags: LineFlag[] = [{ code: 'noAmount', text: 'no amount was found; write one, like 1½ oz or 45 ml' }]
  return { amount: undefined, words: withoutMeasureWords(line), flags }
}

/** "half a lime", "juice of 1 lemon", "2 limes, juiced", "1 egg white". */
function readCount(line: string, { fruitMl }: LineContext): Found | undefined {
  const counted: CountedThing | undefined = readCounted(line)
  if (!counted) return undefined
  const { count, name, words, ofWhat, assumedMl } = counted
  const each = fruitMl?.(name) ?? { ml: assumedMl, basis: 'assumed' as const }
  const how = each.basis === 'measured' ? 'by the house’s pressings' : ofWhat.nobody
  return {
    amount: { value: Number((count * each.ml).toFixed(1)), unit: 'ml' },
    fruit: { count, name },
    words,
    flags: [{ code: 'fruit', text: `a count of ${ofWhat.what} is not a measure: ${ml(each.ml)} each, ${how}` }],
  }
}

const LEADING = new RegExp(`^(${NUMBER})(?:${BETWEEN}(${NUMBER}))?(?:\\s*(${UNIT}))?(.*)$`, 'i')
const SECOND = new RegExp(
  `^\\s*(?:\\/|\\(|\\[|=|or|,)\\s*(?:about |ca\\.? |approx\\.? |~)?(${NUMBER})(?:${BETWEEN}(?:${NUMBER}))?\\s*(${UNIT})\\s*[)\\]]?(.*)$`,
  'i',
)
const TRAILING = new RegExp(
  `^(.*?)(?:[,:]|\\s-)?\\s+\\(?(${NUMBER}(?:${BETWEEN}${NUMBER})?\\s*${UNIT}(?:\\s*(?:\\/|\\(|=|or).*)?)\\)?$`,
  'i',
)

/** "45 ml / 1.5 oz rum", "2-3 dashes bitters". */
function readLeading(line: string, context: LineContext): Found | undefined {
  const about = HOW_MUCH_ABOUT.exec(line)?.[0]
  const match = LEADING.exec(about ? line.slice(about.length) : line)
  const value = match?.[1] === undefined ? undefined : readNumber(match[1])
  if (!match || value === undefined || value <= 0) return undefined
  const [, written = '', upTo, unitWord, rest = ''] = match
  // "a splash of soda", "one big cube": a word alone measures nothing.
  if (!unitWord && !/[\d¼½¾⅓⅔⅛⅜⅝⅞⅕⅖⅗⅘⅙⅚]/.test(written)) return undefined
  // "2nd", "1.5%": no amount.
  if (!unitWord && /^[a-z%°]/i.test(rest)) return undefined
  const flags: LineFlag[] = []
  const unit = toUnit(unitWord)
  const amount: Amount = { value, unit: unit ?? context.bareUnit ?? (value >= LEAST_BARE_ML ? 'ml' : 'oz') }
  if (about && /scant|heap|generous|short|bare/i.test(about))
    flags.push({ code: 'about', text: `“${about.trim()}” is no measure: ${amountText(amount)} is taken` })
  const high = Math.max(value, (upTo === undefined ? undefined : readNumber(upTo)) ?? value)
  if (high > value) {
    const text = `a range: ${Number(value.toFixed(3))} to ${Number(high.toFixed(3))}; the lower end is taken`
    flags.push({ code: 'range', text, likely: { value: Number(((value + high) / 2).toFixed(3)), unit: amount.unit } })
  }
  if (!unit) flags.push({ code: 'noUnit', text: `no unit is written; taken as ${UNITS[amount.unit].label}` })
  const second = unit && SECOND.exec(rest)
  const other = second?.[1] === undefined ? undefined : readNumber(second[1])
  const otherUnit = toUnit(second?.[2])
  const hasSecond = other !== undefined && otherUnit !== undefined
  if (hasSecond)
    flags.push(...bothFlags(amount, { ...amount, value: high }, { value: other, unit: otherUnit }, context))
  const words = cleaned(hasSecond ? (second?.[3] ?? '') : rest)
  return { amount: { ...amount, value: Number(value.toFixed(4)) }, words, flags }
}

/** "lime juice, 1 oz", "soda (2 oz)". */
function readTrailing(line: string, context: LineContext): Found | undefined {
  const match = TRAILING.exec(line)
  if (!match?.[1] || !match[2] || !/[a-z]/i.test(match[1])) return undefined
  const read = readLeading(match[2], context)
  return read && { ...read, words: withoutMeasureWords(cleaned(match[1])) }
}

function toUnit(word: string | undefined): Unit | undefined {
  if (word === undefined) return undefined
  const wanted = word.toLowerCase().replace(/\.$/, '')
  return UNIT_NAMES.find((u) => {
    const names: readonly string[] = UNITS[u].names
    return u.toLowerCase() === wanted || UNITS[u].label === wanted || names.includes(wanted)
  })
}

/** Two amounts on one line: the same within rounding, or one of them is wrong. Of a range either end will do. */
function bothFlags(low: Amount, high: Amount, second: Amount, { kit }: LineContext): LineFlag[] {
  const [from, to, other] = [low, high, second].map((a) => volumeMlOfAmount(a, kit))
  if (!from || !to || !other) return []
  if (other >= from * (1 - ROUNDING) && other <= to * (1 + ROUNDING)) return []
  const ratio = other / from
  const times = [2, 3, 10].find((n) => Math.abs(ratio / n - 1) < 0.08 || Math.abs(1 / ratio / n - 1) < 0.08)
  const how =
    times === undefined
      ? `${Math.round(100 * (Math.max(ratio, 1 / ratio) - 1))} % apart`
      : `${{ 2: 'twice', 3: 'three times', 10: 'ten times' }[times]} as much`
  const [bigger, smaller] = ratio > 1 ? [second, low] : [low, second]
  const text = `${amountText(bigger)} (${ml(Math.max(from, other))}) is not ${amountText(smaller)} (${ml(Math.min(from, other))}): ${how}`
  return [{ code: 'unitsDisagree', text, likely: { value: second.value, unit: second.unit } }]
}

const cleaned = (words: string) =>
  words
    .replace(/^[\s,.:;)\]-]+(?:of\s+)?/i, '')
    .replace(/^of\s+(?:the\s+)?/i, '')
    .replace(/[\s,.;:(-]+$/, '')
    .trim()

/** "a splash of soda" → "soda": how much that is, somebody has to say. */
const withoutMeasureWords = (words: string) =>
  words
    .replace(
      /^(?:an? |some |the |a little )?(?:splash(?:es)?|touch|hint|drizzle|glug|dollop|pinch(?:es)?|handful|bit|shot|measure|little)(?: of)?\s+/i,
      '',
    )
    .replace(/^(?:some|a little|an?)\s+/i, '')
    .replace(/,?\s+(?:to taste|as needed|to fill|to top(?: up)?)$/i, '')
    .trim()
