/** What other features may use of this one. */

export { InHand } from './InHand.tsx'
export { RailFoot } from './RailFoot.tsx'
export { type Light, useInHand } from './useInHand.ts'
export { type RailDrink, useRailMenu } from './useRailMenu.ts'
