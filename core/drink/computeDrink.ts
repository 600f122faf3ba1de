import { type Mixture, POURS, pourOut, runStage, type StageParameters } from '../cold/index.ts'
import { abvPctOf, addLiquids, type Liquid, NOTHING, volumeMlOf } from '../liquid/index.ts'
import { mixAt } from './mixAt.ts'
import { predict } from './predict.ts'
import {
  type DrinkResult,
  NO_WATER,
  type PourShare,
  reportState,
  type ServeReport,
  type StageReport,
  sumWater,
} from './report.ts'
import type { ResolvedDrink, ResolvedPour, ResolvedStage } from './resolve.ts'
import { serveInGlass } from './serveInGlass.ts'

/** Less acid than this is none, g: no ratio is made with it. */
const LEAST_ACID_G = 1e-3

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

/** Parameters of a stage in the serving glass: the glass is the vessel. */
function inItsVessel(stage: ResolvedStage, drink: ResolvedDrink): StageParameters {
  if (!stage.inGlass || !drink.glass) return stage.parameters
  const p = { ...stage.parameters }
  if (stage.sources.vesselJPerK === 'preset') p.vesselJPerK = drink.glass.heatCapacityJPerK
  if (stage.sources.vesselTemperatureC === 'well') p.vesselTemperatureC = drink.glassTemperatureC
  return p
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
  const { chilled, inGlass, float } = splitPours(drink)
  const startMix = mixAt(chilled)
  if (drink.startTemperatureC !== undefined) startMix.temperatureC = drink.startTemperatureC
  const volumeBeforeIceMl = volumeMlOf(startMix.liquid)
  let mixture: Mixture = { ...startMix, iceG: 0, iceTemperatureC: 0 }
  let total = NO_WATER
  const beforeIce = reportState(mixture, NO_WATER, NO_WATER, volumeBeforeIceMl)

  const stages: StageReport[] = []
  for (const stage of drink.stages) {
    const parameters = inItsVessel(stage, drink)
    const ran = runStage(mixture, parameters, sampleTimes(parameters.durationS, 24))
    total = sumWater(total, ran)
    const poured = pourOut(ran.after, POURS[stage.pour].iceThroughFraction)
    stages.push({
      name: stage.name,
      station: stage.station,
      method: stage.method,
      parameters,
      sources: stage.sources,
      atEnd: reportState(ran.after, ran, total, volumeBeforeIceMl),
      pour: stage.pour,
      afterPour: reportState(poured, ran, total, volumeBeforeIceMl),
      iceGoneAtS: ran.iceGoneAtS,
      samples: ran.samples,
      heat: ran.heat,
    })
    mixture = poured
  }
  const uncertainty = Math.max(0, ...drink.stages.map((s) => s.dilutionUncertaintyFraction))
  const served = serveInGlass(drink, mixture, total, { inGlass, float, volumeBeforeIceMl })
  const everything = served?.everything ?? addLiquids(mixture.liquid, ...float.map((p) => p.liquid))
  return {
    well: drink.well?.slug,
    beforeIce,
    stages,
    glass: served?.report,
    serve: reportServe(everything, drink.serves),
    pours: reportShares(drink.pours),
    predictions: predict(served, mixture, total, volumeBeforeIceMl, uncertainty),
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
  const start = mixAt(splitPours(drink).chilled)
  if (drink.startTemperatureC !== undefined) start.temperatureC = drink.startTemperatureC
  const volumeMl = volumeMlOf(start.liquid)
  const parameters = { ...inItsVessel(stage, drink), durationS: endS }
  const ran = runStage({ ...start, iceG: 0, iceTemperatureC: 0 }, parameters, sampleTimes(endS, 60))
  return ran.samples.map((s) => ({
    timeS: s.timeS,
    temperatureC: s.temperatureC,
    freezingPointC: s.freezingPointC,
    dilutionPct: (100 * s.addedWaterG) / volumeMl,
    abvPct: abvPctOf({ ...start.liquid, waterG: start.liquid.waterG + s.addedWaterG }),
    iceG: s.iceG,
  }))
}
