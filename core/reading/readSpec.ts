import { METHODS } from '../cold/index.ts'
import type { DrinkDocument, Stage } from '../drink/index.ts'
import { bySlug, type HouseBook, type Ingredient, isWeighed, nameApart, nameIn } from '../house/index.ts'
import { amountText, type FruitMl, type LineFlag, type ReadLine, readLine, volumeMlOfAmount } from '../measure/index.ts'
import { type Match, matchIngredient, matchSlot, sureMatch, wordsOf } from './matchIngredient.ts'
import { garnishesOf, glassNamed, MOST_S, type ReadSentence, readSentence, type ServeIce } from './readMethod.ts'
import { isUnusual, likelyAmount, siblingAmount, type Usual } from './usualAmount.ts'

/** A pour as it was read: what it may be, and what a person should look at. */
export interface SpecLine extends ReadLine {
  matches: Match[]
  /** Slug of what it surely is; else a person chooses. */
  sure: string | undefined
  /** Slots that it may name instead, and the one that it surely names when it names no bottle. */
  slots: Match[]
  sureSlot: string | undefined
}

/** What became of a piece of the text: in their order the pieces are the text. */
export interface ReadPiece {
  text: string
  as: 'name' | 'pour' | 'method' | 'glass' | 'garnish' | 'serves' | 'asked'
}

export interface ReadSpec {
  name: string | undefined
  lines: SpecLine[]
  stages: Stage[]
  serveIce: ServeIce[]
  glass: string | undefined
  garnish: string[]
  hasFlame: boolean
  serves: number
  /** Written as a range, "serves 2-4": up to so many. */
  servesUpTo?: number
  /** What is none of these, as written: a person keeps it as a note, or leaves it out. */
  unplaced: string[]
  /** What was not written and is ours, in words. */
  ours: string[]
  pieces: ReadPiece[]
}

export interface SpecContext {
  book: HouseBook
  /** What is usually poured of something here. */
  usual: Usual
  fruitMl?: (fruit: string) => FruitMl | undefined
  /** The well whose scoops are meant; left out: the house's first. */
  well?: string
  /** An older version of the same drink: a syrup where it has a purée is asked about. */
  older?: DrinkDocument
  /** Every other version of it. */
  siblings?: readonly DrinkDocument[]
}

const SERVES =
  /^(?:serves|for|makes|yield(?:s)?|portions)\s*:?\s*(?:about )?(\d{1,2}|one|two|three|four|six|eight)(?:\s*(?:-|–|to|or)\s*(\d{1,2}))?\s*(?:people|persons|guests|drinks|servings|portions|glasses)?\.?$/i
const SERVES_WORDS: Record<string, number> = { one: 1, two: 2, three: 3, four: 4, six: 6, eight: 8 }
const MOST_SERVES = 12
const GARNISH = /^(?:no garnish\.?|garnish(?:ed)?\s*(?:with|:|-|–|—)?\s*(.*))$/i
const GLASS = /^(?:glass(?:ware)?|serve[d]?)\s*(?:in|:|-)?\s*(.+)$/i
/** On the rim, not in the drink. */
const GARNISH_WORDS =
  /\b(?:wheels?|wedges?|twists?|peels?|zest|sprigs?|lea(?:f|ves)|slices?|fronds?|umbrella|pick|cherry|cherries|flowers?|orchid|nutmeg|shells?|pineapple spear|stick|half shell)\b/i
const DIGIT = /[\d¼½¾⅓⅔⅛⅜⅝⅞⅕⅙]/

/**
 * Reads a whole recipe as it is pasted, line by line. Nothing is guessed silently and nothing is lost: each piece of the
 * text is placed, or a person is asked about it.
 */
