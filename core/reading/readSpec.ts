import { ICE_KINDS, type IceKind, METHODS, type Method } from '../cold/index.ts'
import type { DrinkDocument, Stage } from '../drink/index.ts'
import { bySlug, type HouseBook, type Ingredient, isWeighed } from '../house/index.ts'
import { amountText, type FruitMl, type LineFlag, type ReadLine, readLine, volumeMlOfAmount } from '../measure/index.ts'
import { type Match, matchIngredient, matchSlot, sureMatch, wordsOf } from './matchIngredient.ts'
import { likelyAmount, type Usual } from './usualAmount.ts'

/** A pour as it was read: what it may be, and what a person should look at. */
export interface SpecLine extends ReadLine {
  matches: Match[]
  /** Slug of what it surely is; else a person chooses. */
  sure: string | undefined
  /** Slots that it may name instead, and the one that it surely names when it names no bottle. */
  slots: Match[]
  sureSlot: string | undefined
}

export interface ReadSpec {
  name: string | undefined
  lines: SpecLine[]
  stage: Stage | undefined
  glass: string | undefined
  garnish: string[]
  serves: number
  /** Lines that are none of these, as written. */
  notes: string[]
}

export interface SpecContext {
  book: HouseBook
  /** What is usually poured of something here. */
  usual: Usual
  fruitMl?: (fruit: string) => FruitMl | undefined
  /** An older version of the same drink: a syrup where it has a purée is asked about. */
  older?: DrinkDocument
}

/** As people name them; the longer is looked for first. */
const METHOD_WORDS: [RegExp, Method][] = [
  [/flash[- ]?blend|drink mixer|spindle/i, 'flashBlend'],
  [/whip/i, 'whipShake'],
  [/swizzle/i, 'swizzle'],
  [/(full|high)[- ]?blend|blend(er)?\b.*slush|frozen/i, 'fullBlend'],
  [/blend/i, 'flashBlend'],
  [/shake.*(crushed|pebble)/i, 'crushedShake'],
  [/sha(ke|ken)/i, 'hardShake'],
  [/stir/i, 'stir'],
  [/build/i, 'build'],
]
const POURS_AS_WRITTEN: [RegExp, NonNullable<Stage['pour']>][] = [
  [/double[- ]?strain|fine[- ]?strain/i, 'doubleStrained'],
  [/open pour|dump|pour unstrained|without straining/i, 'open'],
  [/gated/i, 'gated'],
  [/strain/i, 'strained'],
]
const ICE_WORDS: [RegExp, IceKind][] = [
  [/crushed/i, 'crushed'],
  [/pebble|nugget/i, 'pebble'],
  [/cracked/i, 'cracked'],
  [/cube/i, 'machineCube'],
]

/** Reads a whole recipe as it is pasted, line by line. Nothing is guessed silently: what is not sure asks. */
export function readSpec(text: string, context: SpecContext): ReadSpec {
  const spec: ReadSpec = {
    name: undefined,
    lines: [],
    stage: undefined,
    glass: undefined,
    garnish: [],
    serves: 1,
    notes: [],
  }
  const lines = text
    .split(/\r?\n/)
    .map((l) => l.trim())
    .filter(Boolean)
  lines.forEach((line, i) => {
    const serves = /^(?:serves|for|makes)\s*:?\s*(\d{1,2})\b/i.exec(line)
    const garnish = /^garnish(?:ed)?\s*(?:with|:|-)?\s*(.+)$/i.exec(line)
    const glass = /^(?:glass|serve[d]?)\s*(?:in|:|-)?\s*(.+)$/i.exec(line)
    if (serves) spec.serves = Math.min(12, Math.max(1, Number(serves[1])))
    else if (garnish?.[1])
      spec.garnish.push(
        ...garnish[1]
          .split(/,| and /)
          .map((g) => g.trim())
          .filter(Boolean),
      )
    else if (glass?.[1] && glassNamed(glass[1], context.book)) spec.glass = glassNamed(glass[1], context.book)
    else if (isMethod(line)) {
      spec.stage = stageOf(line)
      spec.glass ??= glassNamed(line, context.book)
      if (spec.notes.length > 0 || !/^\w+$/.test(line)) spec.notes.push(line)
    } else {
      const read = readLine(line, lineContext(context))
      if (read.amount) spec.lines.push(specLine(read, context))
      else if (i === 0) spec.name = line.replace(/[:.]$/, '')
      else if (isOnShelf(read.words, context.book)) spec.lines.push(specLine(read, context))
      else spec.notes.push(line)
    }
  })
  // Only now is known for how many it is.
  for (const line of spec.lines) if (line.sure) flagUnusual(line, line.sure, spec.serves, context)
  return spec
}

