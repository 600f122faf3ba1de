import { bisect } from '../solve/bisect.ts'
import { PURE_ETHANOL_G_PER_ML, SPECIFIC_VOLUME_ML_PER_G, WATER_G_PER_ML } from './constants.ts'
import { ethanolWaterDensityGPerMl } from './ethanolWater.ts'

/**
 * What any liquid is, in grams. Grams add; volumes do not. Sugar is sucrose-equivalent, acid is
 * citric-equivalent titratable acidity, other is everything else that is dissolved.
 */
export interface Liquid {
  waterG: number
  ethanolG: number
  sugarG: number
  acidG: number
  fatG: number
  otherG: number
}

export const NOTHING: Liquid = Object.freeze({
  waterG: 0,
  ethanolG: 0,
  sugarG: 0,
  acidG: 0,
  fatG: 0,
  otherG: 0,
})

export function addLiquids(...liquids: readonly Liquid[]): Liquid {
  const sum = { ...NOTHING }
  for (const l of liquids) {
    sum.waterG += l.waterG
    sum.ethanolG += l.ethanolG
    sum.sugarG += l.sugarG
    sum.acidG += l.acidG
    sum.fatG += l.fatG
    sum.otherG += l.otherG
  }
  return sum
}

export function scaleLiquid(l: Liquid, factor: number): Liquid {
  return {
    waterG: l.waterG * factor,
    ethanolG: l.ethanolG * factor,
    sugarG: l.sugarG * factor,
    acidG: l.acidG * factor,
    fatG: l.fatG * factor,
    otherG: l.otherG * factor,
  }
}

export function massGOf(l: Liquid): number {
  return l.waterG + l.ethanolG + l.sugarG + l.acidG + l.fatG + l.otherG
}

/** Mass fraction of ethanol in the ethanol and water alone, 0 to 1; 0 when there is neither. */
export function ethanolMassFractionOf(l: Liquid): number {
  const both = l.ethanolG + l.waterG
  return both > 0 ? l.ethanolG / both : 0
}

/** Volume that the solids take up in solution, ml at 20 °C. */
function solidsVolumeMl(l: Pick<Liquid, 'sugarG' | 'acidG' | 'fatG' | 'otherG'>): number {
  const v = SPECIFIC_VOLUME_ML_PER_G
  return l.sugarG * v.sugar + l.acidG * v.acid + l.fatG * v.fat + l.otherG * v.other
}

/** Volume at 20 °C in ml: the alcohol tables for ethanol and water, and the solids' volume on top. */
export function volumeMlOf(l: Liquid): number {
  const both = l.ethanolG + l.waterG
  const pairMl = both > 0 ? both / ethanolWaterDensityGPerMl(ethanolMassFractionOf(l)) : 0
  return pairMl + solidsVolumeMl(l)
}

/** Alcohol by volume at 20 °C in per cent, 0 to 100; 0 for an empty liquid. */
export function abvPctOf(l: Liquid): number {
  const volumeMl = volumeMlOf(l)
  return volumeMl > 0 ? Math.min(100, (100 * l.ethanolG) / PURE_ETHANOL_G_PER_ML / volumeMl) : 0
}

/** Grams of a part per 100 ml of the liquid at 20 °C. */
export function per100Ml(l: Liquid, part: 'sugarG' | 'acidG' | 'fatG' | 'otherG'): number {
  const volumeMl = volumeMlOf(l)
  return volumeMl > 0 ? (100 * l[part]) / volumeMl : 0
}

/** Density at 20 °C, g/ml. */
export function densityGPerMlOf(l: Liquid): number {
  const volumeMl = volumeMlOf(l)
  return volumeMl > 0 ? massGOf(l) / volumeMl : 0
}

/** The figures a bottle or a carton is known by. Grams are per 100 ml at 20 °C. */
export interface LiquidFigures {
  abvPct: number
  sugarGPer100Ml: number
  acidGPer100Ml: number
  fatGPer100Ml?: number
  otherGPer100Ml?: number
}

/** An answer, or the plain reason why there is none. */
export type LiquidResult = { ok: true; liquid: Liquid } | { ok: false; reason: string }

/**
 * The composition of a volume of something known by its figures: ethanol from the ABV, the solids
 * from the grams, and as much water as makes up the volume by the alcohol tables.
 * @param volumeMl at 20 °C, 0 or more
 * @returns not ok for a figure below 0, and when the alcohol and the solids alone take more room than there is
 */
export function liquidFromFigures(volumeMl: number, figures: LiquidFigures): LiquidResult {
  const { abvPct, sugarGPer100Ml, acidGPer100Ml, fatGPer100Ml = 0, otherGPer100Ml = 0 } = figures
  const all = [volumeMl, abvPct, sugarGPer100Ml, acidGPer100Ml, fatGPer100Ml, otherGPer100Ml]
  const wrong = all.find((n) => !(n >= 0 && n < Number.POSITIVE_INFINITY))
  if (wrong !== undefined) return { ok: false, reason: `${wrong} is no figure of a liquid; 0 or more` }
  const hundreds = volumeMl / 100
  const solids = {
    sugarG: sugarGPer100Ml * hundreds,
    acidG: acidGPer100Ml * hundreds,
    fatG: fatGPer100Ml * hundreds,
    otherG: otherGPer100Ml * hundreds,
  }
  const ethanolG = (abvPct / 100) * volumeMl * PURE_ETHANOL_G_PER_ML
  const liquidWith = (waterG: number): Liquid => ({ waterG, ethanolG, ...solids })
  const excessMl = (waterG: number) => volumeMlOf(liquidWith(waterG)) - volumeMl
  const rounding = 1e-4 * volumeMl
  if (volumeMl === 0) return { ok: true, liquid: { ...NOTHING } }
  if (excessMl(0) > rounding) {
    return {
      ok: false,
      reason: `${abvPct} % ABV with ${sugarGPer100Ml} g sugar and ${acidGPer100Ml} g acid in 100 ml do not fit into 100 ml`,
    }
  }
  if (excessMl(0) >= 0) return { ok: true, liquid: liquidWith(0) }
  // Ethanol and water shrink when mixed, by less than 4 %: twice the volume in water always overshoots.
  const found = bisect(excessMl, 0, 2 * volumeMl * WATER_G_PER_ML, { tolerance: 1e-10 * volumeMl })
  if (found.outcome !== 'converged') throw new Error(`bug: water not found (${found.outcome})`)
  return { ok: true, liquid: liquidWith(found.value) }
}

/** Grams of alcohol divided by the national size of a standard drink, g. */
export function standardDrinksOf(ethanolG: number, standardDrinkG: number): number {
  return ethanolG / standardDrinkG
}
