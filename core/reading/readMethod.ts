/** The sentences of a recipe: what is done, with which ice, into which glass, and what is poured on top at the end. */

import { type IceFill, METHODS, type Method } from '../cold/index.ts'
import type { Stage } from '../drink/index.ts'
import type { HouseBook } from '../house/index.ts'
import { NUMBER_PATTERN } from '../measure/index.ts'
import { wordsOf } from './matchIngredient.ts'
import { type IceContext, pieceG, portionOf, readSpokenIce, speaksOfIce } from './readIce.ts'

/** Ice in the glass as it was written: grams, or how far it comes. */
export interface ServeIce {
  kind: NonNullable<Stage['ice']>[number]['kind']
  massG?: number
  fill?: IceFill
  asWritten: string
  /** Nobody wrote how much: the grams are ours. */
  isOurs?: true
}

/** What a sentence says; of nothing in particular: what is left over of it. */
export interface ReadSentence {
  stages: Stage[]
  pour?: NonNullable<Stage['pour']>
  seconds?: number
  serveIce: ServeIce[]
  glass?: string
  garnish: string[]
  hasFlame: boolean
  /** Clauses that pour something: read as lines. */
  pours: string[]
  /** Clauses that are none of these. */
  unread: string[]
  /** Whether anything of it was understood. */
  isMethod: boolean
}

/** As people name them; the longer is looked for first. */
const METHOD_WORDS: readonly (readonly [RegExp, Method])[] = [
  [/flash[- ]?blend|drink mixer|spindle|\bflash(?:ed)?\b/i, 'flashBlend'],
  [/whip(?:ped)?[- ]?shake|\bwhip(?:ped)?\b/i, 'whipShake'],
  [/swizzle/i, 'swizzle'],
  [/(?:full|high|long)[- ]?blend|blend(?:er)?\b.*(?:slush|smooth)|frozen/i, 'fullBlend'],
  [/blend/i, 'flashBlend'],
  [/sha(?:ke|ken|king)\b.*\b(?:crushed|pebble)/i, 'crushedShake'],
  [/sha(?:ke|ken|king)\b/i, 'hardShake'],
  [/\bstir(?:red|ring)?\b/i, 'stir'],
  [/\bbuil[dt]\b/i, 'build'],
]
const POURS_AS_WRITTEN: readonly (readonly [RegExp, NonNullable<Stage['pour']>])[] = [
  [/(?:double|fine)[- ]?strain/i, 'doubleStrained'],
  [/open[- ]?pour|\bdump\b|pour unstrained|without straining|unstrained|pour (?:it )?all\b/i, 'open'],
  [/gated/i, 'gated'],
  [/strain/i, 'strained'],
]
/** The longest that anything is done, s. */
export const MOST_S = 120
/** Ice of which nobody says what kind. */
const USUAL_ICE = 'machineCube'
/** Pieces in a glass where nobody says how many. */
const SOME_CUBES = 4
const SECONDS = /(\d+(?:[.,]\d+)?)\s*(?:(?:-|to)\s*\d+(?:[.,]\d+)?\s*)?(?:s|secs?|seconds?)\b/i
const MINUTES = /\b(\d+(?:[.,]\d+)?|one|a)\s*min(?:ute)?s?\b/i
const BURSTS = /\b(two|three|four|2|3|4)\s+(?:short )?bursts?(?: of)?\b/i
const BURST_COUNTS: Record<string, number> = { two: 2, three: 3, four: 4 }

/** Where one thing ends and the next is begun: a comma between figures stays. */
const CLAUSE_ENDS =
  /(?:[.;,](?=\s|$)|\s+then\b|\s+and\s+(?=(?:then|strain|double|fine|pour|open|top|float|garnish|serve|fill|dump|shake|stir|flash|whip|blend|swizzle|add|lengthen|finish|pack)\b))+/gi

export const clausesOf = (text: string): string[] =>
  text
    .split(CLAUSE_ENDS)
    .map((c) => c.replace(/^(?:\s|then\b|and\b)+/i, '').trim())
    .filter(Boolean)

const POURING =
  /^(?:float|top(?! (?:it )?(?:up )?with (?:more )?(?:crushed|pebble|cracked|ice|cubes?))|lengthen|add|finish with|and top)\b/i
const GARNISH = /^garnish(?:ed)?\b(?:\s*(?:with|:|-))?\s*(.*)$/i
const SERVING =
  /\b(?:over|onto|on|fill(?:ed)?(?: the glass| it)?(?: up)? with|pack(?:ed)?(?: the glass)? with|top(?:ped)?(?: it)?(?: up)? with(?: more)?|into? (?:a |the )?glass (?:of|with)|with (?:fresh|more))\b(.*)$/i
const FLAME = /\bflam(?:e|ed|ing)|\bignite|\bset (?:it )?alight|\blight it\b/i
const FULL = /\b(?:fill|pack|top)(?:ed)?\b/i

