import { sealedAsOf } from '@conch/core/formula'
import { HOUSE } from '../../access/actor.ts'
import { inWrite } from '../../events/index.ts'
import { type HeldHouse, heldHouse, partFor } from '../../held/index.ts'
import type { Services } from '../../http/route.ts'
import { saveOnShelf } from '../../stores/house.ts'

const missing = (held: HeldHouse) => held.allIngredients().filter((i) => i.isSealed && i.recipe && !i.sealedAs)

/** What others may know of sealed mixes, for those of an older house, or one that came in: computed once, and kept. */
export async function keepSealed({ database, held, now }: Pick<Services, 'database' | 'held' | 'now'>): Promise<void> {
  const house = await held.now()
  if (!house.base || missing(house).length === 0) return
  await inWrite(database, { actor: HOUSE, now }, async ({ db, record }) => {
    const before = await heldHouse(db)
    for (const i of missing(before)) {
      const sealedAs = sealedAsOf(i, partFor(before, [i.slug]).ingredients, before.onShelf())
      if (!sealedAs) continue
      await saveOnShelf(db, 'ingredients', { ...i, sealedAs }, before.ingredientRevision(i.slug))
      const detail = { reason: 'what others may know of it is kept from now on' }
      record({ kind: 'ingredient', subject: i.slug, verb: 'changed', detail })
    }
  })
  await database.makeDurable()
}
