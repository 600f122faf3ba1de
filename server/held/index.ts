export { createHeld, type Held, heldHouse, readHouse } from './follow.ts'
export type { HeldDrink, HeldHouse, HeldTonight, HouseBase } from './heldHouse.ts'
export { outsIn } from './outs.ts'
export { baseOf, bookFor, closureOf, type HousePart, partFor, partOf, toBook } from './part.ts'
