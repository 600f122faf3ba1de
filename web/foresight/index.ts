export { BeforeSaving } from './BeforeSaving.tsx'
export { useSaveThing } from './useSaveThing.ts'
