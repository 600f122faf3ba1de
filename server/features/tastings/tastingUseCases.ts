import { randomBytes, randomInt } from 'node:crypto'
import type { MakeTasting, Tasting, TastingListing } from '@conch/contract'
import { drawTasting, standingSheets, type TastingKey, type TastingSheet } from '@conch/core/tasting'
import { type Actor, stampOf } from '../../access/actor.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import { hashOf } from '../../events/hash.ts'
import type { Write } from '../../events/index.ts'
import { type HeldHouse, heldHouse } from '../../held/index.ts'
import type { Services } from '../../http/route.ts'
import { loadVersionsOf } from '../../stores/drinks.ts'
import * as store from '../../stores/tastings.ts'

/** The newest are enough to find one again. */
const MOST_LISTED = 200
/** Seeds of a draw. */
const SEEDS = 2 ** 31

type Namer = (key: { drink: string; version: number }) => string

function namerOf(held: HeldHouse): Namer {
  return ({ drink, version }) => `${held.drinks.get(drink)?.name ?? drink}, v${version}`
}

export async function listTastings({
  database: { db },
  held: holder,
}: Pick<Services, 'database' | 'held'>): Promise<TastingListing[]> {
  const name = namerOf(await holder.now())
  return (await store.loadTastings(db, MOST_LISTED)).map(({ id, document, savedAt, end }) => ({
    id,
    question: document.question,
    names: document.subjects.map(name),
    tasters: document.tasters.length,
    maker: document.maker,
    savedAt: savedAt.toISOString(),
    end: end?.event.kind ?? null,
  }))
}

/** A tasting as whoever asks may see it: of an open one only their own sheets. @throws Refusal `notFound` */
export async function showTasting(
  id: number,
  actor: Actor,
  { database: { db }, held: holder }: Pick<Services, 'database' | 'held'>,
): Promise<Tasting> {
  const tasting = await getTasting(db, id)
  const name = namerOf(await holder.now())
  const written = await store.loadSheets(db, id)
  const sheets = standingSheets(written.map((w) => ({ ...w.sheet, by: w.by })))
  const isClosed = tasting.end?.event.kind === 'closed'
  const judged: Record<string, number> = {}
  for (const s of sheets) judged[s.taster] = (judged[s.taster] ?? 0) + 1
  const { savedById: _, savedAt, ...row } = tasting
  return {
    ...row,
    savedAt: savedAt.toISOString(),
    names: row.document.subjects.map(name),
    judged,
    sheets: sheets.filter((s) => isClosed || s.by === (actor.id ?? null)).map(({ by: __, ...sheet }) => sheet),
  }
}

async function getTasting(db: Parameters<typeof store.findTasting>[0], id: number): Promise<store.KeptTasting> {
  const tasting = await store.findTasting(db, id)
  if (!tasting) throw new Refusal('notFound', `there is no tasting ${id}`)
  return tasting
}

function assertOpen({ id, end }: store.KeptTasting): void {
  if (!end) return
  const how = end.event.kind === 'closed' ? 'closed' : 'abandoned'
  throw new Refusal('conflict', `tasting ${id} was ${how} by ${end.by}; nothing is written on it any more`)
}

/** Which glass is which: told to the maker alone. @throws Refusal `notAllowed` */
export async function showKey(
  id: number,
  actor: Actor,
  { database: { db } }: Pick<Services, 'database'>,
): Promise<TastingKey> {
  const tasting = await getTasting(db, id)
  if (tasting.end?.event.kind === 'closed') return tasting.end.event.key
  assertMaker(tasting, actor, 'see which glass is which')
  return keyOrRefuse(await store.findKey(db, id), id)
}

function assertMaker({ document }: store.KeptTasting, actor: Actor, what: string): void {
  if (document.makerId === null || actor.id !== document.makerId)
    throw new Refusal('notAllowed', `only ${document.maker}, who makes the drinks, may ${what} before it is closed`)
}

function keyOrRefuse(key: TastingKey | undefined, id: number): TastingKey {
  if (key) return key
  throw new Refusal('conflict', `the key of tasting ${id} did not come along with the copy of the house; abandon it`)
}

