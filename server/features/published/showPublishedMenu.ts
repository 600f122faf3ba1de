import type { PublishedMenu } from '@conch/contract'
import type { EditionLock, LockedDrink } from '@conch/core/menu'
import type { Actor } from '../../access/actor.ts'
import { closeLock, mayOpen } from '../../access/seal.ts'
import type { Database } from '../../database/index.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { heldHouse } from '../../held/index.ts'
import { findEdition, newestEditionNumber } from '../../stores/editions.ts'
import { type InTonight, inDrinksTonight } from '../tonight/index.ts'

/** What a guest may read of a drink: nothing of what is poured, and strength in whole per cent. */
function shown(
  drink: LockedDrink,
  lock: EditionLock,
  tonight: InTonight | undefined,
): PublishedMenu['chapters'][number]['drinks'][number] {
  const at = Object.values(drink.byWell)[0]
  const locked = at?.consequences.flatMap((c) => (c.code === 'allergens' ? [c.text] : [])) ?? []
  const strength = at?.result.predictions.strengthPct?.value
  const glass = lock.book.glasses.find((g) => g.slug === drink.document.glass)?.name
  // What the edition does not know: a bottle that changed, or stands in for another.
  const more = tonight?.allergens.filter((a) => !locked.some((text) => text.includes(a))) ?? []
  return {
    name: drink.name,
    // Made otherwise it is as strong as it is made.
    ...(strength === undefined || tonight?.isOtherwise ? {} : { strengthPct: Math.round(strength) }),
    ...(glass === undefined ? {} : { glass }),
    allergens: [
      ...new Set(locked),
      ...(more.length > 0 ? [`${locked.length > 0 ? 'tonight also' : 'contains'} ${more.join(', ')}`] : []),
      ...(tonight?.isOtherwise ? ['made a little otherwise tonight: ask the bar'] : []),
      ...(tonight?.isUnsure ? ['ask the bar what is in it'] : []),
    ],
    isOff: tonight?.isOff ?? false,
  }
}

/** The newest edition for whoever looks in. @throws Refusal `notFound` before the first one */
export async function showPublishedMenu(db: Database, { role }: Actor, now: Date): Promise<PublishedMenu> {
  const edition = await findEdition(db, await newestEditionNumber(db))
  if (!edition) throw new Refusal('notFound', 'nothing is published yet')
  const { name, number, publishedAt } = edition
  // Rounded at last or at first, a sealed blend must not be told apart by it.
  const held = await heldHouse(db)
  const lock = mayOpen(role) ? edition.lock : closeLock(edition.lock, (slug) => held.ingredient(slug))
  const tonight = await inDrinksTonight(db, held, now)
  return {
    house: lock.book.settings.name,
    edition: { number, name, publishedAt },
    chapters: lock.chapters.map((c) => ({
      name: c.name,
      drinks: c.drinks.map((d) => shown(d, lock, tonight.get(d.drink))),
    })),
  }
}
