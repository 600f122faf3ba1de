/** What other features may use of this one. */

export { changePlan } from './changePlan.ts'
export { planWith } from './plan.ts'
