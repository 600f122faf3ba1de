/** What other features may use of this one. */

export { InHand } from './InHand.tsx'
export { RailFoot } from './RailFoot.tsx'
export { SECOND_TAP_MS } from './secondTap.ts'
export { type Light, useInHand } from './useInHand.ts'
export { type RailDrink, useRailMenu } from './useRailMenu.ts'
