export {
  HEAT_CAPACITY_J_PER_G_K,
  ICE_G_PER_ML,
  LATENT_HEAT_J_PER_G,
  PURE_ETHANOL_G_PER_ML,
  WATER_G_PER_ML,
} from './constants.ts'
export { ethanolWaterDensityGPerMl, massFractionOf, volumeFractionOf } from './ethanolWater.ts'
export {
  COLDEST_FREEZING_POINT_C,
  enthalpyJOf,
  freezingPointCOf,
  heatCapacityJPerKOf,
  ICE_AT_0C_J_PER_G,
  mixingHeatJOf,
  REFERENCE_C,
  ThinnedLiquid,
  temperatureCFromEnthalpy,
  trustedFreezingPointCOf,
  waterEnthalpyJPerG,
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
