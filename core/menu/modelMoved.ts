import { MODEL_VERSION } from '../cold/index.ts'
import {
  type Band,
  type DrinkDocument,
  glassFor,
  MEASURE_NAMES,
  MEASURES,
  type MeasureName,
  type Standard,
  type Standing,
  standingOf,
} from '../drink/index.ts'
import { bySlug, type HouseBook } from '../house/index.ts'
import type { EditionLock } from './schema.ts'

/** A figure of a locked drink at one well: by the model of then, and by today's. */
export interface MovedMeasure {
  well: string
  measure: MeasureName
  was: number
  now: number
  /** Of today's figure to the standard that the drink was locked with. */
  standing: Standing
}

export interface MovedDrink {
  drink: string
  name: string
  version: number
  measures: MovedMeasure[]
  /** Why today's model says nothing of it, where it does not. */
  outside?: string
}

/** Differences smaller than this share of a measure's own tolerance are none. */
const SEEN_FRACTION = 0.25

/**
 * What the model of the ice alone changed of a menu: every drink of an edition with the house as it was locked, and with
 * what today's model makes of the same trials and of the gear that somebody typed for it.
 * @param today the book of today, for calibrations and stations
 */
export function modelMoved(lock: EditionLock, today: Pick<HouseBook, 'wells' | 'calibrations'>): MovedDrink[] {
  if (lock.model === MODEL_VERSION) return []
  const { calibrations: _, ...kept } = lock.book
  const book: HouseBook = {
    ...kept,
    wells: kept.wells.map((w) => ({ ...w, stations: bySlug(today.wells, w.slug)?.stations ?? w.stations })),
    ...(today.calibrations ? { calibrations: today.calibrations } : {}),
  }
  const drinks = lock.chapters.flatMap((c) => c.drinks)
  return drinks.flatMap(({ drink, name, version, document, byWell }): MovedDrink[] => {
    const measures: MovedMeasure[] = []
    let outside: string | undefined
    for (const { slug: well } of book.wells) {
      const was = byWell[well]?.result.predictions
      const glass = was && glassFor(document, book, well)
      if (!glass) continue
      if (!glass.ok) {
        outside ??= glass.problems[0]?.message
        continue
      }
      for (const measure of MEASURE_NAMES) {
        const before = was[measure]
        const after = glass.result.predictions[measure]
        if (!before || !after) continue
        if (Math.abs(after.value - before.value) < SEEN_FRACTION * MEASURES[measure].tolerance) continue
        const standing = standingOf(after, document.standard[measure])
        measures.push({ well, measure, was: before.value, now: after.value, standing })
      }
    }
    if (measures.length === 0 && outside === undefined) return []
    return [{ drink, name, version, measures, ...(outside === undefined ? {} : { outside }) }]
  })
}

/** Whether a figure has left what the drink promised. */
export const hasLeft = ({ standing }: MovedMeasure): boolean => standing === 'below' || standing === 'above'

/**
 * A standard taken again from the glass as it comes out today: bands that still hold it at every well stay; the others keep
 * their width, or take in what the wells differ by, around the middle of it.
 * @returns undefined where nothing has to change, or where a well cannot make the drink
 */
export function retakenStandard(document: DrinkDocument, book: HouseBook): Standard | undefined {
  const glasses = book.wells.map((w) => glassFor(document, book, w.slug))
  const standard: Standard = { ...document.standard }
  let changed = false
  for (const measure of MEASURE_NAMES) {
    const band = document.standard[measure]
    if (!band) continue
    const values: number[] = []
    for (const glass of glasses) {
      if (!glass.ok) return undefined
      const predicted = glass.result.predictions[measure]
      if (predicted) values.push(predicted.value)
    }
    if (values.every((v) => v >= band.low && v <= band.high)) continue
    standard[measure] = around(values, band, measure)
    changed = true
  }
  return changed ? standard : undefined
}

function around(values: readonly number[], band: Band, measure: MeasureName): Band {
  const { digits, tolerance } = MEASURES[measure]
  const [least, most] = [Math.min(...values), Math.max(...values)]
  const width = Math.max(band.high - band.low, most - least + tolerance)
  const middle = (least + most) / 2
  const low = measure === 'temperatureC' ? middle - width / 2 : Math.max(0, middle - width / 2)
  const rounded = (value: number) => Number(value.toFixed(digits))
  return { low: rounded(low), high: rounded(middle + width / 2) }
}
