import {
  abvPctOf,
  type Liquid,
  massGOf,
  PURE_ETHANOL_G_PER_ML,
  per100Ml,
  SATURATION_BRIX,
  volumeMlOf,
} from '../liquid/index.ts'

/** What was measured on a lot. Each replaces what the recipe says. */
export interface Measured {
  /** What came out, g and ml at 20 °C. */
  massG?: number | undefined
  volumeMl?: number | undefined
  /** Refractometer, °Bx: all that is dissolved counts. */
  brix?: number | undefined
  abvPct?: number | undefined
  /** Titrated, as citric, g in 100 ml. */
  acidGPer100Ml?: number | undefined
  pH?: number | undefined
}

/** A refractometer over-reads alcohol: above this strength its reading is not taken for sugar, % ABV. */
export const MOST_ABV_FOR_BRIX_PCT = 1

/** What a refractometer would read: grams dissolved in 100 g; fat is not. */
export function brixOf(l: Liquid): number {
  const massG = massGOf(l)
  return massG > 0 ? (100 * (l.sugarG + l.acidG + l.otherG)) / massG : 0
}

/** Grams of sugar in 100 g of sugar and water alone: what decides whether it crystallises. */
export function sugarInWaterBrix(l: Liquid): number {
  const both = l.sugarG + l.waterG
  return both > 0 ? (100 * l.sugarG) / both : 0
}

export const saturationBrixIn = (place: 'shelf' | 'fridge' | 'freezer') =>
  place === 'shelf' ? SATURATION_BRIX.at20C : SATURATION_BRIX.at4C

/**
 * A liquid with what was measured on it put in place of what was computed, at the same mass: water
 * gives way. Brix is not believed above 1 % ABV, where a refractometer does not read sugar.
 * @returns the liquid, and which measurements could not be used
 */
export function withMeasured(liquid: Liquid, measured: Measured): { liquid: Liquid; unused: ('brix' | 'abvPct')[] } {
  const unused: ('brix' | 'abvPct')[] = []
  let l = liquid
  const { abvPct, acidGPer100Ml, brix } = measured
  if (abvPct !== undefined || acidGPer100Ml !== undefined) {
    const both = settled(l, (ml) => ({
      acidG: acidGPer100Ml === undefined ? liquid.acidG : (acidGPer100Ml / 100) * ml,
      ethanolG: abvPct === undefined ? liquid.ethanolG : (abvPct / 100) * ml * PURE_ETHANOL_G_PER_ML,
    }))
    if (both) l = both
    else unused.push('abvPct')
  }
  if (brix !== undefined) {
    const massG = massGOf(l)
    const sugarG = Math.max(0, (brix / 100) * massG - l.acidG - l.otherG)
    const waterG = l.waterG + l.sugarG - sugarG
    if (abvPctOf(l) > MOST_ABV_FOR_BRIX_PCT || waterG < 0) unused.push('brix')
    else l = { ...l, sugarG, waterG }
  }
  return { liquid: l, unused }
}

const ROUNDS = 60

/** Sets parts that are known by the volume, water giving way, until volume and parts agree; undefined when there is not water enough. */
function settled(liquid: Liquid, next: (volumeMl: number) => Partial<Liquid>): Liquid | undefined {
  const massG = massGOf(liquid)
  let l = liquid
  for (let i = 0; i < ROUNDS; i++) {
    const changed = { ...l, ...next(volumeMlOf(l)) }
    const waterG = changed.waterG + massG - massGOf(changed)
    if (waterG < 0) return undefined
    l = { ...changed, waterG }
  }
  return l
}

/** Figures of a liquid in 100 ml, as a bottle is known by. */
export function figuresOf(l: Liquid) {
  return {
    abvPct: abvPctOf(l),
    sugarGPer100Ml: per100Ml(l, 'sugarG'),
    acidGPer100Ml: per100Ml(l, 'acidG'),
    fatGPer100Ml: per100Ml(l, 'fatG'),
    otherGPer100Ml: per100Ml(l, 'otherG'),
  }
}
