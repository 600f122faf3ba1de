/** Causes in words. Plain functions. */

import { MEASURES, type MeasureName } from '@conch/core/drink'
import type { Cause, Causes } from '@conch/core/menu'
import { bareMeasureText } from '../../graphics/format.ts'

export function causeText(cause: Cause): string {
  switch (cause.kind) {
    case 'model':
      return 'the model of the ice'
    case 'rest':
      return 'what nothing on record explains'
    case 'pooled':
      return `${cause.changes.length} smaller changes: ${cause.changes.map(causeText).join(', ')}`
    case 'out':
      return `${cause.name}, out tonight`
    case 'lot':
      return `${cause.name}, lot ${cause.lot}`
    case 'recipe':
      return `${cause.name}, its recipe`
    case 'figures':
      return `${cause.name}, its figures`
    case 'slot':
      return `${cause.name}, what fills it`
    case 'glass':
      return `${cause.name}, its figures`
    case 'well':
      return `the ${cause.name}, its ice and air`
    case 'station':
      return `${cause.name}, its figures`
    case 'settings':
      return cause.name
  }
}

/** A share with its sign: "+0.7", "−0.2". */
export function shareText(measure: MeasureName, share: number): string {
  const text = bareMeasureText(measure, share)
  return share > 0 && Number(text.replace('−', '-')) !== 0 ? `+${text}` : text
}

/** The share of each cause in one measure, the largest first; what rounds to nothing is left out. */
export function sharesOf({ causes, measures }: Causes, measure: MeasureName): { cause: Cause; share: number }[] {
  const moved = measures[measure]
  if (!moved) return []
  const least = 0.5 * 10 ** -MEASURES[measure].digits
  return causes
    .map((cause, i) => ({ cause, share: moved.shares[i] ?? 0 }))
    .filter(({ share }) => Math.abs(share) >= least)
    .sort((a, b) => Math.abs(b.share) - Math.abs(a.share))
}
