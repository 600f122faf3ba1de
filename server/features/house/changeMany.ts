import type { ChangeMany } from '@conch/contract'
import type { Ingredient } from '@conch/core/house'
import type { Actor } from '../../access/actor.ts'
import { mayOpen } from '../../access/seal.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { heldHouse } from '../../held/index.ts'
import { upsertIngredients } from '../../stores/house.ts'

/**
 * Sets stock or place of many things of the shelf: all of it, or nothing.
 * @throws Refusal `conflict` naming what somebody changed in between
 */
export async function changeMany(
  { changes }: ChangeMany,
  { role }: Actor,
  { db, record }: Write,
): Promise<{ revisions: Record<string, number> }> {
  const held = await heldHouse(db)
  const seen = new Set<string>()
  const was: Ingredient[] = []
  const is = changes.map(({ slug, revision, stock, storedIn }, i): Ingredient => {
    const before = held.ingredient(slug)
    if (!before) throw invalid(`changes.${i}.slug`, `there is no ingredient “${slug}”`)
    if (seen.has(slug)) throw invalid(`changes.${i}.slug`, `“${slug}” is there twice`)
    seen.add(slug)
    if (before.isSealed && !mayOpen(role))
      throw new Refusal('notAllowed', `${before.name} is sealed; only a manager changes it`)
    if (held.ingredientRevision(slug) !== revision)
      throw new Refusal('conflict', `“${slug}” was changed in between; load it again and repeat`, { current: before })
    was.push(before)
    const { stock: _, ...rest } = before
    const kept = stock === undefined ? before.stock : (stock ?? undefined)
    return { ...rest, ...(kept ? { stock: kept } : {}), ...(storedIn ? { storedIn } : {}) }
  })
  await upsertIngredients(db, is)
  record({ kind: 'bottles', subject: 'picked', verb: 'changed', detail: { was, is } })
  return { revisions: Object.fromEntries(changes.map((c) => [c.slug, c.revision + 1])) }
}
