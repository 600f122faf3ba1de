/** What every drink pours of everything, kept beside the versions: nobody reads them all to know what is usual. */

import { countedPours, type UsualRange, usualRangeOf } from '@conch/core/reading'
import { asc, eq, gt, inArray, sql } from 'drizzle-orm'
import type { Database, OpenDatabase } from '../database/index.ts'
import { othersTurn } from '../database/othersTurn.ts'
import { drinks, usualPours, versions } from '../database/schema.ts'
import { eventsBehind } from '../events/index.ts'
import { baseOf, type Held, type HeldHouse } from '../held/index.ts'
import { loadUpTo, saveUpTo } from './glassStore.ts'

const FORM = 1
/** How long whoever asks waits for what is being counted. */
const PATIENCE_MS = 200
/** So many drinks at once while all are counted: others are answered in between. */
const DRINKS_AT_ONCE = 10

export class UsualPours {
  private readonly database: OpenDatabase
  private readonly held: Held
  private houseId = ''
  private digested = 0
  private madeWith = ''
  private changes = 0
  private counting: Promise<void> = Promise.resolve()

  constructor({ database, held }: { database: OpenDatabase; held: Held }) {
    this.database = database
    this.held = held
  }

  /** Counts what was written since; all of it where the house measures otherwise now. */
  count(): Promise<void> {
    const mine = this.counting.then(() => this.countNow())
    this.counting = mine.catch(() => {})
    return mine
  }

  /** Another one whenever something else may be usual. While all is counted anew nobody waits for it. */
  async state(): Promise<string> {
    const counted = this.count()
    const patience = new Promise((resolve) => setTimeout(resolve, PATIENCE_MS).unref())
    await Promise.race([counted, patience])
    return `${this.houseId}.${this.digested}.${this.changes}`
  }

  /** What is usual of these, ml for one serve, by slug; by kind where the house has hardly poured it. */
  async of(slugs: readonly string[]): Promise<Record<string, UsualRange>> {
    const held = await this.held.now()
    const known = slugs.flatMap((slug) => held.ingredient(slug) ?? [])
    const rows =
      known.length === 0
        ? []
        : await this.database.db
            .select({ ingredient: usualPours.ingredient, volumesMl: usualPours.volumesMl })
            .from(usualPours)
            .where(
              inArray(
                usualPours.ingredient,
                known.map((i) => i.slug),
              ),
            )
    return Object.fromEntries(
      known.flatMap((i) => {
        const range = usualRangeOf(
          i,
          rows.filter((r) => r.ingredient === i.slug).map((r) => r.volumesMl),
        )
        return range ? [[i.slug, range]] : []
      }),
    )
  }

  private async countNow(): Promise<void> {
    const held = await this.held.now()
    if (!held.base) return
    const { db } = this.database
    const madeWith = `form ${FORM}, ${JSON.stringify(held.base.settings.kit)}`
    const { sequence } = held.at
    if (held.id === this.houseId && madeWith === this.madeWith && sequence === this.digested) return
    const upTo = await loadUpTo(db, 'usualPours')
    if (upTo?.madeWith !== madeWith || upTo.sequence > sequence) await this.countAll(held)
    else {
      const happened = held.id === this.houseId ? held.eventsSince(this.digested) : undefined
      const since = happened ?? (await eventsBehind(db, upTo.sequence))
      // A new model of the ice may write versions of many drinks.
      if (since.some((e) => e.kind === 'house')) await this.countAll(held)
      else
        for (const slug of new Set(since.flatMap((e) => (e.kind === 'drink' ? [e.subject] : []))))
          await countDrinks(db, [slug], held)
    }
    if (upTo?.sequence !== sequence || upTo.madeWith !== madeWith) await saveUpTo(db, 'usualPours', sequence, madeWith)
    this.changes += 1
    Object.assign(this, { houseId: held.id, madeWith, digested: sequence })
  }

  private async countAll(held: HeldHouse): Promise<void> {
    const { db } = this.database
    for (let after = ''; ; ) {
      const rows = await db
        .select({ slug: drinks.slug })
        .from(drinks)
        .where(gt(drinks.slug, after))
        .orderBy(asc(drinks.slug))
        .limit(DRINKS_AT_ONCE)
      const slugs = rows.map((r) => r.slug)
      if (slugs.length > 0) await countDrinks(db, slugs, held)
      await othersTurn()
      if (slugs.length < DRINKS_AT_ONCE) return
      after = slugs.at(-1) ?? ''
    }
  }
}

/** Counts what these drinks pour anew, from all their versions. */
async function countDrinks(db: Database, slugs: readonly string[], held: HeldHouse): Promise<void> {
  const { kit } = baseOf(held).settings
  const rows = await db
    .select({ drink: versions.drink, document: versions.document })
    .from(versions)
    .where(inArray(versions.drink, [...slugs]))
    .orderBy(asc(versions.drink), asc(versions.number))
  const counted = new Map<string, { ingredient: string; drink: string; volumesMl: number[] }>()
  for (const { drink, document } of rows)
    for (const { slug: ingredient, ml } of countedPours(document, kit)) {
      const key = `${drink} ${ingredient}`
      const row = counted.get(key) ?? { ingredient, drink, volumesMl: [] }
      row.volumesMl.push(ml)
      counted.set(key, row)
    }
  await db.transaction(async (tx) => {
    await tx.delete(usualPours).where(inArray(usualPours.drink, [...slugs]))
    if (counted.size === 0) return
    // Another process may count the same at the same time.
    await tx
      .insert(usualPours)
      .values([...counted.values()])
      .onConflictDoUpdate({
        target: [usualPours.ingredient, usualPours.drink],
        set: { volumesMl: sql`excluded.volumes_ml` },
      })
  })
}

/** The drinks that pour every one of these by name. */
export async function drinksPouringAll(db: Database, slugs: readonly string[]): Promise<string[]> {
  const [first, ...others] = slugs
  if (first === undefined) return []
  let found = (
    await db.select({ drink: usualPours.drink }).from(usualPours).where(eq(usualPours.ingredient, first))
  ).map((r) => r.drink)
  for (const slug of others) {
    const rows = await db.select({ drink: usualPours.drink }).from(usualPours).where(eq(usualPours.ingredient, slug))
    const also = new Set(rows.map((r) => r.drink))
    found = found.filter((d) => also.has(d))
  }
  return found
}
