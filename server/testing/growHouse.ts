/**
 * A house that grew for years, from a seed: written straight into the database of a house that is set up, with
 * every kind of history that once was awkward to bring elsewhere.
 */

import { dayAfter } from '@conch/core/calendar'
import type { DrinkDocument } from '@conch/core/drink'
import type { LotEvent } from '@conch/core/lots'
import { eq } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import * as t from '../database/schema.ts'
import { type Dice, diceOf, inBatches, WORDS } from './dice.ts'
import { DEEPEST, type GrownShelf, growShelf } from './growShelf.ts'

export interface Growth {
  seed: number
  drinks: number
  /** Versions of each drink. */
  versions: number
  lots: number
  flights: number
  /** Editions more, each a copy of the newest under another name. */
  editions: number
  /** Bottles and nested mixes more, poured by what grows; left out: none. */
  shelf?: { bottles: number; mixes: number }
  /** Lots that are still open; left out: one in twenty. */
  openLots?: number
}

/** The mix that so many of what grows pour: the first of those that nest deepest. */
export const POPULAR = { mix: `mix-${String(DEEPEST - 1).padStart(4, '0')}`, drinks: 200 }

const FIRST_DAY = '2019-03-01'

/** Everything below is history: nothing of it is looked at by the rules of today. */
export async function growHouse(db: Database, growth: Growth): Promise<void> {
  const dice = diceOf(growth.seed)
  const { pick } = dice
  const people = await db.select().from(t.people)
  const by = () => {
    const person = pick(people)
    return { savedBy: person.name, savedById: person.id }
  }
  const on = (i: number) => new Date(`${dayAfter(FIRST_DAY, i % 2500)}T21:${String(i % 60).padStart(2, '0')}:00.000Z`)
  const models = (await db.select({ document: t.versions.document }).from(t.versions)).map((v) => v.document)
  const begun = (await db.select({ document: t.ingredients.document }).from(t.ingredients)).map((r) => r.document)
  const shelf = growth.shelf && (await growShelf(db, growth.shelf, dice, begun))
  const kindOf = new Map(begun.map((i) => [i.slug, i.kind]))

  const drinks = Array.from({ length: growth.drinks }, (_, i) => ({
    slug: `grown-${String(i).padStart(5, '0')}`,
    name: `${pick(WORDS)} ${pick(WORDS)} ${i}`,
    isHidden: i % 50 === 7,
  }))
  await inBatches(drinks, (rows) => db.insert(t.drinks).values(rows))
  for (let d = 0; d < drinks.length; d += 40) {
    const versions = drinks.slice(d, d + 40).flatMap(({ slug, name }, i) => {
      const model = pick(models)
      const own = shelf ? pouringFrom(shelf, d + i, { model, kindOf, dice }) : undefined
      return Array.from({ length: growth.versions }, (_, v) => ({
        drink: slug,
        number: v + 1,
        parent: v === 0 ? null : Math.max(1, v - (i % 2)),
        label: v === 0 ? 'as found' : '',
        era: v === 0 ? 'about 1952' : '',
        source: v === 0 ? 'a card in the drawer' : '',
        reason: v === 0 ? '' : 'a touch less of everything',
        document: { ...agedDocument(own ?? pick(models), v, i), name },
        ...by(),
        savedAt: on(d + v),
      }))
    })
    await inBatches(versions, (rows) => db.insert(t.versions).values(rows))
    const parents = versions.flatMap((v) =>
      v.parent === null ? [] : [{ drink: v.drink, number: v.number, parentDrink: v.drink, parentNumber: v.parent }],
    )
    await inBatches(parents, (rows) => db.insert(t.versionParents).values(rows))
  }
  const madeHere = shelf ? shelf.mixes.flat() : []
  await growLots(db, { count: growth.lots, open: growth.openLots, of: madeHere }, { by, on })
  await growFlights(db, growth.flights, { by, on }, shelf && { bottles: shelf.byKind.get('spirit') ?? [], dice })
  await growEditions(db, growth.editions)
  await ageShelf(db)
}

/** A drink of what grew: most of its pours are other things of the same kind, and the first of all pour one mix. */
function pouringFrom(
  shelf: GrownShelf,
  index: number,
  { model, kindOf, dice }: { model: DrinkDocument; kindOf: Map<string, string>; dice: Dice },
): DrinkDocument {
  let hasPopular = index >= POPULAR.drinks
  const taken = new Set<string>()
  const pours = model.pours.map((pour, k) => {
    const kind = pour.ingredient && kindOf.get(pour.ingredient)
    if (!kind) return pour
    const grown = kind === 'houseMix' ? shelf.mixes.flat() : (shelf.byKind.get(kind) ?? [])
    let ingredient = grown.length > 0 && dice.uniform() < 0.7 ? dice.pick(grown) : pour.ingredient
    if (!hasPopular && (kind === 'houseMix' || kind === 'syrup' || k === model.pours.length - 1)) {
      hasPopular = true
      ingredient = POPULAR.mix
    }
    if (ingredient === undefined || taken.has(ingredient)) return pour
    taken.add(ingredient)
    return { ...pour, ingredient }
  })
  return { ...model, pours }
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
async function growLots(
  db: Database,
  { count, open = Math.ceil(count / 20), of }: { count: number; open: number | undefined; of: readonly string[] },
  { by, on }: Stamps,
): Promise<void> {
  const [model] = await db.select().from(t.lots).limit(1)
  if (!model) return
  const made = Array.from({ length: count }, (_, i) => {
    const factor = i % 100 === 42 ? 5000 : 1
    const { theory } = model.document
    const grown = { ...theory, massG: theory.massG * factor, volumeMl: theory.volumeMl * factor }
    const madeOn = dayAfter(FIRST_DAY, i % 2500)
    return {
      ingredient: of.length > 0 ? (of[i % of.length] as string) : model.ingredient,
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
    // Spread over all of them: i·open/count passes a whole number as often as there are open ones.
    const isOpen = Math.floor(((i + 1) * open) / count) > Math.floor((i * open) / count)
    return isOpen ? labels : [...labels, event({ kind: 'usedUp' }, true)]
  })
  await inBatches(events, (rows) => db.insert(t.lotEvents).values(rows))
}

async function growFlights(
  db: Database,
  count: number,
  { by, on }: Stamps,
  among?: { bottles: readonly string[]; dice: Dice },
): Promise<void> {
  const [model] = await db.select().from(t.flights).limit(1)
  if (!model) return
  const flights = Array.from({ length: count }, (_, i) => ({
    tastedOn: dayAfter(FIRST_DAY, i % 2500),
    document: { ...model.document, ...(among ? { scores: scoresOf(among) } : {}), note: `flight ${i}` },
    ...by(),
    savedAt: on(i),
  }))
  await inBatches(flights, (rows) => db.insert(t.flights).values(rows))
}

/** Four bottles beside one another, each placed on some lines in half steps. */
function scoresOf({ bottles, dice }: { bottles: readonly string[]; dice: Dice }) {
  const four = new Set(Array.from({ length: 4 }, () => dice.pick(bottles)))
  const place = () => Math.round(20 * dice.uniform()) / 2
  return [...four].map((ingredient) => ({
    ingredient,
    style: { weight: place(), funk: place(), oak: place(), dryness: place() },
  }))
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
