/** What of the menu is outside of its standard, and how far. Plain functions. */

import type { PouredMenu } from '@conch/contract'
import { type Band, MEASURE_NAMES, MEASURES, type MeasureName, type Predicted, standingOf } from '@conch/core/drink'

type Line = PouredMenu['chapters'][number]['drinks'][number]

/** A measure that left its band. */
export interface OffMeasure {
  measure: MeasureName
  predicted: Predicted
  band: Band
  locked: number | undefined
  /** How far beyond the nearer end, in the measure's own tolerance. */
  far: number
}

/** A drink at a well that is not what it promises. */
export interface Adrift {
  drink: string
  name: string
  version: number
  well: string
  off: OffMeasure[]
  far: number
}

/** Where a drink at a well is outside, the measure that is furthest off first; undefined: nowhere, or not known yet. */
export function adriftOf(line: Line, well: string): Adrift | undefined {
  const { now, standard, locked = {}, drink, name, version } = line
  if (!now || now.isOld) return undefined
  const off = MEASURE_NAMES.flatMap((measure): OffMeasure[] => {
    const predicted = now.predictions[measure]
    const band = standard[measure]
    const standing = standingOf(predicted, band)
    if (!predicted || !band || (standing !== 'below' && standing !== 'above')) return []
    const beyond = standing === 'below' ? band.low - predicted.value : predicted.value - band.high
    return [{ measure, predicted, band, locked: locked[measure], far: beyond / MEASURES[measure].tolerance }]
  }).sort((a, b) => b.far - a.far)
  const [first] = off
  return first && { drink, name, version, well, off, far: first.far }
}

/** Everything that is adrift at every well, the furthest off first. */
export function adriftOn(menus: readonly { well: string; menu: PouredMenu }[]): Adrift[] {
  return menus
    .flatMap(({ well, menu }) => menu.chapters.flatMap((c) => c.drinks.flatMap((d) => adriftOf(d, well) ?? [])))
    .sort((a, b) => b.far - a.far || a.name.localeCompare(b.name, 'en'))
}
