import {
  type IcePortion,
  iceGOf,
  type Mixture,
  mixIce,
  REST_UA_W_PER_K,
  runStage,
  type StageParameters,
  type StageResult,
} from '../cold/index.ts'
import { addLiquids, densityGPerMlOf, type Liquid, NOTHING, volumeMlOf } from '../liquid/index.ts'
import { type Fill, fillGlass, levelMmOf, wettedAreaM2 } from '../vessel/index.ts'
import type { InHand, Start } from './inHand.ts'
import { mixAt } from './mixAt.ts'
import { type GlassMoment, type GlassReport, reportState, sumWater, type Water } from './report.ts'
import type { ResolvedDrink } from './resolve.ts'

const GLASS_SAMPLE_S = [0, 60, 120, 180, 300, 420, 600, 750, 900] as const
/** How long a drink is followed after hand-over, s. */
const LONGEST_S = 900
const AIR_W_PER_M2_K = 10

/** A drink in its glass at hand-over. */
export interface Served {
  /** Body and float together. */
  everything: Liquid
  /** Mixture at hand-over, without the float. */
  body: Mixture
  water: Water
  fill: Fill
}

interface Followed extends Served {
  inGlass: Water
  floatLiquid: Liquid
  serveIceG: number
  ran: StageResult
}

/**
 * The glass stage: what was poured, what is added in the glass, serving ice, the glass itself and the
 * room, up to hand-over and `followS` beyond. Undefined without a glass.
 * @param followS followed so long after hand-over, s
 */
export function handOver(
  drink: ResolvedDrink,
  inHand: InHand,
  parts: Pick<Start, 'inGlass' | 'float'>,
  followS: number,
  coarseness = 1,
): Followed | undefined {
  const { glass } = drink
  if (!glass) return undefined
  const { mixture: poured, water: before } = inHand
  const withAdded = mixAt([poured, ...parts.inGlass])
  const cameAlongG = iceGOf(poured)
  // At rest it is one pile, whatever its kinds: nothing stirs the small ice away from the large.
  const coldGK = poured.ice.reduce((sum, p) => sum + p.massG * p.temperatureC, 0)
  const start: Mixture = {
    ...withAdded,
    ice: cameAlongG > 0 ? [{ massG: cameAlongG, temperatureC: coldGK / cameAlongG }] : [],
  }
  const chilledInGlass = drink.stages.some((s) => s.inGlass)
  const ice = mixIce(drink.serveIce, drink.ice)
  const startLevelMm = levelMmOf(glass.profile, volumeMlOf(start.liquid) + cameAlongG)
  const parameters: StageParameters = {
    iceG: ice?.massG ?? 0,
    iceTemperatureC: ice?.temperatureC ?? 0,
    surfaceWaterFraction: ice?.surfaceWaterFraction ?? 0,
    uaWPerK: REST_UA_W_PER_K,
    stirringPowerW: 0,
    vesselJPerK: glass.heatCapacityJPerK,
    vesselTemperatureC: chilledInGlass ? poured.temperatureC : drink.glassTemperatureC,
    durationS: drink.handOverS + followS,
    roomTemperatureC: drink.roomTemperatureC,
    leakWPerK: AIR_W_PER_M2_K * wettedAreaM2(glass.profile, startLevelMm),
  }
  const ran = runStage(
    start,
    parameters,
    GLASS_SAMPLE_S.filter((s) => s <= followS).map((s) => s + drink.handOverS),
    coarseness,
  )
  const [body] = ran.states
  const [first] = ran.samples
  if (!body || !first) throw new Error(`bug: no sample at hand-over (${ran.outcome})`)
  const inGlass = { meltG: first.addedWaterG - ran.surfaceWaterG, surfaceWaterG: ran.surfaceWaterG }
  const floatLiquid = addLiquids(NOTHING, ...parts.float.map((p) => p.liquid))
  const everything = addLiquids(body.liquid, floatLiquid)
  const fill = fillGlass(glass.profile, {
    liquidMl: volumeMlOf(everything),
    liquidDensityGPerMl: densityGPerMlOf(everything),
    iceG: iceGOf(body),
    packedSolidFraction: packedFractionIn(drink, cameAlongG),
    foamMl: inHand.foamMl,
  })
  const water = sumWater(before, inGlass)
  return { everything, body, water, fill, inGlass, floatLiquid, serveIceG: parameters.iceG, ran }
}

/** The glass from hand-over to fifteen minutes later, as it is reported. Undefined without a glass. */
export function serveInGlass(
  drink: ResolvedDrink,
  inHand: InHand,
  parts: Pick<Start, 'inGlass' | 'float' | 'volumeBeforeIceMl'>,
): { served: Served; report: GlassReport } | undefined {
  const served = handOver(drink, inHand, parts, LONGEST_S)
  if (!served || !drink.glass) return undefined
  const { ran, everything, body, water, floatLiquid } = served
  const { water: before } = inHand
  const { surfaceWaterG } = ran
  const momentAt = (afterS: (typeof GLASS_SAMPLE_S)[number]): GlassMoment => {
    const at = GLASS_SAMPLE_S.indexOf(afterS)
    const sample = ran.samples[at]
    const mixture = ran.states[at]
    if (!sample || !mixture) throw new Error(`bug: no sample ${afterS} s after hand-over (${ran.outcome})`)
    const inGlass = { meltG: sample.addedWaterG - surfaceWaterG, surfaceWaterG }
    return { afterS, ...reportState(mixture, inGlass, sumWater(before, inGlass), parts.volumeBeforeIceMl) }
  }
  const bodyMl = volumeMlOf(body.liquid)
  const addedInGlassMl = volumeMlOf(addLiquids(NOTHING, ...parts.inGlass.map((p) => p.liquid)))
  // What stayed behind on ice and tin took its share of the melt along.
  const keptG = (before.meltG + before.surfaceWaterG) * inHand.throughShare
  const meltMl = Math.max(0, keptG + served.inGlass.meltG + served.inGlass.surfaceWaterG)
  const report: GlassReport = {
    name: drink.glass.name,
    atHandOver: momentAt(0),
    after5Min: momentAt(300),
    after10Min: momentAt(600),
    after15Min: momentAt(900),
    whole: reportState({ ...body, liquid: everything }, served.inGlass, water, parts.volumeBeforeIceMl),
    strata: {
      pouredMl: Math.max(0, bodyMl - addedInGlassMl - meltMl),
      meltMl,
      addedInGlassMl,
      floatMl: volumeMlOf(floatLiquid),
    },
    fill: served.fill,
    serveIceG: served.serveIceG,
    samples: ran.samples.map((s) => ({ ...s, timeS: s.timeS - drink.handOverS })),
    heat: ran.heat,
  }
  return { served, report }
}

/** How tightly the ice in the glass packs: that which came along and that which was added, by mass. */
function packedFractionIn(drink: ResolvedDrink, cameAlongG: number): number {
  const last = drink.stages[drink.stages.length - 1]
  const served: readonly IcePortion[] = drink.serveIce
  const added = mixIce(served, drink.ice)
  const cameG = last ? cameAlongG : 0
  const addedG = added?.massG ?? 0
  if (cameG + addedG === 0) return 0.6
  return ((last?.packedSolidFraction ?? 0.6) * cameG + (added?.packedSolidFraction ?? 0) * addedG) / (cameG + addedG)
}
