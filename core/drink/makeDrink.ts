import {
  type Mixture,
  pourOut,
  runStage,
  type StageParameters,
  type StageRefusal,
  type StageResult,
} from '../cold/index.ts'
import { frothingOf } from '../house/index.ts'
import { volumeMlOf } from '../liquid/index.ts'
import { frothAfter, NO_FROTH } from './froth.ts'
import type { InHand, Start } from './inHand.ts'
import { mixAt } from './mixAt.ts'
import { NO_WATER, sumWater } from './report.ts'
import type { ResolvedDrink, ResolvedPour } from './resolve.ts'
import type { ResolvedStage } from './resolveStage.ts'
import { handOver, type Served } from './serveInGlass.ts'

/** What is chilled together, and what comes in the glass or on top of it. */
function splitPours(drink: ResolvedDrink) {
  const float = drink.pours.filter((p) => p.into === 'float')
  // In the serving glass there is no "later": what is poured into the glass is there from the start.
  const startsInGlass = drink.stages[0]?.inGlass ?? true
  const isChilled = (p: ResolvedPour) => p.into === 'tin' || (p.into === 'glass' && startsInGlass)
  return {
    chilled: drink.pours.filter(isChilled),
    inGlass: drink.pours.filter((p) => p.into === 'glass' && !startsInGlass),
    float,
  }
}

export function startDrink(drink: ResolvedDrink): Start {
  const { chilled, inGlass, float } = splitPours(drink)
  const mix = mixAt(chilled)
  if (drink.startTemperatureC !== undefined) mix.temperatureC = drink.startTemperatureC
  return {
    mixture: { ...mix, ice: [] },
    water: NO_WATER,
    throughShare: 1,
    froth: NO_FROTH,
    volumeBeforeIceMl: volumeMlOf(mix.liquid),
    mostFoamMl: chilled.reduce(
      (sum, p) => sum + p.volumeMl * ((p.ingredient && frothingOf(p.ingredient)?.mlPerMl) ?? 0),
      0,
    ),
    inGlass,
    float,
  }
}

/** Parameters of a stage in the serving glass: the glass is the vessel. */
export function inItsVessel(stage: ResolvedStage, drink: ResolvedDrink): StageParameters {
  if (!stage.inGlass || !drink.glass) return stage.parameters
  const p = { ...stage.parameters }
  if (stage.sources.vesselJPerK === 'preset') p.vesselJPerK = drink.glass.heatCapacityJPerK
  if (stage.sources.vesselTemperatureC === 'well') p.vesselTemperatureC = drink.glassTemperatureC
  return p
}

/** What goes on after a stage, poured as it says. */
export function endStage(
  stage: ResolvedStage,
  before: InHand,
  start: Start,
  ran: Pick<StageResult, 'meltG' | 'surfaceWaterG'> & { after: Mixture; durationS: number },
): { next: InHand; heldBackG: number; iceLeftBehindG: number } {
  const from = stage.inGlass ? 'glass' : stage.method ? 'tin' : 'nothing'
  const poured = pourOut(ran.after, stage.pour, from)
  const through = volumeMlOf(ran.after.liquid)
  const share = through > 0 ? volumeMlOf(poured.mixture.liquid) / through : 1
  return {
    next: {
      mixture: poured.mixture,
      water: sumWater(before.water, ran),
      throughShare: before.throughShare * share,
      froth: frothAfter(stage, before.froth, start.mostFoamMl, ran.durationS),
    },
    heldBackG: poured.heldBackG,
    iceLeftBehindG: poured.iceLeftBehindG,
  }
}

export type Finished = { ok: true; inHand: InHand; served: Served | undefined } | StageRefusal

/** From the end of one stage to the hand-over, without what only a report needs. */
export function finishDrink(
  drink: ResolvedDrink,
  start: Start,
  inHand: InHand,
  fromStage: number,
  coarseness = 1,
): Finished {
  let now = inHand
  for (const stage of drink.stages.slice(fromStage)) {
    const parameters = inItsVessel(stage, drink)
    const ran = runStage(now.mixture, parameters, { coarseness })
    if (!ran.ok) return ran
    now = endStage(stage, now, start, { ...ran, durationS: parameters.durationS }).next
  }
  const served = handOver(drink, now, start, { coarseness })
  if (served && !served.ok) return served
  return { ok: true, inHand: now, served }
}
