import { z } from 'zod'
import { RANGES, within } from './ranges.ts'

/** What measures hold, ml: of a house, or of a source that has its own. */
export const measuresHoldSchema = z.object({
  ounceMl: within(RANGES.ounceMl),
  barSpoonMl: within(RANGES.barSpoonMl),
  dashMl: within(RANGES.dashMl),
  dropMl: within(RANGES.dropMl),
  sprayMl: within(RANGES.sprayMl).optional(),
  teaspoonMl: within(RANGES.teaspoonMl),
  tablespoonMl: within(RANGES.tablespoonMl),
  cupMl: within(RANGES.cupMl),
  /** One count of a free pour. */
  countMl: within(RANGES.countMl).optional(),
})
