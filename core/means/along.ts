import { clockSOf, iceGOf, runStage } from '../cold/index.ts'
import {
  endStage,
  type Finished,
  finishDrink,
  type InHand,
  inItsVessel,
  MEASURE_NAMES,
  type MeasureName,
  type Predictions,
  predict,
  type ResolvedDrink,
  type Standard,
  type Start,
  startDrink,
  uncertaintyOf,
} from '../drink/index.ts'

/** A drink as it would be handed over with so many seconds in its first stage. */
export interface AtSeconds {
  durationS: number
  predictions: Predictions
  /** Liquid that runs over the glass, ml. */
  overflowMl: number
  /** Ice left when it is handed over, g. */
  iceG: number
}

/** Overflow of this much is as bad as a figure at the edge of its band, ml. */
const OVERFLOW_ML = 1

/**
 * The glass at hand-over for many seconds of the first stage: one run of it, ended at each of them. Seconds that are
 * outside the model are left out.
 * @param timesS rising, s
 * @param coarseness as for runStage
 */
export function along(drink: ResolvedDrink, timesS: readonly number[], coarseness = 10): AtSeconds[] {
  const start = startDrink(drink)
  const uncertainty = uncertaintyOf(drink, start.volumeBeforeIceMl)
  return endsOf(drink, start, timesS, coarseness).flatMap(({ durationS, next }): AtSeconds[] => {
    const finished = finishDrink(drink, start, next, 1, coarseness)
    if (!finished.ok) return []
    return [handedOver(durationS, finished, start.volumeBeforeIceMl, uncertainty)]
  })
}

/** A finished drink as it is handed over after so many seconds. @param uncertaintyFraction of its dilution */
export function handedOver(
  durationS: number,
  { inHand, served }: Extract<Finished, { ok: true }>,
  volumeBeforeIceMl: number,
  uncertaintyFraction: number,
): AtSeconds {
  return {
    durationS,
    predictions: predict(served, inHand, volumeBeforeIceMl, uncertaintyFraction),
    overflowMl: served?.fill.overflowMl ?? 0,
    iceG: served ? iceGOf(served.body) : 0,
  }
}

/**
 * What goes on from the first stage, poured as it says, for many seconds of it: one run, ended at each of them. Seconds that
 * are outside the model are left out.
 * @param timesS rising, s
 * @param coarseness as for runStage
 */
export function endsOf(
  drink: ResolvedDrink,
  start: Start,
  timesS: readonly number[],
  coarseness: number,
): { durationS: number; next: InHand }[] {
  const stage = drink.stages[0]
  const last = timesS[timesS.length - 1]
  if (!stage || last === undefined) return []
  const own = inItsVessel(stage, drink)
  const end = (durationS: number, ran: Omit<Parameters<typeof endStage>[3], 'durationS'>) => ({
    durationS,
    next: endStage(stage, start, start, { ...ran, durationS }).next,
  })
  // Bursts are no beginnings of longer bursts: each is run by itself.
  if ((own.bursts ?? 1) > 1 && (own.restS ?? 0) > 0) {
    return timesS.flatMap((durationS) => {
      const ran = runStage(start.mixture, { ...own, durationS }, { coarseness })
      return ran.ok ? [end(durationS, ran)] : []
    })
  }
  const waitS = own.waitS ?? 0
  const parameters = { ...own, bursts: 1, durationS: last }
  const sampleS = timesS.map((t) => Math.min(t + waitS, clockSOf(parameters)))
  // Where it passes a limit of the model there are only the seconds before that.
  const ran = runStage(start.mixture, parameters, { sampleS, coarseness, keepsStates: true })
  return timesS.flatMap((durationS, i) => {
    const after = ran.states[i]
    const sample = ran.samples[i]
    if (!after || !sample) return []
    const { surfaceWaterG } = ran
    return [end(durationS, { after, surfaceWaterG, meltG: sample.addedWaterG - surfaceWaterG })]
  })
}

/** A measure that is not where the standard wants it. */
export interface Miss {
  measure: MeasureName | 'overflow'
  value: number
  /** Below or above the band. */
  side: 'below' | 'above'
  /** How far outside, in half widths of the band. */
  by: number
}

/**
 * How far a glass is from the standard: 0 in the middle of every band, 1 with the worst measure at
 * its edge, above 1 outside. An overflow counts as a measure of its own.
 */
export function distanceFrom(
  { predictions, overflowMl }: Pick<AtSeconds, 'predictions' | 'overflowMl'>,
  standard: Standard,
): { worst: number; misses: Miss[] } {
  let worst = overflowMl / OVERFLOW_ML
  const misses: Miss[] =
    overflowMl >= OVERFLOW_ML ? [{ measure: 'overflow', value: overflowMl, side: 'above', by: overflowMl }] : []
  for (const measure of MEASURE_NAMES) {
    const band = standard[measure]
    const value = predictions[measure]?.value
    if (!band || value === undefined) continue
    const half = Math.max(1e-6, (band.high - band.low) / 2)
    const off = (value - (band.low + band.high) / 2) / half
    worst = Math.max(worst, Math.abs(off))
    if (Math.abs(off) > 1 + 1e-9)
      misses.push({ measure, value, side: off < 0 ? 'below' : 'above', by: Math.abs(off) - 1 })
  }
  return { worst, misses: misses.sort((a, b) => b.by - a.by) }
}
