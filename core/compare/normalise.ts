import type { HouseBook } from '../house/index.ts'
import { sugarGPer100MlOfBrix } from '../liquid/index.ts'
import { keysOf } from '../schema/keysOf.ts'
import { type Comparable, type ComparableLine, pouredMlOf, slotInsteadOf, timesLine } from './comparable.ts'

/** What makes versions comparable, in the order in which it is done. Each can be left out. */
export const NORMAL_STEPS = {
  oneServe: 'one serve of each',
  houseMeasures: 'in the house’s ounce, spoon and dash',
  slots: 'bottles that are gone as their slots',
  equalSugar: 'syrups at equal sugar',
  commonVolume: 'to the volume of the first',
} as const
export type NormalStep = keyof typeof NORMAL_STEPS
export const NORMAL_STEP_NAMES = keysOf(NORMAL_STEPS)

/** Those that are taken unless somebody says otherwise: they change nothing of what a version is. */
export const USUAL_STEPS: readonly NormalStep[] = ['oneServe', 'houseMeasures', 'slots']

/** A syrup of sugar and water, equal weights: 50 °Bx. */
export const EQUAL_SYRUP_G_PER_100_ML = sugarGPer100MlOfBrix(50)
/** Less sugar than this is no syrup, g/100 ml; more alcohol than that makes it a liqueur, g/100 ml. */
const LEAST_SUGAR_G_PER_100_ML = 20
const MOST_ALCOHOL_G_PER_100_ML = 1
/** Two volumes that are the same, as a part of one: whatever is multiplied afterwards, it stays so. */
const SAME_PART = 0.002
const isSame = (oneMl: number, otherMl: number) => Math.abs(oneMl - otherMl) <= SAME_PART * otherMl

/** What a step did to one side, in words. */
export interface Done {
  step: NormalStep
  key: string
  words: string
}

export interface Normalised {
  sides: Comparable[]
  done: Done[]
}

type Step = (side: Comparable, at: { book: HouseBook; firstMl: number }) => { side: Comparable; words: string[] }

const ml = (volumeMl: number) => `${Number(volumeMl.toFixed(volumeMl < 10 ? 1 : 0))} ml`

const toOneServe: Step = (side) => {
  if (side.serves === 1) return { side, words: [] }
  const lines = side.lines.map((l) => timesLine(l, 1 / side.serves))
  return { side: { ...side, serves: 1, lines }, words: [`one of ${side.serves} serves`] }
}

const toHouseMeasures: Step = (side) => {
  const lines = side.lines.map((l) => ({ ...l, written: l.counted }))
  // How something was written is seen beside it; that alone is not worth a word.
  return { side: { ...side, lines }, words: [] }
}

const toSlots: Step = (side, { book }) => {
  const words: string[] = []
  const lines = side.lines.map((line): ComparableLine => {
    const slot = slotInsteadOf(line.what, book)
    if (!slot) return line
    words.push(`${line.name} is gone: as ${slot.name}`)
    return { ...line, what: slot.slug, name: slot.name }
  })
  return { side: { ...side, lines }, words }
}

const isSyrup = ({ part, volumeMl, sugarG, alcoholG }: ComparableLine) =>
  part === 'sweet' &&
  volumeMl > 0 &&
  (100 * sugarG) / volumeMl >= LEAST_SUGAR_G_PER_100_ML &&
  (100 * alcoholG) / volumeMl <= MOST_ALCOHOL_G_PER_100_ML

const toEqualSugar: Step = (side) => {
  const words: string[] = []
  const lines = side.lines.map((line): ComparableLine => {
    if (!isSyrup(line)) return line
    const volumeMl = (100 * line.sugarG) / EQUAL_SYRUP_G_PER_100_ML
    if (isSame(volumeMl, line.volumeMl)) return line
    words.push(`${ml(line.volumeMl)} ${line.name} has the sugar of ${ml(volumeMl)} of an equal-weights syrup`)
    return { ...line, volumeMl, written: undefined, counted: undefined }
  })
  return { side: { ...side, lines }, words }
}

const toCommonVolume: Step = (side, { firstMl }) => {
  const poured = pouredMlOf(side)
  if (poured <= 0 || isSame(poured, firstMl)) return { side, words: [] }
  const factor = firstMl / poured
  const lines = side.lines.map((l) => timesLine(l, factor))
  return { side: { ...side, lines }, words: [`all × ${factor.toFixed(2)}: ${ml(poured)} poured as ${ml(firstMl)}`] }
}

const STEPS: Record<NormalStep, Step> = {
  oneServe: toOneServe,
  houseMeasures: toHouseMeasures,
  slots: toSlots,
  equalSugar: toEqualSugar,
  commonVolume: toCommonVolume,
}

/**
 * Makes versions comparable, step by step, always in the same order. Done again it changes nothing.
 * @param steps those that are wanted
 */
export function normalise(sides: readonly Comparable[], steps: ReadonlySet<NormalStep>, book: HouseBook): Normalised {
  let now = [...sides]
  const done: Done[] = []
  for (const step of NORMAL_STEP_NAMES) {
    if (!steps.has(step)) continue
    const first = now[0]
    const firstMl = first ? pouredMlOf(first) : 0
    now = now.map((was) => {
      const { side, words } = STEPS[step](was, { book, firstMl })
      done.push(...words.map((w) => ({ step, key: was.key, words: w })))
      return side
    })
  }
  return { sides: now, done }
}
