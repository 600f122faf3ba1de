export { OthersHere } from './OthersHere.tsx'
export { useLive } from './useLive.ts'
