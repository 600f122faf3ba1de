/** The ounces that books and bars use, ml. */
import { keysOf } from '../schema/keysOf.ts'
export const OUNCES_ML = { round: 30, us: 29.5735, imperial: 28.4131 } as const

/** What a house's measures hold. Everything but ml and cl is a convention or a measurement. */
export interface MeasureKit {
  ounceMl: number
  barSpoonMl: number
  dashMl: number
  dropMl: number
  /** One spray of an atomiser; left out: as shipped. */
  sprayMl?: number | undefined
  teaspoonMl: number
  tablespoonMl: number
  cupMl: number
  /** One count of a free pour; left out: not poured by counts. */
  countMl?: number | undefined
}

/** What of a kit can be measured by the house. */
export const KIT_KEYS = [
  'ounceMl',
  'barSpoonMl',
  'dashMl',
  'dropMl',
  'sprayMl',
  'teaspoonMl',
  'tablespoonMl',
  'cupMl',
  'countMl',
] as const

/** Shipped starting values: the 30 ml ounce; spoons and dashes are assumed until measured. */
export const DEFAULT_KIT: MeasureKit = {
  ounceMl: OUNCES_ML.round,
  barSpoonMl: 5,
  dashMl: 0.8,
  dropMl: 0.05,
  teaspoonMl: 5,
  tablespoonMl: 15,
  cupMl: 240,
}

/** A quarter of an ounce: four counts make one. Assumed until the house times its own pourers. */
const DEFAULT_COUNT_ML = 7.5

/** An atomiser as they are sold (assumed: 0.07 to 0.15 ml); a house weighs ten of its own. */
export const DEFAULT_SPRAY_ML = 0.1

interface UnitRow {
  /** After an amount: "2 oz". */
  label: string
  /** Other ways to write it. */
  names: readonly string[]
  ml: (kit: MeasureKit, partMl: number | undefined) => number | undefined
  /** What an arrow key adds. */
  step: number
}

export const UNITS = {
  ml: { label: 'ml', names: ['mls', 'millilitre', 'milliliter', 'millilitres', 'milliliters'], ml: () => 1, step: 2.5 },
  cl: { label: 'cl', names: ['centilitre', 'centiliter'], ml: () => 10, step: 0.25 },
  oz: {
    label: 'oz',
    names: ['ounce', 'ounces', 'fl oz', 'fl. oz', 'fluid ounce', 'fluid ounces', 'oz.'],
    ml: (kit) => kit.ounceMl,
    step: 0.25,
  },
  dash: { label: 'dash', names: ['dashes'], ml: (kit) => kit.dashMl, step: 1 },
  drop: { label: 'drop', names: ['drops'], ml: (kit) => kit.dropMl, step: 1 },
  spray: {
    label: 'spray',
    names: ['sprays', 'spritz', 'spritzes', 'mist'],
    ml: (kit) => kit.sprayMl ?? DEFAULT_SPRAY_ML,
    step: 1,
  },
  barSpoon: {
    label: 'bar spoon',
    names: ['barspoon', 'bar spoons', 'barspoons', 'bar-spoon', 'bar-spoons', 'bsp'],
    ml: (kit) => kit.barSpoonMl,
    step: 0.5,
  },
  tsp: { label: 'tsp', names: ['teaspoon', 'teaspoons', 'tsp.'], ml: (kit) => kit.teaspoonMl, step: 0.25 },
  tbsp: { label: 'tbsp', names: ['tablespoon', 'tablespoons', 'tbsp.'], ml: (kit) => kit.tablespoonMl, step: 0.5 },
  cup: { label: 'cup', names: ['cups'], ml: (kit) => kit.cupMl, step: 0.25 },
  count: {
    label: 'count',
    names: ['counts'],
    ml: (kit) => kit.countMl ?? DEFAULT_COUNT_ML,
    step: 1,
  },
  part: { label: 'part', names: ['parts'], ml: (_kit, partMl) => partMl, step: 0.25 },
} as const satisfies Record<string, UnitRow>

export type Unit = keyof typeof UNITS

export const UNIT_NAMES = keysOf(UNITS)

/** What comes by the piece: half of one can be poured, a tenth not. */
export const isCounted = (unit: Unit): boolean => unit === 'dash' || unit === 'drop' || unit === 'spray'

/** An exact amount, with the words it was written in kept for ever. */
export interface Amount {
  value: number
  unit: Unit
  asWritten?: string
}

/** Volume in ml, or undefined for parts when nobody said how large a part is. */
export function volumeMlOfAmount(amount: Amount, kit: MeasureKit, partMl?: number): number | undefined {
  const perUnit = UNITS[amount.unit].ml(kit, partMl)
  return perUnit === undefined ? undefined : amount.value * perUnit
}

/** The unit that a word names, or undefined. */
export function unitNamed(word: string): Unit | undefined {
  const wanted = word.trim().toLowerCase()
  for (const unit of UNIT_NAMES) {
    const row: UnitRow = UNITS[unit]
    if (unit.toLowerCase() === wanted || row.label === wanted || row.names.includes(wanted)) return unit
  }
  return undefined
}
