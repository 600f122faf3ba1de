import {
  chargesOf,
  FILM_RANGE_J_PER_G_K,
  type IcePortion,
  iceGOf,
  type Mixture,
  mixIce,
  REST_UA_W_PER_K,
  runStage,
  type StageParameters,
  type StageRefusal,
  type StageResult,
} from '../cold/index.ts'
import { frothingOf } from '../house/index.ts'
import { addLiquids, densityGPerMlOf, type Liquid, NOTHING, volumeMlOf } from '../liquid/index.ts'
import { lookOf, mixLooks } from '../palate/index.ts'
import { type Fill, fillGlass, levelMmOf, wettedAreaM2 } from '../vessel/index.ts'
import { frothMlOf, settled } from './froth.ts'
import type { InHand, Start } from './inHand.ts'
import { mixAt } from './mixAt.ts'
import { type GlassMoment, type GlassReport, reportState, sumWater, type Water } from './report.ts'
import type { ResolvedDrink } from './resolve.ts'

const GLASS_SAMPLE_S = [0, 60, 120, 180, 300, 420, 600, 750, 900] as const
/** How long a drink is followed after hand-over, s. */
const LONGEST_S = 900
/** Less froth than this nobody sees, ml. */
const LEAST_FROTH_ML = 3
const AIR_W_PER_M2_K = 10
/** A spread needs no milligrams. */
const FILM_COARSENESS = 15

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
  ok: true
  inGlass: Water
  floatLiquid: Liquid
  serveIceG: number
  ran: StageResult
  /** What it was run from: to be run again with another film. */
  from: { start: Mixture; parameters: StageParameters }
}

interface HandOverOptions {
  /** Followed so long after hand-over, s. Default 0. */
  followS?: number
  coarseness?: number
}

/**
 * The glass stage: what was poured, what is added in the glass, serving ice, the glass itself and the
 * room, up to hand-over and beyond. Undefined without a glass.
 */
export function handOver(
  drink: ResolvedDrink,
  inHand: InHand,
  parts: Pick<Start, 'inGlass' | 'float'>,
  { followS = 0, coarseness = 1 }: HandOverOptions = {},
): Followed | StageRefusal | undefined {
  const { glass } = drink
  if (!glass) return undefined
  const { mixture: poured, water: before } = inHand
  const withAdded = mixAt([poured, ...parts.inGlass])
  const cameAlongG = iceGOf(poured)
  const start: Mixture = { ...withAdded, ice: poured.ice }
  const chilledInGlass = drink.stages.some((s) => s.inGlass)
  const ice = mixIce(drink.serveIce, drink.ice)
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
  const sampleS = GLASS_SAMPLE_S.filter((s) => s <= followS).map((s) => s + drink.handOverS)
  const ran = runStage(start, parameters, { sampleS, coarseness, keepsStates: true })
  if (!ran.ok) return ran
  const [body] = ran.states
  const [first] = ran.samples
  if (!body || !first) throw new Error('bug: no sample at hand-over')
  const inGlass = { meltG: first.addedWaterG - ran.surfaceWaterG, surfaceWaterG: ran.surfaceWaterG }
  const floatLiquid = addLiquids(NOTHING, ...parts.float.map((p) => p.liquid))
  const everything = addLiquids(body.liquid, floatLiquid)
  const fill = fillGlass(glass.profile, {
    liquidMl: volumeMlOf(everything),
    liquidDensityGPerMl: densityGPerMlOf(everything),
    iceG: iceGOf(body),
    packedSolidFraction: packedFractionIn(drink, cameAlongG),
    foamMl: frothMlOf(settled(inHand.froth, drink.handOverS)),
  })
  const water = sumWater(before, inGlass)
  return {
    ok: true,
    everything,
    body,
    water,
    fill,
    inGlass,
    floatLiquid,
    serveIceG: parameters.iceG,
    ran,
    from: { start, parameters },
  }
}

