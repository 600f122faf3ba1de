/** What is out, and what that does to the menu at every well. */

import type { Markable, Tonight, TonightChoice } from '@conch/contract'
import { clockOf, nightOf } from '@conch/core/calendar'
import { type DrinkDocument, pouredIn } from '@conch/core/drink'
import { resolveHouse } from '@conch/core/formula'
import { type HouseBook, INGREDIENT_KINDS, isWeighed } from '@conch/core/house'
import { hasAllWords } from '@conch/core/text'
import { fruitSlug, isSimplyMade, standsAt } from '@conch/core/tonight'
import { LRUCache } from 'lru-cache'
import type { Database } from '../../database/index.ts'
import { baseOf, type HeldHouse, heldHouse, outsIn, partFor } from '../../held/index.ts'
import { loadVersionsOf } from '../../stores/drinks.ts'
import type { StoredChoice } from '../../stores/tonight.ts'
import { saidOut } from './sayOut.ts'

export interface PouredDrink {
  drink: string
  version: number
  name: string
  document: DrinkDocument
}

/** Versions never change: what an edition pours is read once. */
const read = new LRUCache<string, readonly PouredDrink[]>({ max: 4 })

/** Everything that the newest edition pours. */
export async function pouredDrinks(db: Database, held: HeldHouse): Promise<readonly PouredDrink[]> {
  const { edition, poured } = held.listed
  const key = `${held.id} ${edition}`
  const before = read.get(key)
  if (before) return before
  const found = await loadVersionsOf(
    db,
    [...poured].map(([drink, version]) => ({ drink, version })),
  )
  const all = [...poured].flatMap(([drink, version]): PouredDrink[] => {
    const document = found.get(`${drink} ${version}`)?.document
    return document ? [{ drink, version, name: document.name, document }] : []
  })
  read.set(key, all)
  return all
}

/** As much of the house as these need, with what is out at each well. Nothing of what a mix is made of. */
export function bookTonight(
  held: HeldHouse,
  documents: readonly DrinkDocument[],
  night: string,
  outs?: HeldHouse['tonight']['outs'],
): HouseBook {
  const base = baseOf(held)
  const part = partFor(held, pouredIn(documents, base.slots))
  const outAt = outsIn(held, part.ingredients, outs)
  // Nothing of it is computed: what is poured is told apart by its name alone.
  const { ingredients, glasses, slots, wells, settings } = resolveHouse({ ...part, lots: [] }, night)
  return { ingredients, glasses, slots: slots ?? [], wells, settings, outAt }
}

/** The choices of a night that count, newest last. */
export const choicesOf = (held: HeldHouse, night: string): StoredChoice[] =>
  held.tonight.choices.filter((c) => c.night === night)

/** What is poured on a night, what was chosen for it, and as much of the house as both need. */
export async function eveningOf(db: Database, held: HeldHouse, night: string) {
  const poured = await pouredDrinks(db, held)
  const choices = choicesOf(held, night).map(saidChoice)
  const documents = [...poured.map((p) => p.document), ...choices.flatMap((c) => c.document ?? [])]
  return { poured, choices, documents, book: bookTonight(held, documents, night) }
}

/** What is out, what was chosen, and every drink of the menu that is not simply made. */
export async function getTonight(db: Database, now: Date): Promise<Tonight> {
  const held = await heldHouse(db)
  const { settings, wells } = baseOf(held)
  const night = nightOf(now, clockOf(settings))
  const { poured, choices, documents, book } = await eveningOf(db, held, night)
  const drinks = poured.map((p) => ({
    drink: p.drink,
    name: p.name,
    version: p.version,
    at: Object.fromEntries(wells.map(({ slug }) => [slug, standsAt(p, choices, book, slug)])),
  }))
  return {
    night,
    outs: held.tonight.outs.map((o) => saidOut(o, held)),
    outAt: outsIn(held, held.allIngredients()),
    notInStock: [...pouredIn(documents, baseOf(held).slots)].flatMap((slug) => {
      const { name, stock } = held.ingredient(slug) ?? {}
      return name !== undefined && (stock === 'out' || stock === 'discontinued') ? [{ slug, name }] : []
    }),
    drinks: drinks.filter((d) => !Object.values(d.at).every(isSimplyMade)),
    choices,
  }
}

export const saidChoice = ({ document, number: _, ...choice }: StoredChoice): TonightChoice => ({
  ...choice,
  ...document,
})

const MOST_FOUND = 40
const MOST_LISTED = 300

/** What one may mark: what the menu wants, most wanted first; or what words lead to, anywhere on the shelf. */
export async function listMarkables(db: Database, words: string): Promise<Markable[]> {
  const held = await heldHouse(db)
  const { slots, glasses } = baseOf(held)
  const poured = await pouredDrinks(db, held)
  const wants = new Map<string, { of: Omit<Markable, 'drinks'>; drinks: Set<string> }>()
  const want = (of: Omit<Markable, 'drinks'>, drink?: string) => {
    const key = `${of.kind} ${of.of}`
    const known = wants.get(key) ?? { of, drinks: new Set() }
    wants.set(key, known)
    if (drink !== undefined) known.drinks.add(drink)
  }
  const wantThing = (slug: string, drink?: string) => {
    const thing = held.ingredient(slug)
    if (!thing) return
    const { name, kind, fruit } = thing
    if (isWeighed(kind)) want({ kind: 'fruit', of: fruitSlug(name), name, what: INGREDIENT_KINDS[kind] }, drink)
    else want({ kind: 'ingredient', of: slug, name, what: INGREDIENT_KINDS[kind] }, drink)
    if (fruit) want({ kind: 'fruit', of: fruitSlug(fruit.name), name: fruit.name, what: 'fruit' }, drink)
    const lots = held.openLotsOf(slug)
    if (lots.length > 1)
      for (const { id } of lots) want({ kind: 'lot', of: String(id), name: `${name}, lot ${id}`, what: 'lot' }, drink)
  }
  for (const { name, document } of poured) {
    for (const slug of pouredIn([document], slots)) wantThing(slug, name)
    for (const slug of new Set([document.glass, ...Object.values(document.glassByWell ?? {})])) {
      const glass = glasses.find((g) => g.slug === slug)
      if (glass) want({ kind: 'glass', of: glass.slug, name: glass.name, what: 'glass' }, name)
    }
  }
  for (const i of held.allIngredients()) if (i.kind === 'garnish') wantThing(i.slug)
  if (words !== '') {
    for (const slug of held.ingredientFinder.find(words).slugs.slice(0, MOST_FOUND)) wantThing(slug)
    for (const g of glasses) want({ kind: 'glass', of: g.slug, name: g.name, what: 'glass' })
  }
  const all = [...wants.values()].map(({ of, drinks }) => ({ ...of, drinks: [...drinks] }))
  const found = words === '' ? all : all.filter((m) => hasAllWords(`${m.name} ${m.what}`, words))
  return found.sort((a, b) => b.drinks.length - a.drinks.length || (a.name < b.name ? -1 : 1)).slice(0, MOST_LISTED)
}
