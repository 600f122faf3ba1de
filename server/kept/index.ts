export { GlassKeeper, type ReadGlass } from './glassKeeper.ts'
export { keyOf, type VersionKey } from './glassStore.ts'
