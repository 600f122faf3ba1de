export { clockText, dayText, momentText, nightText, shortDayText } from './dayText.ts'
export {
  clockOf,
  DEFAULT_CLOCK,
  dayAfter,
  daysBetween,
  type HouseClock,
  isTimeZone,
  nightOf,
  startOfNight,
} from './nights.ts'