const lineContext = ({ book, fruitMl }: SpecContext) => ({ kit: book.settings.kit, ...(fruitMl ? { fruitMl } : {}) })

/** A line begins with what is done, or is about ice and seconds only. */
function isMethod(line: string): boolean {
  return (
    /^(method\s*:|then\b|add (crushed|ice)|flash|whip|shake|stir|blend|swizzle|build|pour|strain|top with (crushed|ice))/i.test(
      line,
    ) && !/^pour \d/i.test(line)
  )
}

function stageOf(line: string): Stage | undefined {
  const method = METHOD_WORDS.find(([words]) => words.test(line))?.[1]
  if (!method) return undefined
  const seconds = /(\d+(?:[.,]\d+)?)\s*(?:s\b|sec)/i.exec(line)?.[1]?.replace(',', '.')
  const grams = /(\d{2,4})\s*g\b/i.exec(line)?.[1]
  const kind = ICE_WORDS.find(([words]) => words.test(line))?.[1]
  const usual = METHODS[method].usual
  const pour = POURS_AS_WRITTEN.find(([words]) => words.test(line))?.[1]
  const massG = grams ? Number(grams) : usual.ice.reduce((sum, i) => sum + i.massG, 0)
  return {
    method,
    ...(seconds ? { durationS: Math.min(120, Number(seconds)) } : {}),
    ...(kind && kind in ICE_KINDS ? { ice: [{ kind, massG }] } : {}),
    ...(pour ? { pour } : {}),
  }
}

function glassNamed(text: string, book: HouseBook): string | undefined {
  const words = wordsOf(text)
  const scored = book.glasses.map((g) => {
    const own = wordsOf(g.name).filter((w) => w !== 'glass')
    return { slug: g.slug, score: own.length === 0 ? 0 : own.filter((w) => words.includes(w)).length / own.length }
  })
  const best = scored.sort((a, b) => b.score - a.score)[0]
  return best && best.score >= 0.99 ? best.slug : undefined
}

const pourable = (book: HouseBook): Ingredient[] => book.ingredients.filter((i) => !isWeighed(i.kind))
const isOnShelf = (words: string, book: HouseBook) => sureMatch(matchIngredient(words, pourable(book))) !== undefined

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
        text: `the older version has ${was.name} here: a syrup and a purée of one fruit are easily swapped`,
        likelyIngredient: was.slug,
      }
  }
  return undefined
}

/** Flags an amount that this house does not usually pour of this, with what was likely meant. */
export function flagUnusual(
  line: Pick<SpecLine, 'amount' | 'flags'>,
  slug: string,
  serves: number,
  { book, usual }: Pick<SpecContext, 'book' | 'usual'>,
): void {
  const ingredient = bySlug(book.ingredients, slug)
  const range = ingredient && usual(ingredient)
  const ml = line.amount && volumeMlOfAmount(line.amount, book.settings.kit)
  if (!ingredient || !range || !line.amount || ml === undefined) return
  const each = ml / serves
  if (each >= range.lowMl && each <= range.highMl) return
  const words = `${Number(range.lowMl.toFixed(1))} to ${Number(range.highMl.toFixed(0))} ml`
  const whose = range.basis === 'house' ? 'this house pours' : 'one usually pours'
  const likely = likelyAmount(line.amount, range, book.settings.kit, serves)
  const flag: LineFlag = {
    code: 'unusual',
    text: `${amountText(line.amount)} of ${ingredient.name}: ${whose} ${words}`,
    ...(likely ? { likely } : {}),
  }
  line.flags = [...line.flags, flag]
}
