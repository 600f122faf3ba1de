/** The house's measures: what one counts and weighs, and what is owned. Plain functions. */

import { WATER_G_PER_ML } from '@conch/core/liquid'
import type { MeasureKit, OwnedMeasure } from '@conch/core/measure'
import { RANGES } from '@conch/core/schema/ranges'

/** What is measured with water on the scale: how many, and what one is called. */
export const MEASURED_WITH_WATER = {
  dashMl: { label: 'dash', count: 10, ...RANGES.dashMl, how: 'ten dashes of water from the bitters bottle' },
  barSpoonMl: { label: 'bar spoon', count: 5, ...RANGES.barSpoonMl, how: 'five level bar spoons of water' },
  dropMl: { label: 'drop', count: 50, ...RANGES.dropMl, how: 'fifty drops of water from the dropper' },
  sprayMl: { label: 'spray', count: 10, ...RANGES.sprayMl, how: 'ten sprays of water from the atomiser' },
  teaspoonMl: { label: 'teaspoon', count: 5, ...RANGES.teaspoonMl, how: 'five level teaspoons of water' },
  countMl: { label: 'count', count: 16, ...RANGES.countMl, how: 'sixteen counts of water through your pourer' },
} as const satisfies Partial<Record<keyof MeasureKit, object>>
export type MeasuredKey = keyof typeof MEASURED_WITH_WATER

/** One of them in ml, from the weight of many; undefined outside of what it can be. */
export function mlFromWater(key: MeasuredKey, massG: number): number | undefined {
  const { count, low, high } = MEASURED_WITH_WATER[key]
  const ml = massG / count / WATER_G_PER_ML
  return ml >= low && ml <= high ? Number(ml.toFixed(3)) : undefined
}

/** "two-sided jigger: 30, 45" a line ↔ what the house owns. */
export function readMeasures(text: string): { ok: true; measures: OwnedMeasure[] } | { ok: false; reason: string } {
  const measures: OwnedMeasure[] = []
  for (const [i, line] of text.split('\n').entries()) {
    if (line.trim() === '') continue
    const [name = '', sizes = ''] = line.split(':')
    // A decimal comma would part one size in two: here a point it is.
    const volumesMl = sizes
      .split(',')
      .map((s) => s.replace('ml', '').trim())
      .filter(Boolean)
      .map(Number)
    if (name.trim() === '' || volumesMl.length === 0 || volumesMl.some((v) => !(v > 0 && v <= 1000)))
      return {
        ok: false,
        reason: `line ${i + 1}: write it like “two-sided jigger: 30, 45”, each more than 0 and at most 1000 ml`,
      }
    if (volumesMl.length > 8) return { ok: false, reason: `line ${i + 1} has ${volumesMl.length} sizes; at most 8` }
    measures.push({ name: name.trim(), volumesMl })
  }
  return { ok: true, measures }
}

export const writeMeasures = (measures: readonly OwnedMeasure[]) =>
  measures.map((m) => `${m.name}: ${m.volumesMl.join(', ')}`).join('\n')