/** The glass from hand-over to fifteen minutes later, as it is reported. Undefined without a glass. */
export function serveInGlass(
  drink: ResolvedDrink,
  inHand: InHand,
  parts: Pick<Start, 'inGlass' | 'float' | 'volumeBeforeIceMl'>,
): { ok: true; served: Served; report: GlassReport } | StageRefusal | undefined {
  const served = handOver(drink, inHand, parts, { followS: LONGEST_S })
  if (!served || !drink.glass) return undefined
  if (!served.ok) return served
  const { ran, everything, body, water, floatLiquid } = served
  const { water: before } = inHand
  const { surfaceWaterG } = ran
  const films = otherFilms(served.from, drink.handOverS)
  const momentAt = (afterS: (typeof GLASS_SAMPLE_S)[number]): GlassMoment => {
    const at = GLASS_SAMPLE_S.indexOf(afterS)
    const sample = ran.samples[at]
    const mixture = ran.states[at]
    if (!sample || !mixture) throw new Error(`bug: no sample ${afterS} s after hand-over`)
    const inGlass = { meltG: sample.addedWaterG - surfaceWaterG, surfaceWaterG }
    const state = reportState(mixture, inGlass, sumWater(before, inGlass), parts.volumeBeforeIceMl)
    return { afterS, ...state, ...films(at) }
  }
  const bodyMl = volumeMlOf(body.liquid)
  const addedInGlassMl = volumeMlOf(addLiquids(NOTHING, ...parts.inGlass.map((p) => p.liquid)))
  // What stayed behind on ice and tin took its share of the melt along.
  const keptG = (before.meltG + before.surfaceWaterG) * inHand.throughShare
  const meltMl = Math.max(0, keptG + served.inGlass.meltG + served.inGlass.surfaceWaterG)
  const atHandOver = momentAt(0)
  const after10Min = momentAt(600)
  const report: GlassReport = {
    name: drink.glass.name,
    atHandOver,
    after5Min: momentAt(300),
    after10Min,
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
    ...frothReport(drink, inHand),
    look: lookReport(drink, meltMl, after10Min.meltG - atHandOver.meltG),
    samples: ran.samples.map((s) => ({ ...s, timeS: s.timeS - drink.handOverS })),
    heat: ran.heat,
  }
  return { ok: true, served, report }
}

/** How the liquid looks under its float, at hand-over and when more ice has melted. */
function lookReport(drink: ResolvedDrink, meltMl: number, moreMeltMl: number): GlassReport['look'] {
  const mixed = drink.pours.filter((p) => p.into !== 'float')
  const known = mixed.flatMap((p) => (p.ingredient ? [{ name: p.name, look: lookOf(p.ingredient) }] : []))
  const parts = mixed.flatMap((p) => (p.ingredient ? [{ volumeMl: p.volumeMl, look: lookOf(p.ingredient) }] : []))
  const otherMl = mixed.reduce((sum, p) => sum + (p.ingredient ? 0 : p.volumeMl), 0)
  return {
    atHandOver: mixLooks(parts, otherMl + meltMl),
    after10Min: mixLooks(parts, otherMl + meltMl + Math.max(0, moreMeltMl)),
    assumed: [...new Set(known.filter((k) => k.look.isAssumed).map((k) => k.name))],
  }
}

/** The froth on it, where there is any worth a word. */
function frothReport(drink: ResolvedDrink, { froth }: InHand): Pick<GlassReport, 'froth'> {
  const [atHandOverMl, after1MinMl, after2MinMl] = [0, 60, 120].map((s) =>
    frothMlOf(settled(froth, drink.handOverS + s)),
  )
  if (!((atHandOverMl ?? 0) >= LEAST_FROTH_ML)) return {}
  const assumed = drink.pours.flatMap((p) => (p.ingredient && frothingOf(p.ingredient)?.isAssumed ? [p.name] : []))
  return {
    froth: { atHandOverMl, after1MinMl, after2MinMl, assumed: [...new Set(assumed)] } as NonNullable<
      GlassReport['froth']
    >,
  }
}

/**
 * How far the minutes in the hand may be off because nobody knows the film about resting ice better than by half: half of
 * what lies between a film of 20 and one of 60.
 */
function otherFilms({ start, parameters }: Followed['from'], handOverS: number) {
  const sampleS = GLASS_SAMPLE_S.map((s) => s + handOverS)
  const hasIce = parameters.iceG + iceGOf(start) > 0
  const runs = (hasIce ? [FILM_RANGE_J_PER_G_K.low, FILM_RANGE_J_PER_G_K.high] : []).map((filmJPerGK) =>
    runStage(start, parameters, { sampleS, filmJPerGK, coarseness: FILM_COARSENESS }),
  )
  return (at: number): Pick<GlassMoment, 'waterOffG' | 'temperatureOffK'> => {
    const [a, b] = runs.map((r) => r.samples[at])
    if (!a || !b) return { waterOffG: 0, temperatureOffK: 0 }
    return {
      waterOffG: Math.abs(a.addedWaterG - b.addedWaterG) / 2,
      temperatureOffK: Math.abs(a.temperatureC - b.temperatureC) / 2,
    }
  }
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
