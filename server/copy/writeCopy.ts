import { createHash } from 'node:crypto'
import { sql } from 'drizzle-orm'
import type { PgColumn } from 'drizzle-orm/pg-core'
import type { Database } from '../database/index.ts'
import { schemaStep } from '../database/paths.ts'
import { rowsInOrder, type UpTo } from '../database/rowsInOrder.ts'
import { plainRow, type Row } from '../events/history.ts'
import { COPY_FORMAT, COPY_VERSION, type CopyHead } from './format.ts'
import { COPIED, type CopiedTable } from './tables.ts'

/** What was there when the copy began: small tables whole, of the others how far they went. */
interface Snapshot {
  head: CopyHead
  rows: Map<string, Row[]>
  upTo: Map<string, UpTo>
}

type Rows = { rows: Record<string, unknown>[] }

async function takeSnapshot(db: Database): Promise<Snapshot> {
  return db.transaction(
    async (tx) => {
      const rows = new Map<string, Row[]>()
      const upTo = new Map<string, UpTo>()
      const counts: Record<string, number> = {}
      for (const t of COPIED) {
        if (t.grows) {
          const { count, last } = await howFar(tx, t)
          counts[t.name] = count
          upTo.set(t.name, last)
          continue
        }
        const all: Row[] = []
        for await (const row of rowsInOrder(tx, t.table, t.key)) all.push(plainRow(row))
        rows.set(t.name, all)
        counts[t.name] = all.length
      }
      const [last] = ((await tx.execute(sql`select last_value::int as n from draft_revisions`)) as unknown as Rows).rows
      const head: CopyHead = {
        format: COPY_FORMAT,
        formatVersion: COPY_VERSION,
        schemaStep: schemaStep(),
        draftRevision: last?.n as number,
        counts,
      }
      return { head, rows, upTo }
    },
    { isolationLevel: 'repeatable read', accessMode: 'read only' },
  )
}

/** Rows only come, with ever higher numbers: how high they are says what is there. One look, for others wait. */
async function howFar(db: Database, { table, key }: CopiedTable): Promise<{ count: number; last: UpTo }> {
  const [first, second] = key as [PgColumn, PgColumn | undefined]
  if (first.dataType === 'number') {
    const found = await db.execute(sql`select max(${first})::int as n, count(*)::int as count from ${table}`)
    const [row] = (found as unknown as Rows).rows
    return { count: row?.count as number, last: { id: (row?.n as number | null) ?? 0 } }
  }
  const found = await db.execute(
    sql`select ${first} as owner, max(${second})::int as n, count(*)::int as count from ${table} group by ${first}`,
  )
  const { rows } = found as unknown as Rows
  return {
    count: rows.reduce((n, r) => n + (r.count as number), 0),
    last: { numbers: new Map(rows.map((r) => [r.owner as string, r.n as number])) },
  }
}

/**
 * A copy of the whole house, line by line, each with its line end. Two copies of the same history are the same to
 * the byte: the head carries no clock. Others may save meanwhile; what they save is not in it.
 */
export async function* writeCopy(db: Database): AsyncGenerator<string> {
  const { head, rows, upTo } = await takeSnapshot(db)
  const hash = createHash('sha256')
  let lines = 0
  const line = (value: unknown): string => {
    const text = `${JSON.stringify(value)}\n`
    hash.update(text)
    lines += 1
    return text
  }
  yield line(head)
  for (const { name, table, key, grows } of COPIED) {
    if (!grows) for (const row of rows.get(name) ?? []) yield line({ table: name, row })
    else
      for await (const row of rowsInOrder(db, table, key, upTo.get(name)))
        yield line({ table: name, row: plainRow(row) })
  }
  yield `${JSON.stringify({ end: COPY_FORMAT, lines, sha256: hash.digest('hex') })}\n`
}
