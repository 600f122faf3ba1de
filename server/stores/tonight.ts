/** What is out, and what was chosen for a night. */

import type { TonightChoiceDocument } from '@conch/core/drink/tonightChoiceSchema'
import type { OutDocument, OutEnd } from '@conch/core/schema/tonight'
import { asc, desc, eq, isNull, sql } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { lots } from '../database/schema.ts'
import { outEnds, outs, tonightChoiceEnds, tonightChoices } from '../database/tonightSchema.ts'

export interface StoredOut {
  id: number
  document: OutDocument
  /** Of a lot: what it is a lot of; null of all else. */
  ingredient: string | null
  savedBy: string
  savedAt: string
}

export interface StoredChoice {
  id: number
  drink: string
  /** The version that is poured otherwise. */
  number: number
  well: string | null
  night: string
  document: TonightChoiceDocument
  savedBy: string
  savedAt: string
}

/** A copy that somebody wrote by hand may name anything. */
const LOT_OF = sql`case when ${outs.document} ->> 'kind' = 'lot' and ${outs.document} ->> 'of' ~ '^[0-9]{1,9}$'
  then (${outs.document} ->> 'of')::int end`

/** Of choices the newest: those of this night are among them. */
const MOST_CHOICES = 300

/** Everything that was said to be out or low and is not back, oldest first; and what was chosen lately and is not ended. */
export async function loadTonight(db: Database): Promise<{ outs: StoredOut[]; choices: StoredChoice[] }> {
  const out = await db
    .select({
      id: outs.id,
      document: outs.document,
      ingredient: lots.ingredient,
      savedBy: outs.savedBy,
      savedAt: outs.savedAt,
    })
    .from(outs)
    .leftJoin(outEnds, eq(outEnds.out, outs.id))
    .leftJoin(lots, sql`${lots.id} = ${LOT_OF}`)
    .where(isNull(outEnds.id))
    .orderBy(asc(outs.id))
  const { id, drink, number, well, night, document, savedBy, savedAt } = tonightChoices
  const choices = await db
    .select({ id, drink, number, well, night, document, savedBy, savedAt })
    .from(tonightChoices)
    .leftJoin(tonightChoiceEnds, eq(tonightChoiceEnds.choice, tonightChoices.id))
    .where(isNull(tonightChoiceEnds.id))
    .orderBy(desc(tonightChoices.id))
    .limit(MOST_CHOICES)
  const plain = <T extends { savedAt: Date }>(row: T) => ({ ...row, savedAt: row.savedAt.toISOString() })
  return { outs: out.map(plain), choices: choices.map(plain).reverse() }
}

export async function insertOut(db: Database, row: typeof outs.$inferInsert): Promise<number> {
  const [made] = await db.insert(outs).values(row).returning({ id: outs.id })
  if (!made) throw new Error('bug: what is out was not stored')
  return made.id
}

/** @returns the row's number; undefined where it has ended before */
export async function insertOutEnd(
  db: Database,
  row: Omit<typeof outEnds.$inferInsert, 'event'> & { event: OutEnd },
): Promise<number | undefined> {
  const [made] = await db.insert(outEnds).values(row).onConflictDoNothing().returning({ id: outEnds.id })
  return made?.id
}

/** Whether it was ever said, and how it ended. */
export async function findOut(
  db: Database,
  id: number,
): Promise<{ document: OutDocument; end: { why: OutEnd['why']; by: string } | undefined } | undefined> {
  const [row] = await db
    .select({ document: outs.document, event: outEnds.event, by: outEnds.by })
    .from(outs)
    .leftJoin(outEnds, eq(outEnds.out, outs.id))
    .where(eq(outs.id, id))
  return (
    row && {
      document: row.document,
      end: row.event && row.by !== null ? { why: row.event.why, by: row.by } : undefined,
    }
  )
}

export async function insertChoice(db: Database, row: typeof tonightChoices.$inferInsert): Promise<number> {
  const [made] = await db.insert(tonightChoices).values(row).returning({ id: tonightChoices.id })
  if (!made) throw new Error('bug: what was chosen was not stored')
  return made.id
}

export async function insertChoiceEnd(
  db: Database,
  row: typeof tonightChoiceEnds.$inferInsert,
): Promise<number | undefined> {
  const [made] = await db
    .insert(tonightChoiceEnds)
    .values(row)
    .onConflictDoNothing()
    .returning({ id: tonightChoiceEnds.id })
  return made?.id
}
