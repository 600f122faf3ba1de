export { ICE_G_PER_ML, LATENT_HEAT_J_PER_G, PURE_ETHANOL_G_PER_ML, WATER_G_PER_ML } from './constants.ts'
export { ethanolWaterDensityGPerMl, massFractionOf, volumeFractionOf } from './ethanolWater.ts'
export {
  enthalpyJOf,
  freezingPointCOf,
  heatCapacityJPerKOf,
  mixingHeatJOf,
  temperatureCFromEnthalpy,
} from './heat.ts'
export {
  abvPctOf,
  addLiquids,
  densityGPerMlOf,
  ethanolMassFractionOf,
  type Liquid,
  type LiquidFigures,
  type LiquidResult,
  liquidFromFigures,
  massGOf,
  NOTHING,
  per100Ml,
  scaleLiquid,
  standardDrinksOf,
  volumeMlOf,
} from './liquid.ts'
export { SATURATION_BRIX, sugarGPer100MlOfBrix, syrupDensityGPerMl } from './sugar.ts'
