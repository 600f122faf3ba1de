import { createHash } from 'node:crypto'
import { sql } from 'drizzle-orm'
import type { PgTable } from 'drizzle-orm/pg-core'
import type { z } from 'zod'
import type { Database } from '../database/index.ts'
import { schemaStep } from '../database/paths.ts'
import { chainHead, events } from '../database/schema.ts'
import { firstBadText } from '../errors/badText.ts'
import { describeIssues } from '../errors/describeIssues.ts'
import { Refusal } from '../errors/Refusal.ts'
import { verifyChain } from '../events/verify.ts'
import { COPY_VERSION, type CopyHead, footSchema, headSchema, rowLineSchema } from './format.ts'
import { COPIED, type CopiedTable, momentsOf } from './tables.ts'

/** A batch ends with whichever of the two comes first. */
const ROWS_AT_ONCE = 400
const CHARACTERS_AT_ONCE = 2_000_000
const MOST_LINE_CHARACTERS = 200_000_000

export interface CopyRead {
  lines: number
  /** Rows by table. */
  counts: Record<string, number>
}

export interface CopyOptions {
  /** Lines read, and how many there are. */
  onProgress?: (done: number, of: number) => void
  /** Asked now and then: whoever began it thought better of it. */
  isCancelled?: () => boolean
}

/** A copy that cannot come in: the line, and why. */
export function refuseCopy(line: number, why: string): never {
  throw new Refusal('invalid', `line ${line}: ${why}`, { fields: [{ field: `line ${line}`, message: why }] })
}

function parsed<T>(schema: z.ZodType<T>, value: unknown, line: number, what: string): T {
  const found = schema.safeParse(value)
  if (found.success) return found.data
  const [first] = describeIssues(found.error, value)
  return refuseCopy(line, `${what}${first ? ` ${first.field}: ${first.message}` : ' has another form'}`)
}

function jsonOf(text: string, line: number): unknown {
  if (text.length > MOST_LINE_CHARACTERS) refuseCopy(line, 'is longer than any row of a house')
  try {
    return JSON.parse(text)
  } catch {
    return refuseCopy(line, 'is not JSON')
  }
}

function readHead(text: string): CopyHead {
  const value = jsonOf(text, 1)
  const version = (value as { formatVersion?: unknown } | null)?.formatVersion
  if (typeof version === 'number' && version > COPY_VERSION)
    refuseCopy(
      1,
      `it is written in format ${version}; this Lazy Conch knows up to ${COPY_VERSION}: bring it up to date`,
    )
  const head = parsed(headSchema, value, 1, 'is not the head of a copy:')
  if (head.schemaStep > schemaStep())
    refuseCopy(
      1,
      `it is of a newer Lazy Conch (step ${head.schemaStep}, this one has ${schemaStep()}): bring it up to date`,
    )
  return head
}

/**
 * Brings a copy in, into an empty house: inside a transaction of the one who calls, so that it is all or nothing.
 * History comes in as it was: form, references, counts, the hash over all and the chain of events are checked; whether
 * today's rules would allow it is not asked.
 * @param lines without their line ends
 * @throws Refusal naming the line and the reason
 */
