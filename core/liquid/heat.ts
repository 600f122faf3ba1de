import { interpolate, intervalAt, type Table, tableOf } from '../solve/interpolate.ts'
import { HEAT_CAPACITY_J_PER_G_K, LATENT_HEAT_J_PER_G, MOLAR_MASS_G } from './constants.ts'
import { ethanolMassFractionOf, type Liquid, massGOf } from './liquid.ts'

/** Freezing point depression, K, by ethanol mass fraction in ethanol and water (handbook table). */
const ETHANOL_DEPRESSION_K = tableOf('freezing point of aqueous ethanol', [
  [0, 0],
  [0.01, 0.4],
  [0.02, 0.81],
  [0.03, 1.23],
  [0.04, 1.65],
  [0.05, 2.09],
  [0.06, 2.54],
  [0.07, 2.99],
  [0.08, 3.47],
  [0.09, 3.96],
  [0.1, 4.47],
  [0.12, 5.56],
  [0.14, 6.73],
  [0.16, 8.01],
  [0.18, 9.4],
  [0.2, 10.92],
  [0.24, 14.47],
  [0.3, 20.47],
  [0.36, 25.98],
  [0.4, 29.26],
  [0.44, 32.68],
  [0.5, 37.67],
  [0.6, 44.93],
])

/** Heat capacity of ethanol and water, J/(g·K), by ethanol mass fraction. */
const PAIR_HEAT_CAPACITY = tableOf('heat capacity of aqueous ethanol', [
  [0, 4.19],
  [0.1, 4.29],
  [0.2, 4.35],
  [0.3, 4.23],
  [0.4, 4.02],
  [0.5, 3.79],
  [0.6, 3.52],
  [0.7, 3.25],
  [0.8, 2.98],
  [0.9, 2.71],
  [1, 2.44],
])

/** Heat of mixing ethanol and water at 25 °C, J per mol of mixture, by ethanol mole fraction. */
const HEAT_OF_MIXING = tableOf('heat of mixing ethanol and water', [
  [0, 0],
  [0.02, -205],
  [0.05, -450],
  [0.1, -690],
  [0.15, -775],
  [0.2, -775],
  [0.3, -660],
  [0.4, -510],
  [0.5, -375],
  [0.7, -190],
  [1, 0],
])

/** Molal freezing point depression of water, K·kg/mol. */
const CRYOSCOPIC_K_KG_PER_MOL = 1.86

/** Citric acid parts a little in water: effective particles per molecule. */
const CITRIC_PARTICLES = 1.15

/** The formulas of the freezing point are trusted down to here, °C. */
export const COLDEST_FREEZING_POINT_C = -45

/**
 * Freezing point in °C: the depressions of ethanol, sugar and acid added up. Each is the published
 * value alone; that they add is an approximation, good to a few tenths of a degree in drinks.
 * Below {@link COLDEST_FREEZING_POINT_C} the number says only "colder than that": see
 * {@link trustedFreezingPointCOf}. Of something without any water it is −∞; of nothing, 0.
 */
export function freezingPointCOf(l: Liquid): number {
  const waterKg = l.waterG / 1000
  if (!(waterKg > 0)) return massGOf(l) > 0 ? Number.NEGATIVE_INFINITY : 0
  const m = l.sugarG / MOLAR_MASS_G.sucrose / waterKg
  return -(
    interpolate(ETHANOL_DEPRESSION_K, ethanolMassFractionOf(l)) +
    CRYOSCOPIC_K_KG_PER_MOL * m * (1 + 0.0835 * m + 0.0054 * m * m) +
    CRYOSCOPIC_K_KG_PER_MOL * CITRIC_PARTICLES * (l.acidG / MOLAR_MASS_G.citric / waterKg)
  )
}

/** Freezing point in °C where the formulas are trusted; null where it is below that: overproof, or hardly any water. */
export function trustedFreezingPointCOf(l: Liquid): number | null {
  const freezingPointC = freezingPointCOf(l)
  return freezingPointC < COLDEST_FREEZING_POINT_C ? null : freezingPointC
}

/** Heat capacity of the whole liquid, J/K. */
export function heatCapacityJPerKOf(l: Liquid): number {
  return (
    (l.waterG + l.ethanolG) * interpolate(PAIR_HEAT_CAPACITY, ethanolMassFractionOf(l)) +
    (l.sugarG + l.acidG + l.otherG) * HEAT_CAPACITY_J_PER_G_K.dissolved +
    l.fatG * HEAT_CAPACITY_J_PER_G_K.fat
  )
}

/** Heat of having mixed ethanol and water at 25 °C, J: zero or negative. */
export function mixingHeatJOf(l: Liquid): number {
  const waterMol = l.waterG / MOLAR_MASS_G.water
  const ethanolMol = l.ethanolG / MOLAR_MASS_G.ethanol
  const mol = waterMol + ethanolMol
  return mol > 0 ? mol * interpolate(HEAT_OF_MIXING, ethanolMol / mol) : 0
}

/**
 * Enthalpies are counted from water, ethanol and solids apart at this temperature, °C, where the heats of mixing
 * were measured; at any other the heat of mixing follows from the heat capacities.
 */
export const REFERENCE_C = 25

/** Enthalpy of a liquid in J, counted from its water, ethanol and solids apart at 25 °C. */
export function enthalpyJOf(l: Liquid, temperatureC: number): number {
  return heatCapacityJPerKOf(l) * (temperatureC - REFERENCE_C) + mixingHeatJOf(l)
}

