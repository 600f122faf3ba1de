import { clockSOf, runStage } from '../cold/index.ts'
import { abvPctOf, addLiquids, type Liquid, NOTHING, volumeMlOf } from '../liquid/index.ts'
import type { InHand } from './inHand.ts'
import { endStage, inItsVessel, startDrink } from './makeDrink.ts'
import { predict } from './predict.ts'
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

/** How sure the dilution of the least known of its stages is. */
export function uncertaintyOf(drink: ResolvedDrink): number {
  return Math.max(0, ...drink.stages.map((s) => s.dilutionUncertaintyFraction))
}

function sampleTimes(durationS: number, count: number): number[] {
  return Array.from({ length: count + 1 }, (_, i) => (durationS * i) / count)
}

/**
 * What is in the glass when this drink is made as written: before ice, after every stage, at
 * hand-over and 5, 10 and 15 minutes later. Deterministic; the same in browser and server.
 * Without a house glass the predictions are those after the last pour.
 */
export function computeDrink(drink: ResolvedDrink): DrinkResult {
  const start = startDrink(drink)
  const { volumeBeforeIceMl } = start
  let inHand: InHand = start
  const beforeIce = reportState(start.mixture, NO_WATER, NO_WATER, volumeBeforeIceMl)

  const stages: StageReport[] = []
  for (const stage of drink.stages) {
    const parameters = inItsVessel(stage, drink)
    const ran = runStage(inHand.mixture, parameters, sampleTimes(clockSOf(parameters), 24))
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
  const uncertainty = uncertaintyOf(drink)
  const inGlass = serveInGlass(drink, inHand, start)
  const everything =
    inGlass?.served.everything ?? addLiquids(inHand.mixture.liquid, ...start.float.map((p) => p.liquid))
  return {
    well: drink.well?.slug,
    beforeIce,
    stages,
    glass: inGlass?.report,
    serve: reportServe(everything, drink.serves),
    pours: reportShares(drink.pours),
    predictions: predict(inGlass?.served, inHand, volumeBeforeIceMl, uncertainty),
    dilutionUncertaintyFraction: uncertainty,
  }
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
  freezingPointC: number
  dilutionPct: number
  abvPct: number
  iceG: number
}[] {
  const stage = drink.stages[0]
  if (!stage) return []
  const { mixture, volumeBeforeIceMl } = startDrink(drink)
  const parameters = { ...inItsVessel(stage, drink), durationS: endS, bursts: 1, waitS: 0 }
  const ran = runStage(mixture, parameters, sampleTimes(endS, 60))
  return ran.samples.map((s) => ({
    timeS: s.timeS,
    temperatureC: s.temperatureC,
    freezingPointC: s.freezingPointC,
    dilutionPct: (100 * s.addedWaterG) / volumeBeforeIceMl,
    abvPct: abvPctOf({ ...mixture.liquid, waterG: mixture.liquid.waterG + s.addedWaterG }),
    iceG: s.iceG,
  }))
}
