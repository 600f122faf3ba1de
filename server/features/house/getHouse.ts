import type { House } from '@conch/contract'
import type { Actor } from '../../access/actor.ts'
import { closeHouse, mayOpen } from '../../access/seal.ts'
import type { Database } from '../../database/index.ts'
import { Refusal } from '../../errors/Refusal.ts'
import type { Services } from '../../http/route.ts'
import { loadHouse } from './store.ts'

/** The whole house, sealed formulas and all: not for an answer. @throws Refusal `notSetUp` */
export async function getHouse(db: Database): Promise<House> {
  const found = await loadHouse(db)
  if (!found) throw new Refusal('notSetUp', 'set up the house first: its name, its ounce and its wells')
  return found
}

/** The house as one who asks may see it. @throws Refusal `notSetUp` */
export async function getHouseFor(actor: Actor, { database, now }: Services): Promise<House> {
  const house = await getHouse(database.db)
  return mayOpen(actor.role) ? house : closeHouse(house, now())
}
