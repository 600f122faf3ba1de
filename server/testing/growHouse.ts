/**
 * A house that grew for years, from a seed: written straight into the database of a house that is set up, with
 * every kind of history that once was awkward to bring elsewhere.
 */

import { dayAfter } from '@conch/core/calendar'
import type { DrinkDocument } from '@conch/core/drink'
import type { LotEvent } from '@conch/core/formula'
import { seededRandom } from '@conch/core/solve'
import { eq } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import * as t from '../database/schema.ts'

export interface Growth {
  seed: number
  drinks: number
  /** Versions of each drink. */
  versions: number
  lots: number
  flights: number
  /** Editions more, each a copy of the newest under another name. */
  editions: number
}

const WORDS = ['Tide', 'Anchor', 'Lantern', 'Mangrove', 'Copper', 'Ledger', 'Harbour', 'Pelican', 'Sluice', 'Ember']
const ROWS_AT_ONCE = 400
const FIRST_DAY = '2019-03-01'

/** Everything below is history: nothing of it is looked at by the rules of today. */
export async function growHouse(db: Database, growth: Growth): Promise<void> {
  const { uniform } = seededRandom(growth.seed)
  const pick = <T>(list: readonly T[]): T => {
    const found = list[Math.floor(uniform() * list.length)]
    if (found === undefined) throw new Error('bug: nothing to pick from')
    return found
  }
  const people = await db.select().from(t.people)
  const by = () => {
    const person = pick(people)
    return { savedBy: person.name, savedById: person.id }
  }
  const on = (i: number) => new Date(`${dayAfter(FIRST_DAY, i % 2500)}T21:${String(i % 60).padStart(2, '0')}:00.000Z`)
  const models = (await db.select({ document: t.versions.document }).from(t.versions)).map((v) => v.document)

  const drinks = Array.from({ length: growth.drinks }, (_, i) => ({
    slug: `grown-${String(i).padStart(5, '0')}`,
    name: `${pick(WORDS)} ${pick(WORDS)} ${i}`,
    isHidden: i % 50 === 7,
  }))
  await inBatches(drinks, (rows) => db.insert(t.drinks).values(rows))
  for (let d = 0; d < drinks.length; d += 40) {
    const versions = drinks.slice(d, d + 40).flatMap(({ slug, name }, i) =>
      Array.from({ length: growth.versions }, (_, v) => ({
        drink: slug,
        number: v + 1,
        parent: v === 0 ? null : Math.max(1, v - (i % 2)),
        label: v === 0 ? 'as found' : '',
        era: v === 0 ? 'about 1952' : '',
        source: v === 0 ? 'a card in the drawer' : '',
        reason: v === 0 ? '' : 'a touch less of everything',
        document: { ...agedDocument(pick(models), v, i), name },
        ...by(),
        savedAt: on(d + v),
      })),
    )
    await inBatches(versions, (rows) => db.insert(t.versions).values(rows))
    const parents = versions.flatMap((v) =>
      v.parent === null ? [] : [{ drink: v.drink, number: v.number, parentDrink: v.drink, parentNumber: v.parent }],
    )
    await inBatches(parents, (rows) => db.insert(t.versionParents).values(rows))
  }
  await growLots(db, growth.lots, { by, on })
  await growFlights(db, growth.flights, { by, on })
  await growEditions(db, growth.editions)
  await ageShelf(db)
}

/** A version as it may have been written years ago: by a station, a speed and a glass that are no longer there. */
function agedDocument(model: DrinkDocument, v: number, i: number): DrinkDocument {
  const pours = model.pours.map((p, k) =>
    p.amount && k === v % model.pours.length
      ? { ...p, amount: { ...p.amount, value: Math.max(0.25, p.amount.value - 0.25 * (v % 3)) } }
      : p,
  )
  const stages = model.stages.map((s) =>
    i % 9 === 3 ? { ...s, station: 'hearth/steam-swizzle', speed: 'third', method: undefined } : s,
  )
  return { ...model, pours, stages, note: `version ${v + 1}`, ...(i % 11 === 5 ? { glass: 'broken-coupe' } : {}) }
}

interface Stamps {
  by: () => { savedBy: string; savedById: number }
  on: (i: number) => Date
}

/** Lots far larger than anybody makes today, and one with more labels than were ever allowed. */
async function growLots(db: Database, count: number, { by, on }: Stamps): Promise<void> {
  const [model] = await db.select().from(t.lots).limit(1)
  if (!model) return
  const made = Array.from({ length: count }, (_, i) => {
    const factor = i % 100 === 42 ? 5000 : 1
    const { theory } = model.document
    const grown = { ...theory, massG: theory.massG * factor, volumeMl: theory.volumeMl * factor }
    const madeOn = dayAfter(FIRST_DAY, i % 2500)
    return {
      ingredient: model.ingredient,
      madeOn,
      useBy: i % 3 === 0 ? null : dayAfter(madeOn, 9),
      document: { ...model.document, theory: grown },
      ...by(),
      savedAt: on(i),
    }
  })
  const ids: number[] = []
  await inBatches(made, async (rows) => {
    for (const { id } of await db.insert(t.lots).values(rows).returning({ id: t.lots.id })) ids.push(id)
  })
  const events = ids.flatMap((lot, i) => {
    const stamp = { lot, at: on(i), by: 'Lead', byId: null }
    const event = (event: LotEvent, isEnd: boolean | null = null) => ({ ...stamp, event, isEnd })
    const labels = Array.from({ length: i === 0 ? 101 : 1 }, () => event({ kind: 'labelled', copies: 1 }))
    return i % 20 === 0 ? labels : [...labels, event({ kind: 'usedUp' }, true)]
  })
  await inBatches(events, (rows) => db.insert(t.lotEvents).values(rows))
}

async function growFlights(db: Database, count: number, { by, on }: Stamps): Promise<void> {
  const [model] = await db.select().from(t.flights).limit(1)
  if (!model) return
  const flights = Array.from({ length: count }, (_, i) => ({
    tastedOn: dayAfter(FIRST_DAY, i % 2500),
    document: { ...model.document, note: `flight ${i}` },
    ...by(),
    savedAt: on(i),
  }))
  await inBatches(flights, (rows) => db.insert(t.flights).values(rows))
}

async function growEditions(db: Database, count: number): Promise<void> {
  const all = await db.select().from(t.editions)
  const model = all.at(-1)
  if (!model) return
  for (let i = 1; i <= count; i++)
    await db.insert(t.editions).values({ ...model, number: model.number + i, name: `Year ${i}`, planRevision: null })
}

/** What the shelf has become since: a station is gone that trials and versions name, a bottle is dry goods now. */
async function ageShelf(db: Database): Promise<void> {
  const [station] = await db.select().from(t.stations).limit(1)
  if (station) await db.update(t.stations).set({ isRemoved: true }).where(eq(t.stations.id, station.id))
  const [bottle] = await db.select().from(t.ingredients).where(eq(t.ingredients.slug, 'saltmarsh-silver'))
  if (!bottle) return
  const document = { ...bottle.document, kind: 'dryGood' as const }
  await db.update(t.ingredients).set({ document }).where(eq(t.ingredients.slug, bottle.slug))
}

async function inBatches<T>(rows: readonly T[], insert: (rows: T[]) => Promise<unknown>): Promise<void> {
  for (let i = 0; i < rows.length; i += ROWS_AT_ONCE) await insert(rows.slice(i, i + ROWS_AT_ONCE))
}
