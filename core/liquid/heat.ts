import { interpolate, tableOf } from '../solve/interpolate.ts'
import { HEAT_CAPACITY_J_PER_G_K, MOLAR_MASS_G } from './constants.ts'
import { ethanolMassFractionOf, type Liquid } from './liquid.ts'

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

/** Heat of mixing ethanol and water, J per mol of mixture, by ethanol mole fraction. */
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

const LOWEST_DEPRESSION_K = 80

/** Citric acid parts a little in water: effective particles per molecule. */
const CITRIC_PARTICLES = 1.15

/**
 * Freezing point in °C: the depressions of ethanol, sugar and acid added up. Each is the published
 * value alone; that they add is an approximation, good to a few tenths of a degree in drinks.
 * Above a mass fraction of 0.6 ethanol the last slope goes on (no drink is there), and nothing is
 * said to freeze below −80 °C: with hardly any water the formulas no longer mean anything.
 */
export function freezingPointCOf(l: Liquid): number {
  const waterKg = l.waterG / 1000
  let depressionK = interpolate(ETHANOL_DEPRESSION_K, ethanolMassFractionOf(l))
  if (waterKg > 0) {
    const m = l.sugarG / MOLAR_MASS_G.sucrose / waterKg
    depressionK += CRYOSCOPIC_K_KG_PER_MOL * m * (1 + 0.0835 * m + 0.0054 * m * m)
    depressionK += CRYOSCOPIC_K_KG_PER_MOL * CITRIC_PARTICLES * (l.acidG / MOLAR_MASS_G.citric / waterKg)
  }
  return -Math.min(depressionK, LOWEST_DEPRESSION_K)
}

/** Heat capacity of the whole liquid, J/K. */
export function heatCapacityJPerKOf(l: Liquid): number {
  return (
    (l.waterG + l.ethanolG) * interpolate(PAIR_HEAT_CAPACITY, ethanolMassFractionOf(l)) +
    (l.sugarG + l.acidG + l.otherG) * HEAT_CAPACITY_J_PER_G_K.dissolved +
    l.fatG * HEAT_CAPACITY_J_PER_G_K.fat
  )
}

/** Heat set free by having mixed ethanol and water, J: zero or negative. */
export function mixingHeatJOf(l: Liquid): number {
  const waterMol = l.waterG / MOLAR_MASS_G.water
  const ethanolMol = l.ethanolG / MOLAR_MASS_G.ethanol
  const mol = waterMol + ethanolMol
  return mol > 0 ? mol * interpolate(HEAT_OF_MIXING, ethanolMol / mol) : 0
}

/**
 * Enthalpy in J against water, ethanol and solids apart at 0 °C. The table of mixing heats holds
 * for 25 °C and is used at every temperature: below half a per cent of the heat a drink exchanges.
 */
export function enthalpyJOf(l: Liquid, temperatureC: number): number {
  return heatCapacityJPerKOf(l) * temperatureC + mixingHeatJOf(l)
}

/** The temperature in °C at which the liquid, with `extraHeatCapacityJPerK` sharing it, holds this enthalpy. */
export function temperatureCFromEnthalpy(l: Liquid, enthalpyJ: number, extraHeatCapacityJPerK = 0): number {
  return (enthalpyJ - mixingHeatJOf(l)) / (heatCapacityJPerKOf(l) + extraHeatCapacityJPerK)
}
