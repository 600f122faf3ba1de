/** What other features may use of this one. */

export { VerifyHistory } from './VerifyHistory.tsx'
export { HOURS, hourText, ZONES, zoneHere } from './zones.ts'
