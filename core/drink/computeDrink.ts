import { clockSOf, dilutionUncertainty, MODEL_VERSION, runStage } from '../cold/index.ts'
import { abvPctOf, addLiquids, type Liquid, NOTHING, volumeMlOf } from '../liquid/index.ts'
import type { InHand } from './inHand.ts'
import { endStage, inItsVessel, startDrink } from './makeDrink.ts'
import { stageProblem } from './outsideModel.ts'
import { predict } from './predict.ts'
import type { Problem } from './problem.ts'
import {
  type DrinkResult,
  NO_WATER,
  type PourShare,
  reportState,
  type ServeReport,
  type StageReport,
} from './report.ts'
import type { ResolvedDrink, ResolvedPour } from './resolve.ts'
import { serveInGlass } from './serveInGlass.ts'

/** Less acid than this is none, g: no ratio is made with it. */
const LEAST_ACID_G = 1e-3

/** How sure the dilution of the least known of its stages is, for so much liquid before ice. */
export function uncertaintyOf(drink: ResolvedDrink, volumeBeforeIceMl: number): number {
  return Math.max(
    0,
    ...drink.stages.map((s) =>
      dilutionUncertainty(s.dilutionUncertaintyFraction, s.method, volumeBeforeIceMl, s.calibration?.volumesMl),
    ),
  )
}

function sampleTimes(durationS: number, count: number): number[] {
  return Array.from({ length: count + 1 }, (_, i) => (durationS * i) / count)
}

/** The figures of a drink, or which stage is outside what the model knows. */
export type Computed = { ok: true; result: DrinkResult } | { ok: false; problems: Problem[] }

/**
 * What is in the glass when this drink is made as written: before ice, after every stage, at
 * hand-over and 5, 10 and 15 minutes later. Deterministic; the same in browser and server.
 * Without a house glass the predictions are those after the last pour.
 */
export function computeDrink(drink: ResolvedDrink): Computed {
  const start = startDrink(drink)
  const { volumeBeforeIceMl } = start
  let inHand: InHand = start
  const beforeIce = reportState(start.mixture, NO_WATER, NO_WATER, volumeBeforeIceMl)

  const stages: StageReport[] = []
  for (const [index, stage] of drink.stages.entries()) {
    const parameters = inItsVessel(stage, drink)
    const ran = runStage(inHand.mixture, parameters, { sampleS: sampleTimes(clockSOf(parameters), 24) })
    if (!ran.ok) return { ok: false, problems: [stageProblem(ran, index)] }
    const { next, heldBackG, iceLeftBehindG } = endStage(stage, inHand, start, {
      ...ran,
      durationS: parameters.durationS,
    })
    const { charges: _, bursts = 1, restS = 0, waitS = 0, ...figures } = parameters
    stages.push({
      name: stage.name,
      station: stage.station,
      method: stage.method,
      parameters: figures,
      ...(bursts > 1 || waitS > 0 ? { pace: { bursts, restS, waitS } } : {}),
      sources: stage.sources,
      atEnd: reportState(ran.after, ran, next.water, volumeBeforeIceMl),
      pour: stage.pour,
      afterPour: reportState(next.mixture, ran, next.water, volumeBeforeIceMl),
      heldBackG,
      iceLeftBehindG,
      iceGoneAtS: ran.iceGoneAtS,
      samples: ran.samples,
      heat: ran.heat,
    })
    inHand = next
  }
  const uncertainty = uncertaintyOf(drink, volumeBeforeIceMl)
  const inGlass = serveInGlass(drink, inHand, start)
  if (inGlass && !inGlass.ok) return { ok: false, problems: [stageProblem(inGlass, 'glass')] }
  const everything =
    inGlass?.served.everything ?? addLiquids(inHand.mixture.liquid, ...start.float.map((p) => p.liquid))
  const result: DrinkResult = {
    model: MODEL_VERSION,
    well: drink.well?.slug,
    beforeIce,
    stages,
    glass: inGlass?.report,
    serve: reportServe(everything, drink.serves),
    pours: reportShares(drink.pours),
    predictions: predict(inGlass?.served, inHand, volumeBeforeIceMl, uncertainty),
    dilutionUncertaintyFraction: uncertainty,
  }
  return { ok: true, result }
}

function reportServe(everything: Liquid, serves: number): ServeReport {
  const { ethanolG, sugarG, acidG } = everything
  return {
    serves,
    volumeMl: volumeMlOf(everything) / serves,
    alcoholG: ethanolG / serves,
    sugarG: sugarG / serves,
    acidG: acidG / serves,
    sugarToAcid: acidG > LEAST_ACID_G ? sugarG / acidG : undefined,
  }
}

function reportShares(pours: readonly ResolvedPour[]): PourShare[] {
  const sum = addLiquids(NOTHING, ...pours.map((p) => p.liquid))
  const share = (part: number, whole: number) => (whole > 0 ? part / whole : 0)
  return pours.map((p) => ({
    name: p.name,
    volumeMl: p.volumeMl,
    alcoholFraction: share(p.liquid.ethanolG, sum.ethanolG),
    sugarFraction: share(p.liquid.sugarG, sum.sugarG),
    acidFraction: share(p.liquid.acidG, sum.acidG),
    assumed: p.assumed,
    ...(p.unknown.length > 0 ? { unknown: p.unknown } : {}),
  }))
}

/**
 * The first stage followed past its seconds, for a chart: dilution, temperature and strength
 * against time, from 0 to `endS`.
 */
export function computeChillCurve(
  drink: ResolvedDrink,
  endS: number,
): {
  timeS: number
  temperatureC: number
  freezingPointC: number | null
  dilutionPct: number
  abvPct: number
  iceG: number
}[] {
  const stage = drink.stages[0]
  if (!stage) return []
  const { mixture, volumeBeforeIceMl } = startDrink(drink)
  const parameters = { ...inItsVessel(stage, drink), durationS: endS, bursts: 1, waitS: 0 }
  // Where it passes a limit of the model the curves end.
  const ran = runStage(mixture, parameters, { sampleS: sampleTimes(endS, 60) })
  return ran.samples.map((s) => ({
    timeS: s.timeS,
    temperatureC: s.temperatureC,
    freezingPointC: s.freezingPointC,
    dilutionPct: (100 * s.addedWaterG) / volumeBeforeIceMl,
    abvPct: abvPctOf({ ...mixture.liquid, waterG: mixture.liquid.waterG + s.addedWaterG }),
    iceG: s.iceG,
  }))
}
