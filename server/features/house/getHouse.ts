import type { House } from '@conch/contract'
import { baseOf, type HeldHouse } from '../../held/index.ts'

/** What is small and on every page. Nothing of it is sealed. @throws Refusal `notSetUp` */
export function houseOf(held: HeldHouse): House {
  const fruits: House['fruits'] = {}
  for (const { slug, fruit } of held.allIngredients()) {
    const each = fruit && held.fruitYieldOf(slug)
    if (each && !fruits[fruit.name]) fruits[fruit.name] = { ml: Number(each.mlPerFruit.toFixed(1)), basis: each.basis }
  }
  return { ...baseOf(held), fruits }
}
