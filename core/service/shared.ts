/** A drink in a vessel that several glasses share, or that is filled several times for one: what is in it, and in each glass. */

import { METHODS, type Mixture, runStage, type StageRefusal } from '../cold/index.ts'
import {
  endStage,
  finishDrink,
  type GlassReport,
  type InHand,
  inItsVessel,
  outsideModel,
  type Predictions,
  predict,
  type ResolvedDrink,
  type Start,
  serveInGlass,
  startDrink,
  uncertaintyOf,
} from '../drink/index.ts'
import { ICE_G_PER_ML, scaleLiquid } from '../liquid/index.ts'
import { type AtSeconds, endsOf, handedOver, type MadeAt, withIceTimes, withPoursTimes } from '../means/index.ts'

/**
 * A drink on a well, poured so many times into one vessel and shared out over as many glasses; or a half or third of it,
 * poured so often into one glass.
 */
export interface Shared {
  /** One glass of it. */
  single: ResolvedDrink
  /** What is in the vessel: every pour so many times. */
  tin: ResolvedDrink
  /** For which the vessel is enough; below 1: a part of one. */
  glasses: number
  start: Start
  tinStart: Start
}

/** Whether a drink is made in a tin that several can share; else it is made in its glass. */
export const isShareable = ({ stages }: Pick<ResolvedDrink, 'stages'>): boolean => stages[0]?.inGlass === false

/**
 * So many times the pours, and about as many times the ice; later work in a vessel gets its ice, too.
 * @param glasses a whole number, or one part of so many
 */
export function sharedOf(single: ResolvedDrink, glasses: number, iceTimes = glasses): Shared {
  const poured = glasses === 1 ? single : withPoursTimes(single, glasses)
  const iced = withIceTimes(poured, iceTimes)
  const tin: ResolvedDrink = {
    ...iced,
    stages: iced.stages.map((stage, i) => {
      if (i === 0 || stage.inGlass || glasses === 1) return stage
      const { charges, iceG } = stage.parameters
      const more = charges?.map((c) => ({ ...c, massG: c.massG * glasses }))
      return {
        ...stage,
        parameters: { ...stage.parameters, iceG: iceG * glasses, ...(more ? { charges: more } : {}) },
      }
    }),
  }
  return { single, tin, glasses, start: startDrink(single), tinStart: startDrink(tin) }
}

/** One glass's part of what was poured off: grams, ice and froth are shared out evenly. */
export function partOf(inHand: InHand, glasses: number): InHand {
  if (glasses === 1) return inHand
  const share = 1 / glasses
  const mixture: Mixture = {
    ...inHand.mixture,
    liquid: scaleLiquid(inHand.mixture.liquid, share),
    ice: inHand.mixture.ice.map((p) => ({ ...p, massG: p.massG * share })),
  }
  const { water, froth } = inHand
  return {
    ...inHand,
    mixture,
    water: { meltG: water.meltG * share, surfaceWaterG: water.surfaceWaterG * share },
    froth: { coarseMl: froth.coarseMl * share, fineMl: froth.fineMl * share },
  }
}

/** From the end of the first stage to one glass before it is filled; the rest of what is done in the vessel is done first. */
function toOneGlass(
  { tin, glasses, tinStart }: Shared,
  after: InHand,
  coarseness: number,
): { ok: true; part: InHand; nextStage: number } | StageRefusal {
  let now = after
  let next = 1
  for (let stage = tin.stages[next]; stage && !stage.inGlass; stage = tin.stages[++next]) {
    const parameters = inItsVessel(stage, tin)
    const ran = runStage(now.mixture, parameters, { coarseness })
    if (!ran.ok) return ran
    now = endStage(stage, now, tinStart, { ...ran, durationS: parameters.durationS }).next
  }
  return { ok: true, part: partOf(now, glasses), nextStage: next }
}

/** One of the glasses at hand-over for many seconds of the first stage; rising, those outside the model left out. */
export function alongShared(shared: Shared): MadeAt {
  const { single, tin, start, tinStart } = shared
  const uncertainty = uncertaintyOf(tin, tinStart.volumeBeforeIceMl)
  return (timesS, coarseness) =>
    endsOf(tin, tinStart, timesS, coarseness).flatMap(({ durationS, next }): AtSeconds[] => {
      const poured = toOneGlass(shared, next, coarseness)
      if (!poured.ok) return []
      const finished = finishDrink(single, start, poured.part, poured.nextStage, coarseness)
      if (!finished.ok) return []
      return [handedOver(durationS, finished, start.volumeBeforeIceMl, uncertainty)]
    })
}

/** One glass of a load as it is reported, after so many seconds of the first stage; or why it cannot be computed. */
export function glassOf(
  shared: Shared,
  durationS: number | undefined,
):
  | { ok: true; predictions: Predictions; report: GlassReport | undefined; part: InHand }
  | { ok: false; words: string } {
  const { single, tin, start, tinStart } = shared
  let part: InHand = start
  let next = 0
  if (tin.stages[0]) {
    const ended = endsOf(tin, tinStart, [durationS ?? tin.stages[0].parameters.durationS], 1)[0]
    if (!ended) return { ok: false, words: 'it is outside of what is known of ice and liquid' }
    const poured = toOneGlass(shared, ended.next, 1)
    if (!poured.ok) return { ok: false, words: outsideModel(poured) }
    part = poured.part
    next = poured.nextStage
  }
  const finished = finishDrink(single, start, part, next)
  if (!finished.ok) return { ok: false, words: outsideModel(finished) }
  const inGlass = serveInGlass(single, finished.inHand, start)
  if (inGlass && !inGlass.ok) return { ok: false, words: outsideModel(inGlass) }
  const uncertainty = uncertaintyOf(tin, tinStart.volumeBeforeIceMl)
  return {
    ok: true,
    predictions: predict(inGlass?.served, finished.inHand, start.volumeBeforeIceMl, uncertainty),
    report: inGlass?.report,
    part: finished.inHand,
  }
}

/** Whether a stage is worked by hand or machine for its seconds, rather than only standing. */
export const isWorked = ({ stages }: Pick<ResolvedDrink, 'stages'>): boolean => {
  const stage = stages[0]
  return stage !== undefined && (stage.method === undefined || METHODS[stage.method].stirringPowerW > 0)
}

/** Liquid and ice in a vessel as they lie there, ml: ice swims in the liquid, or stands as a heap above it. */
export function fullMlOf({ tin, tinStart }: Shared): number {
  const stage = tin.stages[0]
  const iceMl = (stage?.parameters.iceG ?? 0) / ICE_G_PER_ML
  return Math.max(tinStart.volumeBeforeIceMl + iceMl, iceMl / (stage?.packedSolidFraction ?? 1))
}
