import {
  chargesOf,
  type IcePortion,
  iceGOf,
  type Mixture,
  mixIce,
  REST_UA_W_PER_K,
  runStage,
  type StageParameters,
} from '../cold/index.ts'
import { addLiquids, densityGPerMlOf, type Liquid, NOTHING, volumeMlOf } from '../liquid/index.ts'
import { fillGlass, levelMmOf, wettedAreaM2 } from '../vessel/index.ts'
import type { InHand, Start } from './makeDrink.ts'
import { mixAt } from './mixAt.ts'
import { type GlassMoment, type GlassReport, reportState, sumWater, type Water } from './report.ts'
import type { ResolvedDrink } from './resolve.ts'

const GLASS_SAMPLE_S = [0, 60, 120, 180, 300, 420, 600, 750, 900] as const
const AIR_W_PER_M2_K = 10

/** A drink in its glass: what is reported, and what it is made of. */
export interface Served {
  report: GlassReport
  /** Body and float together. */
  everything: Liquid
  /** Mixture at hand-over, without the float. */
  body: Mixture
  water: Water
}

/**
 * The glass stage: what was poured, what is added in the glass, serving ice, the glass itself and the
 * room, followed to fifteen minutes after hand-over. Undefined without a glass.
 * @param options.followS how long to follow it after hand-over; 0 where only the hand-over counts: the
 *   later moments are then those of the hand-over
 */
export function serveInGlass(
  drink: ResolvedDrink,
  inHand: InHand,
  parts: Pick<Start, 'inGlass' | 'float' | 'volumeBeforeIceMl'>,
  { followS = 900, coarseness = 1 }: { followS?: 0 | 900; coarseness?: number } = {},
): Served | undefined {
  const { glass } = drink
  if (!glass) return undefined
  const { mixture: poured, water: before } = inHand
  const withAdded = mixAt([poured, ...parts.inGlass])
  const start: Mixture = { ...poured, ...withAdded }
  const chilledInGlass = drink.stages.some((s) => s.inGlass)
  const ice = mixIce(drink.serveIce, drink.ice)
  const cameAlongG = iceGOf(poured)
  const startLevelMm = levelMmOf(glass.profile, volumeMlOf(start.liquid) + cameAlongG)
  const parameters: StageParameters = {
    iceG: ice?.massG ?? 0,
    iceTemperatureC: ice?.temperatureC ?? 0,
    surfaceWaterFraction: ice?.surfaceWaterFraction ?? 0,
    charges: chargesOf(drink.serveIce, drink.ice),
    uaWPerK: REST_UA_W_PER_K,
    stirringPowerW: 0,
    vesselJPerK: glass.heatCapacityJPerK,
    vesselTemperatureC: chilledInGlass ? poured.temperatureC : drink.glassTemperatureC,
    durationS: drink.handOverS + followS,
    roomTemperatureC: drink.roomTemperatureC,
    leakWPerK: AIR_W_PER_M2_K * wettedAreaM2(glass.profile, startLevelMm),
  }
  const followed = GLASS_SAMPLE_S.filter((s) => s <= followS)
  const ran = runStage(
    start,
    parameters,
    followed.map((s) => s + drink.handOverS),
    coarseness,
  )
  const surfaceWaterG = ran.surfaceWaterG

  const momentAt = (
    afterS: (typeof GLASS_SAMPLE_S)[number],
  ): { mixture: Mixture; water: Water; moment: GlassMoment } => {
    const at = Math.min(GLASS_SAMPLE_S.indexOf(afterS), followed.length - 1)
    const sample = ran.samples[at]
    const mixture = ran.states[at]
    if (!sample || !mixture) throw new Error(`bug: no sample ${afterS} s after hand-over (${ran.outcome})`)
    const water = { meltG: sample.addedWaterG - surfaceWaterG, surfaceWaterG }
    const moment = { afterS, ...reportState(mixture, water, sumWater(before, water), parts.volumeBeforeIceMl) }
    return { mixture, water, moment }
  }
  const handOver = momentAt(0)
  const floatLiquid = addLiquids(NOTHING, ...parts.float.map((p) => p.liquid))
  const everything = addLiquids(handOver.mixture.liquid, floatLiquid)
  const water = sumWater(before, handOver.water)
  const bodyMl = volumeMlOf(handOver.mixture.liquid)
  const addedInGlassMl = volumeMlOf(addLiquids(NOTHING, ...parts.inGlass.map((p) => p.liquid)))
  // What stayed behind on ice and tin took its share of the melt along.
  const keptG = (before.meltG + before.surfaceWaterG) * inHand.throughShare
  const meltMl = Math.max(0, keptG + handOver.water.meltG + handOver.water.surfaceWaterG)
  const report: GlassReport = {
    name: glass.name,
    atHandOver: handOver.moment,
    after5Min: momentAt(300).moment,
    after10Min: momentAt(600).moment,
    after15Min: momentAt(900).moment,
    whole: reportState({ ...handOver.mixture, liquid: everything }, handOver.water, water, parts.volumeBeforeIceMl),
    strata: {
      pouredMl: Math.max(0, bodyMl - addedInGlassMl - meltMl),
      meltMl,
      addedInGlassMl,
      floatMl: volumeMlOf(floatLiquid),
    },
    fill: fillGlass(glass.profile, {
      liquidMl: volumeMlOf(everything),
      liquidDensityGPerMl: densityGPerMlOf(everything),
      iceG: iceGOf(handOver.mixture),
      packedSolidFraction: packedFractionIn(drink, cameAlongG),
      foamMl: inHand.foamMl,
    }),
    serveIceG: parameters.iceG,
    samples: ran.samples.map((s) => ({ ...s, timeS: s.timeS - drink.handOverS })),
    heat: ran.heat,
  }
  return { report, everything, body: handOver.mixture, water }
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
