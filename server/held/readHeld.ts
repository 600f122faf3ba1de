/** From the database to memory: the whole house once, afterwards what events changed. */

import type { EventKind } from '@conch/contract'
import { ingredientSchema } from '@conch/core/house/schema'
import type { Flight, FlightDocument } from '@conch/core/palate'
import { formOf } from '@conch/core/schema'
import { standingCalibrations } from '@conch/core/trials'
import { asc, eq, gt, inArray, sql } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { inTurn, othersTurn } from '../database/othersTurn.ts'
import {
  chainHead,
  documentDrafts,
  events,
  flights,
  glasses,
  house,
  ingredients,
  slots,
  stations,
  wells,
} from '../database/schema.ts'
import { loadDraftedDrinks } from '../stores/drafts.ts'
import { loadDrinks } from '../stores/drinks.ts'
import { findNewestListing } from '../stores/editions.ts'
import { findOpenLots, isPressed, loadOpenLots, loadPressings } from '../stores/lots.ts'
import { findPlan } from '../stores/menu.ts'
import { loadPeople } from '../stores/people.ts'
import { readAsText } from '../stores/readAsText.ts'
import { loadTonight } from '../stores/tonight.ts'
import { loadCalibrations, loadTrials } from '../stores/trials.ts'
import type {
  ChainPoint,
  Changes,
  HeldDrafts,
  HeldHouse,
  HeldIngredient,
  HouseBase,
  Listed,
  Whole,
} from './heldHouse.ts'

const MOST_PRESSINGS = 200
/** Newer trials than a calibration knows are among these. */
const NEWEST_TRIALS = 200

export async function readHead(db: Database): Promise<ChainPoint> {
  const [head] = await db.select({ sequence: chainHead.sequence, hash: chainHead.hash }).from(chainHead)
  return head ?? { sequence: 0, hash: '' }
}

/**
 * Tells one state of the drafts from another: every saved one gets the next number, so how many there are and the
 * newest number together come only once.
 * @param before what was known: given back where nothing changed
 */
export async function readDrafts(db: Database, before?: HeldDrafts): Promise<HeldDrafts> {
  const [row] = await db
    .select({
      count: sql<number>`count(*)::int`,
      newest: sql<number>`coalesce(max(${documentDrafts.revision}), 0)::int`,
    })
    .from(documentDrafts)
  const state = `${row?.count}.${row?.newest}`
  return before?.state === state ? before : { state, drinks: await loadDraftedDrinks(db) }
}

/** What is planned and poured. */
export async function readListed(db: Database): Promise<Listed> {
  const plan = await findPlan(db)
  const newest = await findNewestListing(db)
  const planned = new Map(plan?.plan.chapters.flatMap((c) => c.entries.map((e) => [e.drink, e.version])))
  return { plan, planned, edition: newest?.number ?? 0, poured: newest?.versions ?? new Map() }
}

/** Settings, wells, glasses, slots and what trials say; undefined before a house is set up. */
export async function readBase(db: Database): Promise<HouseBase | undefined> {
  const [row] = await db.select().from(house)
  if (!row) return undefined
  const wellRows = await db.select().from(wells).orderBy(asc(wells.position))
  const stationRows = await db
    .select()
    .from(stations)
    .where(eq(stations.isRemoved, false))
    .orderBy(asc(stations.position))
  const glassRows = await db.select().from(glasses).orderBy(asc(glasses.position), asc(glasses.slug))
  const slotRows = await db.select().from(slots).orderBy(asc(slots.position), asc(slots.slug))
  const houseWells = wellRows.map((w) => ({
    ...w.document,
    stations: stationRows.filter((s) => s.well === w.slug).map((s) => s.document),
  }))
  const calibrations = await loadCalibrations(db)
  const trials = calibrations.length > 0 ? await loadTrials(db, NEWEST_TRIALS) : []
  return {
    settings: row.settings,
    wells: houseWells,
    glasses: glassRows.map((g) => g.document),
    slots: slotRows.map((s) => s.document),
    calibrations: standingCalibrations(calibrations, trials, houseWells),
    isDemo: row.isDemo,
    revisions: {
      settings: row.revision,
      wells: revisionsOf(wellRows),
      glasses: revisionsOf(glassRows),
      slots: revisionsOf(slotRows),
    },
  }
}

const revisionsOf = (rows: { slug: string; revision: number }[]) =>
  Object.fromEntries(rows.map((r) => [r.slug, r.revision]))

const ingredientForm = formOf(ingredientSchema)
/** So many at once: one text for many rows is read several times as fast as rows. */
const ROWS_AT_ONCE = 2000

async function readIngredients(db: Database, only?: readonly string[]): Promise<HeldIngredient[]> {
  if (only) {
    const rows = await db
      .select()
      .from(ingredients)
      .where(inArray(ingredients.slug, [...only]))
    return rows.map(({ slug: _, ...row }) => row)
  }
  const all: HeldIngredient[] = []
  for (let after = ''; ; ) {
    const rows = await readAsText<[string, number, number, unknown]>(
      db,
      sql`select slug, json_build_array(slug, position, revision, document) as row from ingredients
          where slug > ${after} order by slug limit ${ROWS_AT_ONCE}`,
    )
    await othersTurn()
    for (const [, position, revision, document] of rows)
      all.push({ position, revision, document: ingredientForm.parse(document) })
    if (rows.length < ROWS_AT_ONCE) return all
    after = rows.at(-1)?.[0] ?? ''
  }
}