export function readSpec(text: string, context: SpecContext): ReadSpec {
  const spec: ReadSpec = {
    name: undefined,
    lines: [],
    stages: [],
    serveIce: [],
    glass: undefined,
    garnish: [],
    hasFlame: false,
    serves: 1,
    unplaced: [],
    ours: [],
    pieces: [],
  }
  const lines = text
    .split(/\r?\n/)
    .map((l) => l.trim())
    .filter(Boolean)
  lines.forEach((line, i) => {
    const said = readHead(line, spec, context)
    if (said) spec.pieces.push({ text: line, as: said })
    else if (i === 0 && lines.length > 1 && isTitle(line, context)) {
      spec.name = line.replace(/[:.]$/, '')
      spec.pieces.push({ text: line, as: 'name' })
    } else spec.pieces.push({ text: line, as: readRest(line, spec, context) })
  })
  // Only now is known for how many it is.
  for (const line of spec.lines) if (line.sure) flagUnusual(line, line.sure, spec.serves, context)
  sayWhatIsOurs(spec, context)
  return spec
}

/** A line that begins with what it is about. @returns about what; undefined when it is none */
function readHead(line: string, spec: ReadSpec, { book }: SpecContext): ReadPiece['as'] | undefined {
  const serves = SERVES.exec(line)
  if (serves) {
    readServes(serves, spec)
    return 'serves'
  }
  const garnish = GARNISH.exec(line)
  if (garnish) {
    spec.garnish.push(...garnishesOf(garnish[1] ?? ''))
    return 'garnish'
  }
  const glass = GLASS.exec(line)?.[1]
  const inGlass = glass && !DIGIT.test(line) ? glassNamed(glass, book) : undefined
  if (!inGlass) return undefined
  spec.glass = inGlass
  return 'glass'
}

function readServes(match: RegExpExecArray, spec: ReadSpec): void {
  const count = (word: string | undefined) =>
    word === undefined ? undefined : (SERVES_WORDS[word.toLowerCase()] ?? Number(word))
  const low = count(match[1]) ?? 1
  const high = count(match[2])
  spec.serves = Math.min(MOST_SERVES, Math.max(1, low))
  if (high !== undefined && high > low) spec.servesUpTo = Math.min(MOST_SERVES, high)
  if (low > MOST_SERVES) spec.unplaced.push(match[0])
}

function sentenceOf(line: string, { book, well }: SpecContext): ReadSentence {
  const at = bySlug(book.wells, well) ?? book.wells[0]
  return readSentence(line, { book, ice: { kit: book.settings.kit, scoops: at?.scoops ?? [] } })
}

/** The first line is the name, unless it plainly says what is poured or done. */
function isTitle(line: string, context: SpecContext): boolean {
  const read = readLine(line, lineContext(context))
  if (read.fruit || (read.amount && !read.flags.some((f) => f.code === 'noUnit'))) return false
  if (read.amount && isOnShelf(read.words, context.book)) return false
  const done = sentenceOf(line, context)
  const isDone = done.isMethod && (DIGIT.test(line) || done.glass !== undefined || done.unread.length === 0)
  return !(isDone && /[,.]|\bice\b|strain|\bs\b/i.test(line))
}

const STARTS_WITH_POUR =
  /^(?:float|top|add|lengthen|finish|pour|[-*•·–—]?\s*[\d.,¼½¾⅓⅔⅛⅜⅝⅞⅕⅙]|an? |one |two |three |four |half |juice)/i

/** What is poured, what is done, or what nobody can place. */
function readRest(line: string, spec: ReadSpec, context: SpecContext): ReadPiece['as'] {
  const read = readLine(line, lineContext(context))
  const hasUnit = read.amount !== undefined && !read.flags.some((f) => f.code === 'noUnit')
  const isOnIt = isOnShelf(read.words, context.book)
  const done = sentenceOf(line, context)
  const isPour = hasUnit && !isAboutIce(read)
  const isPlainly = isPour && (STARTS_WITH_POUR.test(line) || isPourable(read, context.book))
  if (!isPlainly && done.isMethod && !(read.amount && isOnIt && done.stages.length === 0)) {
    addSentence(done, line, spec, context)
    return 'method'
  }
  if (!isPlainly && read.amount && GARNISH_WORDS.test(read.words) && !isOnIt) {
    spec.garnish.push(line.replace(/^[-*•·]\s*/, ''))
    return 'garnish'
  }
  if (isOnIt || isPour) {
    spec.lines.push(specLine(read, context))
    return 'pour'
  }
  spec.unplaced.push(line)
  return 'asked'
}

