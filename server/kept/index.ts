export { KEPT_GLASSES } from './computeGlasses.ts'
export { GlassKeeper, type ReadGlass } from './glassKeeper.ts'
export { keyOf, type VersionKey } from './glassStore.ts'
export { drinksPouringAll, UsualPours } from './usualPours.ts'
