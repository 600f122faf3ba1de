/** Making it: one load, a round of several, its steps, its clock, and what to do when something went wrong. */

export {
  afterWorking,
  type ChillClock,
  type ClockStanding,
  type ClockStretch,
  chillClock,
  isForgotten,
  paceAt,
  type Reading,
  readingAt,
  standingAt,
  type WorkedOtherwise,
} from './clock.ts'
export { GUEST_WISHES, type GuestWish, type WishAsked, wishAsked } from './guestWish.ts'
export { MOST_GLASSES, MOST_GOES, MOST_IN_ONE } from './limits.ts'
export { goesOf, type LoadMade, leftSo, type MadeLoad, makeLoad } from './load.ts'
export { HALF_HOUR_S, ORDER_PACES, type Order, type OrderPace, ordersBy } from './orders.ts'
export {
  type AskedFor,
  type Plan,
  type PlannedLoad,
  type PlanOutcome,
  planByHand,
  planRound,
} from './plan.ts'
export type { InTin, Poured } from './poured.ts'
export { isAllIn, isTicked, missingBefore, nextAfter, skippedOf, stepInHand, withTick } from './progress.ts'
export { type Rescue, rescueOf, type ToPour } from './rescue.ts'
export type { Round, RoundDocument, RoundEnd, RoundLoad, RoundState } from './roundSchema.ts'
export { isShareable, isWorked } from './shared.ts'
export { goName, type LoadToMake, type SharedPour, STEP_KINDS, type Step, type StepKind } from './step.ts'
export { stepsOf } from './steps.ts'
