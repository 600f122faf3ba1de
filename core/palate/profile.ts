import { STYLE_AXIS_NAMES, type StyleAxis } from '../schema/axes.ts'
import type { Flight, Style } from '../schema/palate.ts'
import type { StyleProfile, StyleReading } from '../schema/profile.ts'

/** Tasters further apart than this do not mean the same bottle; the page says so. */
export const DISAGREE_STEPS = 3

/** What was said of one bottle: line → taster → place. */
export type TastedWords = Map<StyleAxis, Map<string, number>>

/**
 * Adds one flight to what was said before: of each taster the newest word on each line counts.
 * @param words by bottle; flights come in the order in which they were tasted
 * @returns the bottles of which something was said
 */
export function taste(words: Map<string, TastedWords>, { by, document }: Flight): string[] {
  for (const { ingredient, style } of document.scores) {
    const lines: TastedWords = words.get(ingredient) ?? new Map()
    words.set(ingredient, lines)
    for (const [axis, place] of Object.entries(style) as [StyleAxis, number][]) {
      const tasters = lines.get(axis) ?? new Map<string, number>()
      lines.set(axis, tasters.set(by, place))
    }
  }
  return document.scores.map((s) => s.ingredient)
}

/** What all who tasted it say of a bottle: all tasters count alike. */
export function profileOfWords(lines: TastedWords): StyleProfile {
  return Object.fromEntries([...lines].map(([axis, tasters]) => [axis, readingOf([...tasters.values()])]))
}

/**
 * What the house's tasters say of every bottle: of each taster the newest word on each line counts,
 * and all tasters count alike.
 * @param flights in the order they were tasted
 */
export function profilesOf(flights: readonly Flight[]): Record<string, StyleProfile> {
  const words = new Map<string, TastedWords>()
  for (const flight of [...flights].sort((a, b) => a.id - b.id)) taste(words, flight)
  return Object.fromEntries([...words].map(([slug, lines]) => [slug, profileOfWords(lines)]))
}

function readingOf(places: readonly number[]): StyleReading {
  return {
    value: places.reduce((sum, p) => sum + p, 0) / places.length,
    low: Math.min(...places),
    high: Math.max(...places),
    tasters: places.length,
  }
}

/** The lines on which tasters are far apart. */
export function disagreements(profile: StyleProfile): StyleAxis[] {
  return STYLE_AXIS_NAMES.filter((axis) => {
    const reading = profile[axis]
    return reading !== undefined && reading.high - reading.low >= DISAGREE_STEPS
  })
}

/**
 * The profile of a mixture: the parts' places, each by its share of the volume. A line that one part
 * was not placed on is left out: half of it would be a guess.
 */
export function mixProfiles(parts: readonly { profile: StyleProfile; volumeMl: number }[]): StyleProfile {
  const volumeMl = parts.reduce((sum, p) => sum + p.volumeMl, 0)
  if (!(volumeMl > 0)) return {}
  const mixed: StyleProfile = {}
  for (const axis of STYLE_AXIS_NAMES) {
    const readings = parts.map((p) => ({ reading: p.profile[axis], share: p.volumeMl / volumeMl }))
    if (readings.some((r) => !r.reading)) continue
    const by = (key: 'value' | 'low' | 'high') =>
      readings.reduce((sum, r) => sum + (r.reading?.[key] ?? 0) * r.share, 0)
    mixed[axis] = {
      value: by('value'),
      low: by('low'),
      high: by('high'),
      tasters: Math.min(...readings.map((r) => r.reading?.tasters ?? 0)),
    }
  }
  return mixed
}

/** The bare places of a profile. */
export function placesOf(profile: StyleProfile): Style {
  return Object.fromEntries(Object.entries(profile).map(([axis, r]) => [axis, r.value]))
}