/** Flights behind one, oldest first: who said what of which bottle, without the notes. */
async function readFlights(db: Database, after: number): Promise<Flight[]> {
  const all: Flight[] = []
  for (let from = after; ; ) {
    const rows = await readAsText<[number, string, string, FlightDocument['scores']]>(
      db,
      sql`select id, json_build_array(id, tasted_on, saved_by, document -> 'scores') as row from ${flights}
          where id > ${from} order by id limit ${ROWS_AT_ONCE}`,
    )
    await othersTurn()
    for (const [id, on, by, scores] of rows) all.push({ id, on, by, document: { scores } })
    if (rows.length < ROWS_AT_ONCE) return all
    from = rows.at(-1)?.[0] ?? from
  }
}

/** @returns everything, as of the head that was there when it began, or later */
export async function readWhole(db: Database): Promise<Whole> {
  const at = await readHead(db)
  const base = await readBase(db)
  const known = {
    at,
    drafts: await readDrafts(db),
    listed: await readListed(db),
    base,
    people: await loadPeople(db),
    allDrinks: await inTurn(() => loadDrinks(db)),
    tonight: await loadTonight(db),
  }
  if (!base) return { ...known, ingredients: [], openLots: [], pressings: [], flights: [] }
  return {
    ...known,
    ingredients: await inTurn(() => readIngredients(db)),
    openLots: await inTurn(() => loadOpenLots(db)),
    pressings: await inTurn(() => loadPressings(db, MOST_PRESSINGS)),
    flights: await inTurn(() => readFlights(db, 0)),
  }
}

/** What happened since; undefined when it is another house, or one event says that everything is new. */
export async function readEvents(
  db: Database,
  since: ChainPoint,
): Promise<
  { at: ChainPoint; events: { sequence: number; kind: EventKind; subject: string; verb: string }[] } | undefined
> {
  const rows = await db
    .select({
      sequence: events.sequence,
      kind: events.kind,
      subject: events.subject,
      verb: events.verb,
      hash: events.hash,
    })
    .from(events)
    .where(gt(events.sequence, since.sequence - 1))
    .orderBy(asc(events.sequence))
  const first = since.sequence === 0 ? { sequence: 0, hash: since.hash } : rows.shift()
  if (first?.sequence !== since.sequence || first.hash !== since.hash) return undefined
  if (rows.some((e) => e.kind === 'house' && ALL_NEW.has(e.verb))) return undefined
  const last = rows.at(-1) ?? first
  return { at: { sequence: last.sequence, hash: last.hash }, events: rows }
}

/** What a house itself can have happened to it after which nothing is as it was. */
const ALL_NEW: ReadonlySet<string> = new Set(['began', 'setUp', 'imported'])

type Reader = (db: Database, subjects: string[], held: HeldHouse) => Promise<Partial<Changes>>

const readBaseAgain: Reader = async (db) => ({ base: await readBase(db) })
const readListedAgain: Reader = async (db) => ({ listed: await readListed(db) })
const readNothing: Reader = async () => ({})
const readTonight: Reader = async (db) => ({ tonight: await loadTonight(db) })
/** A new model of the ice may write versions of many. */
const readAllDrinks: Reader = async (db) => ({
  drinks: new Map((await loadDrinks(db)).map((d) => [d.slug, d])),
  listed: await readListed(db),
})

/** What each kind of event changes of what is held. */
const READERS: Record<EventKind, Reader> = {
  house: readAllDrinks,
  settings: readBaseAgain,
  well: readBaseAgain,
  glass: readBaseAgain,
  slot: readBaseAgain,
  trial: readBaseAgain,
  station: readBaseAgain,
  ingredient: async (db, slugs) => ({ ingredients: await readIngredients(db, slugs) }),
  bottles: async (db) => ({ ingredients: await readIngredients(db) }),
  lot: async (db, subjects) => {
    const ids = subjects.map(Number)
    const open = new Map((await findOpenLots(db, ids)).map((lot) => [lot.id, lot]))
    const hasPressed = await isPressed(db, ids)
    return {
      lots: new Map(ids.map((id) => [id, open.get(id)])),
      ...(hasPressed ? { pressings: await loadPressings(db, MOST_PRESSINGS) } : {}),
    }
  },
  flight: async (db, _, held) => ({ flights: await readFlights(db, held.lastFlight) }),
  person: async (db) => ({ people: await loadPeople(db) }),
  session: readNothing,
  device: readNothing,
  batch: readNothing,
  out: readTonight,
  tonight: readTonight,
  round: readNothing,
  practice: readNothing,
  drink: async (db, slugs) => {
    const found = new Map((await loadDrinks(db, slugs)).map((d) => [d.slug, d]))
    return { drinks: new Map(slugs.map((slug) => [slug, found.get(slug)])) }
  },
  plan: readListedAgain,
  decision: readListedAgain,
  tasting: readNothing,
  note: readNothing,
  edition: readListedAgain,
}

/** What these events changed, as it stands now. */
export async function readChanges(
  db: Database,
  held: HeldHouse,
  happened: { at: ChainPoint; events: Changes['events'] },
): Promise<Changes> {
  const subjects = new Map<Reader, Set<string>>()
  for (const { kind, subject } of happened.events) {
    const reader = READERS[kind]
    const of = subjects.get(reader) ?? new Set()
    subjects.set(reader, of.add(subject))
  }
  const changes: Changes = { ...happened, drafts: await readDrafts(db, held.drafts) }
  const bottles: HeldIngredient[] = []
  for (const [reader, of] of subjects) {
    const { ingredients: some = [], ...others } = await reader(db, [...of], held)
    // One by one and by a table: two readers may bring some.
    bottles.push(...some)
    Object.assign(changes, others)
  }
  return bottles.length > 0 ? { ...changes, ingredients: bottles } : changes
}