/** Enthalpy of a gram of water, J, counted from 25 °C. */
export const waterEnthalpyJPerG = (temperatureC: number): number =>
  HEAT_CAPACITY_J_PER_G_K.water * (temperatureC - REFERENCE_C)

/** Enthalpy of a gram of ice at 0 °C, J, counted from water at 25 °C. */
export const ICE_AT_0C_J_PER_G = waterEnthalpyJPerG(0) - LATENT_HEAT_J_PER_G

/** The temperature in °C at which the liquid, with `extraHeatCapacityJPerK` sharing it, holds this enthalpy. */
export function temperatureCFromEnthalpy(l: Liquid, enthalpyJ: number, extraHeatCapacityJPerK = 0): number {
  return REFERENCE_C + (enthalpyJ - mixingHeatJOf(l)) / (heatCapacityJPerKOf(l) + extraHeatCapacityJPerK)
}

/**
 * A liquid that takes up water and is else as it was: what of its heat does not hang on the water is worked out once. The same
 * figures as {@link heatCapacityJPerKOf}, {@link mixingHeatJOf} and {@link freezingPointCOf}, for whoever asks by the million:
 * between two rows of a table they are straight lines in the water.
 */
export class ThinnedLiquid {
  waterG = 0
  heatCapacityJPerK = 0
  mixingHeatJ = 0
  private readonly ethanolG: number
  private readonly ethanolMol: number
  private readonly solidsJPerK: number
  private readonly sugarMolG: number
  private readonly acidKG: number
  private readonly isSomething: boolean
  /** Over this water, g, the lines below hold. */
  private fromG = Number.POSITIVE_INFINITY
  private toG = Number.NEGATIVE_INFINITY
  private dryJPerK = 0
  private capacityPerG = 0
  private dryMixingJ = 0
  private mixingJPerG = 0
  private depressionK = 0
  private depressionKG = 0

  constructor(l: Liquid) {
    this.ethanolG = l.ethanolG
    this.ethanolMol = l.ethanolG / MOLAR_MASS_G.ethanol
    this.solidsJPerK =
      (l.sugarG + l.acidG + l.otherG) * HEAT_CAPACITY_J_PER_G_K.dissolved + l.fatG * HEAT_CAPACITY_J_PER_G_K.fat
    this.sugarMolG = (1000 * l.sugarG) / MOLAR_MASS_G.sucrose
    this.acidKG = (1000 * CRYOSCOPIC_K_KG_PER_MOL * CITRIC_PARTICLES * l.acidG) / MOLAR_MASS_G.citric
    this.isSomething = l.ethanolG + l.sugarG + l.acidG + l.fatG + l.otherG > 0
    this.setWater(l.waterG)
  }

  /** Sets heat capacity and heat of mixing to those with this much water, g. */
  setWater(waterG: number): void {
    if (!(waterG >= this.fromG && waterG <= this.toG)) this.findLines(waterG)
    this.waterG = waterG
    this.heatCapacityJPerK = this.dryJPerK + this.capacityPerG * waterG
    this.mixingHeatJ = this.dryMixingJ + this.mixingJPerG * waterG
  }

  /** Freezing point with the water that it has now, °C. */
  get freezingPointC(): number {
    const { waterG } = this
    if (!(waterG > 0)) return this.isSomething ? Number.NEGATIVE_INFINITY : 0
    const m = this.sugarMolG / waterG
    return -(
      this.depressionK +
      this.depressionKG / (waterG + this.ethanolG) +
      CRYOSCOPIC_K_KG_PER_MOL * m * (1 + 0.0835 * m + 0.0054 * m * m) +
      this.acidKG / waterG
    )
  }

  private findLines(waterG: number): void {
    const { ethanolG, ethanolMol } = this
    const pairG = waterG + ethanolG
    const mol = waterG / MOLAR_MASS_G.water + ethanolMol
    const share = pairG > 0 ? ethanolG / pairG : 0
    this.fromG = Number.NEGATIVE_INFINITY
    this.toG = Number.POSITIVE_INFINITY
    const capacity = this.lineAt(PAIR_HEAT_CAPACITY, share, ethanolG)
    this.capacityPerG = capacity.at0
    this.dryJPerK = (capacity.at0 + capacity.slope) * ethanolG + this.solidsJPerK
    const mixing = this.lineAt(HEAT_OF_MIXING, mol > 0 ? ethanolMol / mol : 0, ethanolMol * MOLAR_MASS_G.water)
    this.mixingJPerG = mixing.at0 / MOLAR_MASS_G.water
    this.dryMixingJ = (mixing.at0 + mixing.slope) * ethanolMol
    const depression = this.lineAt(ETHANOL_DEPRESSION_K, share, ethanolG)
    this.depressionK = depression.at0
    this.depressionKG = depression.slope * ethanolG
  }

  /** The line of a table at this share of ethanol; narrows the range to it. @param asWaterG as much water has a share of one half */
  private lineAt(table: Table, share: number, asWaterG: number): { at0: number; slope: number } {
    const { from, to, at, base, slope } = intervalAt(table, share)
    if (to < Number.POSITIVE_INFINITY) this.fromG = Math.max(this.fromG, asWaterG * (1 / to - 1))
    if (from > 0) this.toG = Math.min(this.toG, asWaterG * (1 / from - 1))
    return { at0: base - at * slope, slope }
  }
}