function addSentence(done: ReadSentence, text: string, spec: ReadSpec, context: SpecContext): void {
  const before = spec.stages.at(-1)
  for (const stage of done.stages) {
    // "Stir" of what is shaken already, with neither ice nor seconds: to be looked at, not another stage.
    const isLoose = spec.stages.length > 0 && stage.ice === undefined && stage.durationS === undefined
    if (isLoose || spec.stages.length >= MOST_STAGES) spec.unplaced.push(text)
    else spec.stages.push(stage)
  }
  if (done.pour) {
    const last = spec.stages.at(-1)
    if (last) last.pour = done.pour
    else spec.unplaced.push(text)
  }
  if (done.seconds !== undefined) {
    if (before && before.durationS === undefined && done.seconds <= MOST_S) before.durationS = done.seconds
    else spec.unplaced.push(text)
  }
  spec.serveIce.push(...done.serveIce)
  spec.glass ??= done.glass
  spec.garnish.push(...done.garnish)
  spec.hasFlame ||= done.hasFlame
  for (const clause of done.pours) spec.lines.push(specLine(readLine(clause, lineContext(context)), context))
  spec.unplaced.push(...done.unread)
}

const MOST_STAGES = 4

const isAboutIce = ({ words }: ReadLine) => /\bice\b|\bcubes?\b/i.test(words) && !/\b(?:cream|tea|wine)\b/i.test(words)

const lineContext = ({ book, fruitMl }: SpecContext) => ({ kit: book.settings.kit, ...(fruitMl ? { fruitMl } : {}) })

/** What nobody wrote: said, so that nobody takes it for the recipe's. */
function sayWhatIsOurs(spec: ReadSpec, { book }: SpecContext): void {
  if (spec.lines.length === 0) return
  if (spec.stages.length === 0) spec.ours.push('no chill is written')
  for (const stage of spec.stages) {
    if (!stage.method) continue
    const { label, usual } = METHODS[stage.method]
    if (stage.durationS === undefined) spec.ours.push(`${label}: ${usual.durationS} s`)
    if (stage.ice === undefined) {
      const ice = usual.ice.map((i) => `${i.massG} g ${ICE_LABELS[i.kind] ?? i.kind}`).join(' and ')
      spec.ours.push(`${label}: ${ice}`)
    } else if (stage.ice.some((i) => i.asWritten === undefined))
      spec.ours.push(`${label}: ${stage.ice.map((i) => `${i.massG} g`).join(' and ')} of it`)
    if (stage.pour === undefined) spec.ours.push(`${label}: ${POUR_LABELS[usual.pour]}`)
  }
  for (const { kind, massG, isOurs } of spec.serveIce)
    if (isOurs) spec.ours.push(`in the glass: ${massG} g ${ICE_LABELS[kind] ?? kind}`)
  if (!spec.glass) spec.ours.push(book.glasses.length > 0 ? 'no glass of the house is named' : 'the house has no glass')
}
const ICE_LABELS: Record<string, string> = { machineCube: 'cubes', crushed: 'crushed', pebble: 'pebble' }
const POUR_LABELS = { open: 'open pour', gated: 'gated pour', strained: 'strained', doubleStrained: 'double strained' }

const pourable = (book: HouseBook): Ingredient[] => book.ingredients.filter((i) => !isWeighed(i.kind))
const isOnShelf = (words: string, book: HouseBook) => sureMatch(matchIngredient(words, pourable(book))) !== undefined
const isPourable = ({ words }: ReadLine, book: HouseBook) =>
  isOnShelf(words, book) || matchIngredient(words, pourable(book)).length > 0

function specLine(read: ReadLine, context: SpecContext): SpecLine {
  const matches = matchIngredient(read.words, pourable(context.book))
  const sure = sureMatch(matches)
  const flags = [...read.flags]
  const swapped = sure && context.older && swappedWith(sure, context.book, context.older)
  if (swapped) flags.push(swapped)
  const slots = matchSlot(read.words, context.book.slots ?? [])
  return { ...read, flags, matches, sure, slots, sureSlot: sure ? undefined : sureMatch(slots) }
}

