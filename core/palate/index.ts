export { MOST_IN_A_FLIGHT, MOST_ON_AXIS, STYLE_AXES, STYLE_AXIS_NAMES, type StyleAxis } from '../schema/axes.ts'
export type { Flight, FlightDocument, Slot, Style } from '../schema/palate.ts'
export type { StyleProfile, StyleReading } from '../schema/profile.ts'
export { COLOURS, colourDepthOf, colourWord } from './colour.ts'
export { isMuddy, type KnownLook, type Look, lookOf, lookWords, mixLooks } from './look.ts'
export {
  DISAGREE_STEPS,
  disagreements,
  mixProfiles,
  placesOf,
  profileOfWords,
  profilesOf,
  type TastedWords,
  taste,
} from './profile.ts'
export { outsideBand, resolveSlot, type SlotPour, type SlotProblem, slotProblems } from './slot.ts'