export async function readCopy(
  db: Database,
  lines: AsyncIterable<string>,
  { onProgress = () => {}, isCancelled = () => false }: CopyOptions = {},
): Promise<CopyRead> {
  const hash = createHash('sha256')
  const tables = new Map(COPIED.map((t, i) => [t.name, { ...t, place: i }]))
  const counts: Record<string, number> = {}
  let head: CopyHead | undefined
  let isEnded = false
  let line = 0
  let batch:
    | { table: CopiedTable & { place: number }; rows: Record<string, unknown>[]; size: number; first: number }
    | undefined
  const flush = async () => {
    if (batch) await insertRows(db, batch.table.table, batch.rows, batch.first)
    batch = undefined
  }
  for await (const text of lines) {
    line += 1
    if (isEnded) refuseCopy(line, 'stands behind the end of the copy')
    if (!head) {
      head = readHead(text)
      hash.update(`${text}\n`)
      continue
    }
    const value = jsonOf(text, line)
    if ((value as { end?: unknown } | null)?.end !== undefined) {
      const foot = parsed(footSchema, value, line, 'is not the end of a copy:')
      if (foot.lines !== line - 1)
        refuseCopy(line, `${foot.lines} lines should come before the end; there are ${line - 1}`)
      if (foot.sha256 !== hash.digest('hex'))
        refuseCopy(line, 'the hash over all lines is another: something was changed')
      isEnded = true
      continue
    }
    hash.update(`${text}\n`)
    const { table: name, row: found } = parsed(rowLineSchema, value, line, 'is not a row:')
    const table = tables.get(name) ?? refuseCopy(line, `there is nothing called “${name}” in a house`)
    const bad = firstBadText(found, '')
    if (bad !== undefined) refuseCopy(line, `${bad} holds a character that cannot be stored`)
    const checked = table.row.safeParse(found)
    if (!checked.success) parsed(table.row, found, line, `a row of ${name}:`)
    counts[name] = (counts[name] ?? 0) + 1
    if (batch && batch.table.place > table.place)
      refuseCopy(line, `rows of ${name} stand before those of ${batch.table.name}`)
    if (batch && (batch.table !== table || batch.rows.length >= ROWS_AT_ONCE || batch.size > CHARACTERS_AT_ONCE)) {
      await flush()
      onProgress(
        line,
        Object.values(head.counts).reduce((a, b) => a + b, 2),
      )
      if (isCancelled()) throw new Refusal('invalid', 'it was cancelled; nothing came in')
    }
    batch ??= { table, rows: [], size: 0, first: line }
    // As it stands in the copy, not as it was checked: to the byte.
    batch.rows.push(found)
    batch.size += text.length
  }
  await flush()
  if (!head) refuseCopy(1, 'the file is empty')
  if (!isEnded) refuseCopy(line, 'the copy ends here without its last line: it was cut short')
  for (const { name } of COPIED) {
    const [said = 0, came = 0] = [head.counts[name], counts[name]]
    if (said !== came) refuseCopy(1, `${said} rows of ${name} should follow; there are ${came}`)
  }
  await finish(db, head)
  const [broken] = (await verifyChain(db)).problems
  if (broken) throw new Refusal('invalid', `its chain of events does not hold: ${broken}`)
  return { lines: line, counts }
}

/** Rows under the keys that they had. @throws Refusal when one refers to what is not there, or is there twice */
async function insertRows(db: Database, table: PgTable, rows: Record<string, unknown>[], line: number): Promise<void> {
  const moments = momentsOf(table)
  const values = rows.map((row) => {
    const value = { ...row }
    for (const key of moments) if (typeof value[key] === 'string') value[key] = new Date(value[key])
    return value
  })
  try {
    await db.insert(table).values(values as never)
  } catch (error) {
    const cause = error instanceof Error && error.cause instanceof Error ? error.cause : undefined
    const { code, detail } = (cause ?? {}) as { code?: string; detail?: string }
    if (!code || !/^(22|23|CH)/.test(code)) throw error
    const until = rows.length === 1 ? '' : ` (among ${rows.length} lines from here)`
    refuseCopy(line, `${detail ?? cause?.message ?? 'it cannot be stored'}${until}`)
  }
}

/** Numbers go on behind the highest; the chain goes on behind its last event. */
async function finish(db: Database, head: CopyHead): Promise<void> {
  for (const { table, key, name } of COPIED) {
    const [id] = key
    if (key.length !== 1 || id?.dataType !== 'number' || !id.generatedIdentity) continue
    await db.execute(
      sql`select setval(pg_get_serial_sequence(${name}, ${id.name}), greatest(1, (select coalesce(max(${id}), 0) from ${table})::int), (select count(*) > 0 from ${table}))`,
    )
  }
  await db.execute(sql`select setval('draft_revisions', ${Math.max(1, head.draftRevision)}::int)`)
  const [last] = await db.select().from(events).orderBy(sql`${events.sequence} desc`).limit(1)
  if (last) await db.update(chainHead).set({ sequence: last.sequence, hash: last.hash })
}