/** Why this may be a slip: the older version has the purée of a fruit where this has its syrup, or the other way round. */
export function swappedWith(slug: string, book: HouseBook, older: DrinkDocument): LineFlag | undefined {
  const now = bySlug(book.ingredients, slug)
  if (!now || (now.kind !== 'syrup' && now.kind !== 'puree')) return undefined
  const other = now.kind === 'syrup' ? 'puree' : 'syrup'
  if (older.pours.some((p) => p.ingredient === slug)) return undefined
  const fruit = wordsOf(now.name).filter((w) => w !== 'syrup' && w !== 'puree')
  for (const pour of older.pours) {
    const was = bySlug(book.ingredients, pour.ingredient)
    if (was?.kind === other && wordsOf(was.name).some((w) => fruit.includes(w)))
      return {
        code: 'swapped',
        text: `the older version has ${nameApart(was, book.ingredients)} here: a syrup and a purée of one fruit are easily swapped`,
        likelyIngredient: was.slug,
      }
  }
  return undefined
}

/**
 * Why this is a bottle that a slot refuses: what the older version pours here fills that slot, and this one looks like it
 * and does not. Undefined where no slot speaks of it.
 */
export function refusedHere(slug: string, book: HouseBook, older: DrinkDocument): LineFlag | undefined {
  if (older.pours.some((p) => p.ingredient === slug)) return undefined
  for (const slot of book.slots ?? []) {
    const refused = slot.refused.find((r) => r.ingredient === slug)
    const isAsked = older.pours.some(
      (p) => p.slot === slot.slug || slot.candidates.some((c) => c.ingredient === p.ingredient),
    )
    if (!refused || !isAsked) continue
    const name = nameIn(book.ingredients, slug)
    return {
      code: 'swapped',
      text: `${name} is refused for “${slot.name}”, which the older version pours${refused.reason ? `: ${refused.reason}` : ''}`,
      ...(slot.pick ? { likelyIngredient: slot.pick } : {}),
    }
  }
  return undefined
}

/**
 * Flags an amount that this house does not usually pour of this, with what was likely meant where a known slip explains
 * it; and one that every other version of the drink pours otherwise. Of two amounts on one line the unusual one is not
 * proposed.
 */
export function flagUnusual(
  line: Pick<SpecLine, 'amount' | 'flags'>,
  slug: string,
  serves: number,
  { book, usual, siblings = [] }: Pick<SpecContext, 'book' | 'usual' | 'siblings'>,
): void {
  const ingredient = bySlug(book.ingredients, slug)
  const { amount } = line
  const { kit } = book.settings
  if (!ingredient || !amount) return
  const name = nameApart(ingredient, book.ingredients)
  const range = usual(ingredient)
  const isOdd = range !== undefined && isUnusual(amount, range, kit, serves)
  if (range)
    line.flags = line.flags.map(({ likely, ...flag }) => {
      const isWorse = likely && isUnusual(likely, range, kit, serves) && (!isOdd || flag.code === 'unitsDisagree')
      return likely && !isWorse ? { ...flag, likely } : flag
    })
  if (range && isOdd) {
    const words = `${Number(range.lowMl.toFixed(1))} to ${Number(range.highMl.toFixed(0))} ml`
    const whose = range.basis === 'house' ? 'this house pours' : 'one usually pours'
    const likely = likelyAmount(amount, range, kit, serves)
    const text = `${amountText(amount)} of ${name}: ${whose} ${words}`
    line.flags = [...line.flags, { code: 'unusual', text, ...(likely ? { likely } : {}) }]
  }
  const sibling = siblingAmount(slug, siblings, kit)
  const [ml, siblingMl] = [amount, sibling].map((a) => a && volumeMlOfAmount(a, kit))
  if (sibling && ml && siblingMl && Math.abs(ml / serves / siblingMl - 1) > SIBLING_OFF) {
    const text = `${amountText(amount)} of ${name}: every other version pours ${amountText(sibling)}`
    line.flags = [...line.flags, { code: 'sibling', text, ...(serves === 1 ? { likely: sibling } : {}) }]
  }
}

/** A version may well pour a little more or less on purpose: from here on it is worth a word. */
const SIBLING_OFF = 0.1
