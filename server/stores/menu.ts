import type { Menu } from '@conch/contract'
import type { MenuPlan } from '@conch/core/menu'
import { eq, sql } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { menuPlan } from '../database/schema.ts'
import type { Stamp } from './drafts.ts'

export async function findPlan(db: Database): Promise<Menu | undefined> {
  const [row] = await db.select().from(menuPlan)
  return row && { plan: row.plan, revision: row.revision, savedBy: row.savedBy, savedAt: row.savedAt.toISOString() }
}

/** Writes the plan on the revision it was made from, 0 for none. @returns false when another stands there */
export async function writePlan(db: Database, plan: MenuPlan, revision: number, stamp: Stamp): Promise<boolean> {
  if (revision === 0) {
    return (
      (
        await db
          .insert(menuPlan)
          .values({ plan, ...stamp })
          .onConflictDoNothing()
          .returning()
      ).length > 0
    )
  }
  const rows = await db
    .update(menuPlan)
    .set({ plan, ...stamp, revision: sql`${menuPlan.revision} + 1` })
    .where(eq(menuPlan.revision, revision))
    .returning()
  return rows.length > 0
}

/**
 * Takes the plan as published: its revision moves on, so that nobody publishes the same look at it twice.
 * @returns false when another revision stands there
 */
export async function passPlan(db: Database, revision: number): Promise<boolean> {
  const rows = await db
    .update(menuPlan)
    .set({ revision: sql`${menuPlan.revision} + 1` })
    .where(eq(menuPlan.revision, revision))
    .returning({ revision: menuPlan.revision })
  return rows.length > 0
}