/** Draws codes and orders. Which code is which is drawn apart from them: nobody can work it out from what is seen. */
export async function makeTasting(request: MakeTasting, actor: Actor, write: Write): Promise<{ id: number }> {
  const { db: tx, now, record } = write
  const { question, subjects, tasters, makerId = actor.id } = request
  const found = await loadVersionsOf(tx, subjects)
  subjects.forEach(({ drink, version }, i) => {
    if (!found.has(`${drink} ${version}`))
      throw invalid(`subjects.${i}`, `there is no version ${version} of “${drink}”`)
    if (subjects.findIndex((s) => s.drink === drink && s.version === version) < i)
      throw invalid(`subjects.${i}`, `version ${version} of “${drink}” is there twice`)
  })
  const maker = makerId === undefined ? undefined : (await heldHouse(tx)).person(makerId)
  if (!maker) throw invalid('makerId', 'the maker is nobody who works here')
  tasters.forEach((taster, i) => {
    if (taster === maker.name) throw invalid(`tasters.${i}`, `${taster} makes the drinks and cannot taste blind`)
    if (tasters.indexOf(taster) < i) throw invalid(`tasters.${i}`, `${taster} is there twice`)
  })
  const draw = drawTasting({ subjects: subjects.length, tasters: tasters.length, seed: randomInt(SEEDS) })
  const key: TastingKey = { codes: secretly(draw.codes), salt: randomBytes(16).toString('hex') }
  const document = {
    question,
    subjects,
    tasters,
    maker: maker.name,
    makerId: maker.id,
    orders: draw.orders.map((order) => order.map((place) => draw.codes[place] as string)),
    keyHash: hashOf(key),
  }
  const id = await store.insertTasting(tx, { document, ...stampOf(actor, now()) }, key)
  const detail = { question, subjects, tasters, maker: maker.name }
  record({ kind: 'tasting', subject: String(id), verb: 'made', detail, kept: [['tastings', id]] })
  return { id }
}

/** In an order that follows from no seed. */
function secretly<T>(all: readonly T[]): T[] {
  const left = [...all]
  return all.map(() => left.splice(randomInt(left.length), 1)[0] as T)
}

/** Writes down what a taster says of a glass; once more, and the newer one counts. */
export async function addSheet(
  id: number,
  sheet: TastingSheet,
  actor: Actor,
  { db: tx, now, record }: Write,
): Promise<{ id: number }> {
  const tasting = await getTasting(tx, id)
  assertOpen(tasting)
  const { document } = tasting
  if (actor.id === document.makerId)
    throw new Refusal('notAllowed', `${document.maker} knows which glass is which and cannot judge them`)
  const place = document.tasters.indexOf(sheet.taster)
  if (place < 0) throw invalid('taster', `${sheet.taster} is none of its tasters: ${document.tasters.join(', ')}`)
  if (!document.orders[place]?.includes(sheet.code))
    throw invalid(
      'code',
      `there is no glass ${sheet.code}; there are ${[...(document.orders[place] ?? [])].sort().join(', ')}`,
    )
  const written = await store.insertSheet(tx, { tasting: id, document: sheet, ...stampOf(actor, now()) })
  const detail = { taster: sheet.taster, code: sheet.code }
  record({ kind: 'tasting', subject: String(id), verb: 'tasted', detail, kept: [['tasting_sheets', written]] })
  return { id: written }
}

/** Closes a tasting: from now on everybody sees which was which, and what was said. @throws Refusal with fewer than two tasters */
export async function closeTasting(id: number, actor: Actor, { db: tx, now, record }: Write): Promise<{ id: number }> {
  const tasting = await getTasting(tx, id)
  assertOpen(tasting)
  assertMaker(tasting, actor, 'close it')
  const sheets = await store.loadSheets(tx, id)
  const tasters = new Set(sheets.map((s) => s.sheet.taster))
  if (tasters.size < 2) {
    const who = tasters.size === 0 ? 'nobody has' : `only ${[...tasters][0]} has`
    throw new Refusal('invalid', `${who} judged a glass yet; with fewer than two tasters there is nothing to compare`)
  }
  const key = keyOrRefuse(await store.findKey(tx, id), id)
  if (hashOf(key) !== tasting.document.keyHash)
    throw new Refusal('conflict', `the key of tasting ${id} is not the one that it was drawn with; abandon it`)
  return end(id, { kind: 'closed', key }, actor, { db: tx, now, record })
}

/** Gives a tasting up; what was written on it stays, and nobody learns which was which. */
export async function abandonTasting(id: number, why: string, actor: Actor, write: Write): Promise<{ id: number }> {
  assertOpen(await getTasting(write.db, id))
  return end(id, { kind: 'abandoned', why }, actor, write)
}

async function end(
  id: number,
  event: Parameters<typeof store.insertEnd>[1]['event'],
  actor: Actor,
  { db: tx, now, record }: Pick<Write, 'db' | 'now' | 'record'>,
): Promise<{ id: number }> {
  const row = { tasting: id, at: now(), by: actor.name, byId: actor.id ?? null, event }
  const written = await store.insertEnd(tx, row)
  const detail = event.kind === 'abandoned' ? { why: event.why } : {}
  record({ kind: 'tasting', subject: String(id), verb: event.kind, detail, kept: [['tasting_events', written]] })
  return { id }
}
