export { AskBeforeSaving } from './AskBeforeSaving.tsx'
export { BeforeSaving } from './BeforeSaving.tsx'
export { useSaveThing } from './useSaveThing.ts'
