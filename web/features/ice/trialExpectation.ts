import { predictTrial, type TrialDocument, trialIceOf } from '@conch/core/calibration'
import { METHODS } from '@conch/core/cold'
import { bySlug, type HouseBook } from '@conch/core/house'
import { figuresCountedOn, isSameStation } from '@conch/core/trials'

/** What the station is counted on to add, beside what was weighed; and by how much it usually differs, g. */
export function expectationOf(document: TrialDocument, book: HouseBook, at: { well: string; station: string }) {
  const key = { well: at.well, station: at.station, ice: trialIceOf(document) }
  const figures = figuresCountedOn(book, key)
  if (!figures) return undefined
  const p = predictTrial(document, figures, bySlug(book.wells, key.well)?.ice)
  if (!p) return undefined
  const known = book.calibrations?.find((c) => isSameStation(c, key))
  const off = known?.uncertaintyFraction ?? METHODS[document.method].uncertaintyFraction
  return {
    measuredG: document.afterG - p.afterG + p.addedG,
    fittedG: p.addedG,
    usualG: Math.max(4, 1.5 * off * p.addedG),
  }
}
