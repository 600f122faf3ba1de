/** What other features may use of this one. */

export { HOURS, hourText, ZONES, zoneHere } from './zones.ts'
