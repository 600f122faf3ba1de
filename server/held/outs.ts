import type { HouseBook, Ingredient } from '@conch/core/house'
import { outsAt } from '@conch/core/tonight'
import type { HeldHouse, HeldTonight } from './heldHouse.ts'
import { baseOf } from './part.ts'

/**
 * What is out at each well, of these.
 * @param outs what was said and is not ended; as it stands, unless something of it is just being ended
 * @throws Refusal `notSetUp`
 */
export function outsIn(
  held: HeldHouse,
  ingredients: readonly Ingredient[],
  outs: HeldTonight['outs'] = held.tonight.outs,
): NonNullable<HouseBook['outAt']> {
  const { wells, glasses } = baseOf(held)
  const marks = outs.map(({ id, document, ingredient }) => ({
    id,
    ...document,
    ...(ingredient === null ? {} : { ingredient }),
  }))
  const lots = marks.length === 0 ? [] : ingredients.flatMap((i) => held.openLotsOf(i.slug))
  return outsAt(marks, { ingredients: marks.length === 0 ? [] : ingredients, glasses, lots }, wells)
}