const POUR_AMOUNT = new RegExp(
  `(?:^|[\\s(/–-])${NUMBER_PATTERN}\\s*(?:oz|ounces?|ml|cl|dash(?:es)?|drops?|sprays?|tsp|teaspoons?|tbsp|bar ?spoons?|bsp|parts?|counts?)(?![a-z])(.*)$`,
  'i',
)

/** Whether a clause pours something by volume: of ice that is said in ounces and cups it is not. */
function pourIn(clause: string): boolean {
  const rest = POUR_AMOUNT.exec(clause)?.[1]
  return rest !== undefined && !speaksOfIce(rest)
}

interface MethodContext {
  book: HouseBook
  ice: IceContext
}

/** Reads what is done, clause by clause. Nothing is lost: what is not understood comes back as it was written. */
export function readSentence(text: string, context: MethodContext): ReadSentence {
  const read: ReadSentence = {
    stages: [],
    serveIce: [],
    garnish: [],
    hasFlame: false,
    pours: [],
    unread: [],
    isMethod: false,
  }
  for (const clause of clausesOf(text.replace(/^(?:method|to make|directions)\s*:\s*/i, ''))) {
    if (!readClause(clause, read, context)) read.unread.push(clause)
    else read.isMethod = true
  }
  return read
}

/** Puts what a clause says to what was read before it. @returns whether it was understood */
function readClause(clause: string, read: ReadSentence, { book, ice }: MethodContext): boolean {
  const garnish = GARNISH.exec(clause)
  if (garnish) {
    read.garnish.push(...garnishesOf(garnish[1] ?? ''))
    return true
  }
  if (POURING.test(clause) && !(speaksOfIce(clause) && !/\d\s*(?:oz|ml|cl)/i.test(clause))) {
    read.pours.push(clause)
    return true
  }
  // What is poured in the middle of a sentence is no part of what is done: somebody has to say.
  if (pourIn(clause)) return false
  const hasFlame = FLAME.test(clause)
  if (hasFlame) read.hasFlame = true
  const glass = glassNamed(clause, book)
  if (glass) read.glass ??= glass
  const method = isOfOneWord(clause) ? undefined : methodIn(clause)
  const seconds = secondsIn(clause)
  const isOfIce = readIceAndChill(clause, method, seconds, read, ice)
  const isOfTime = seconds !== undefined && method === undefined
  // A time that belongs to nothing: of the whole clause a person has to say.
  if (isOfTime && !readLooseSeconds(seconds, read)) return false
  return readPour(clause, read) || isOfTime || isOfIce || glass !== undefined || hasFlame
}

/** What is done to the drink, and the ice in it and in the glass. */
function readIceAndChill(
  clause: string,
  method: Method | undefined,
  seconds: number | undefined,
  read: ReadSentence,
  ice: IceContext,
): boolean {
  const serving = SERVING.exec(clause)
  const served = serving?.[1] ?? ''
  const isServing = serving !== null && speaksOfIce(served) && (method === undefined || /\bover\b/i.test(clause))
  const isServed = isServing && readServeIce(clause, served, read, ice)
  if (method) {
    addStage(method, isServing ? clause.slice(0, serving.index) : clause, seconds, read, ice)
    return true
  }
  return isServed || (!isServing && speaksOfIce(clause) && readLooseIce(clause, read, ice))
}

/** Seconds without a word of what is done: of what was begun before. @returns whether they had a place */
function readLooseSeconds(seconds: number, read: ReadSentence): boolean {
  const last = read.stages.at(-1)
  if (!last) read.seconds = seconds
  else if (last.durationS === undefined) last.durationS = seconds
  else return false
  return true
}

function readPour(clause: string, read: ReadSentence): boolean {
  const pour = POURS_AS_WRITTEN.find(([words]) => words.test(clause))?.[1]
  if (!pour) return false
  const last = read.stages.at(-1)
  if (last) last.pour = pour
  else read.pour = pour
  return true
}

const usualIceG = (method: Method) => METHODS[method].usual.ice.reduce((sum, i) => sum + i.massG, 0)

