import type { House } from '@conch/contract'
import type { Actor } from '../../access/actor.ts'
import { closeHouse, mayOpen } from '../../access/seal.ts'
import type { Database } from '../../database/index.ts'
import { baseOf, type HeldHouse } from '../../held/index.ts'
import type { Services } from '../../http/route.ts'
import { loadFlights } from '../tasting/store.ts'

/** The whole house, sealed formulas and all: not for an answer. @throws Refusal `notSetUp` */
export async function wholeHouse(held: HeldHouse, db: Database): Promise<House> {
  const { revisions, ...base } = baseOf(held)
  const ingredients = [...held.allIngredients()]
  const fruitYields: House['fruitYields'] = {}
  for (const { slug } of ingredients) {
    const fruitYield = held.fruitYieldOf(slug)
    if (fruitYield) fruitYields[slug] = fruitYield
  }
  return {
    ...base,
    ingredients,
    lots: held.allOpenLots(),
    flights: await loadFlights(db),
    fruitYields,
    revisions: {
      ...revisions,
      ingredients: Object.fromEntries(ingredients.map((i) => [i.slug, held.ingredientRevision(i.slug)])),
    },
  }
}

/** The house as one who asks may see it. @throws Refusal `notSetUp` */
export async function getHouseFor(actor: Actor, { database, now, held }: Services): Promise<House> {
  const house = await wholeHouse(await held.now(), database.db)
  return mayOpen(actor.role) ? house : closeHouse(house, now())
}