function addStage(method: Method, clause: string, seconds: number | undefined, read: ReadSentence, ice: IceContext) {
  const isDry =
    /\b(?:dry|without ice|no ice)\b/i.test(clause) &&
    /sha(?:ke|ken)|blend|whip/i.test(clause) &&
    !/dry cubes/i.test(clause)
  const said = isDry ? undefined : readSpokenIce(clause, ice)
  const portions = isDry ? [] : said && portionsOf(said, usualIceG(method), clause, read)
  const bursts = BURSTS.exec(clause)?.[1]?.toLowerCase()
  const each = bursts && (BURST_COUNTS[bursts] ?? Number(bursts))
  const wholeS = seconds === undefined ? undefined : seconds * (each || 1)
  const isTooLong = wholeS !== undefined && wholeS > MOST_S
  if (isTooLong) read.unread.push(`${clause}: ${wholeS} s; at most ${MOST_S} s`)
  const stage: Stage = {
    method,
    ...(wholeS !== undefined && !isTooLong ? { durationS: wholeS } : {}),
    ...(each ? { bursts: each, restS: 5 } : {}),
    ...(portions ? { ice: portions } : {}),
  }
  const last = read.stages.at(-1)
  // "Build in the glass, swizzle": what is only put together is swizzled there.
  const isOnlyPut = last?.method === 'build' && last.durationS === undefined
  if (isOnlyPut) read.stages.pop()
  read.stages.push({ ...(isOnlyPut && last?.ice ? { ice: last.ice } : {}), ...stage })
}

type SpokenIce = NonNullable<ReturnType<typeof readSpokenIce>>

function portionsOf({ kind, amount }: SpokenIce, usualG: number, clause: string, read: ReadSentence): Stage['ice'] {
  if (!amount) return kind && [{ kind, massG: usualG }]
  if (!amount.ok) {
    read.unread.push(`${clause}: ${amount.reason}`)
    return undefined
  }
  return 'massG' in amount ? [portionOf(kind ?? USUAL_ICE, amount.massG, amount.asWritten)] : undefined
}

const MOST_LETTERS = 60
const writtenIce = (clause: string) => clause.slice(0, MOST_LETTERS)
const filled = (clause: string): IceFill => (/\bhalf\b/i.test(clause) ? 'halfGlass' : 'toLine')

/** "over one big cube", "fill with crushed". */
function readServeIce(clause: string, spokenText: string, read: ReadSentence, ice: IceContext): boolean {
  const said = readSpokenIce(spokenText, ice)
  if (!said || (said.amount && !said.amount.ok)) return false
  const { kind = USUAL_ICE, amount } = said
  const asWritten = writtenIce(clause)
  if (amount?.ok && 'massG' in amount) read.serveIce.push({ kind, massG: amount.massG, asWritten })
  else if (FULL.test(clause) || kind === 'crushed' || kind === 'pebble' || kind === 'cracked')
    read.serveIce.push({ kind, fill: filled(clause), asWritten })
  else read.serveIce.push({ kind, massG: SOME_CUBES * (pieceG(kind) ?? 0), asWritten, isOurs: true })
  return true
}

/** "with 120 g crushed ice", "add crushed ice": of what was begun before, else in the glass. */
function readLooseIce(clause: string, read: ReadSentence, ice: IceContext): boolean {
  const said = readSpokenIce(clause, ice)
  if (!said || (said.amount && !said.amount.ok)) return false
  const last = read.stages.at(-1)
  if (last?.method && last.ice === undefined && !FULL.test(clause)) {
    const portions = portionsOf(said, usualIceG(last.method), clause, read)
    if (portions) last.ice = portions
    return true
  }
  const { kind = USUAL_ICE, amount } = said
  const asWritten = writtenIce(clause)
  if (amount?.ok && 'massG' in amount) read.serveIce.push({ kind, massG: amount.massG, asWritten })
  else read.serveIce.push({ kind, fill: filled(clause), asWritten })
  return true
}

/** A participle on a line of its own says how something is, not what is to be done. */
const isOfOneWord = (clause: string) => /^(?:built|frozen|stirred)$/i.test(clause)

export function methodIn(clause: string): Method | undefined {
  return METHOD_WORDS.find(([words]) => words.test(clause))?.[1]
}

function secondsIn(clause: string): number | undefined {
  const seconds = SECONDS.exec(clause)?.[1]
  if (seconds) return Number(seconds.replace(',', '.'))
  const minutes = MINUTES.exec(clause)?.[1]
  if (!minutes) return undefined
  return 60 * (/^\d/.test(minutes) ? Number(minutes.replace(',', '.')) : 1)
}

/** "mint, spent lime shell" → each by itself; "none" → none. */
export function garnishesOf(text: string): string[] {
  if (/^(?:none|no|nothing|n\/a|-|—|–|without)?\.?$/i.test(text.trim())) return []
  return text
    .split(/,| and | & |\+/)
    .map((g) => g.replace(/\.$/, '').trim())
    .filter(Boolean)
}

export function glassNamed(text: string, book: HouseBook): string | undefined {
  const words = wordsOf(text)
  const scored = book.glasses.map((g) => {
    const own = wordsOf(g.name).filter((w) => w !== 'glass')
    return {
      slug: g.slug,
      of: own.length,
      score: own.length === 0 ? 0 : own.filter((w) => words.includes(w)).length / own.length,
    }
  })
  const best = scored.sort((a, b) => b.score - a.score || b.of - a.of)[0]
  return best && best.score >= 0.99 ? best.slug : undefined
}
