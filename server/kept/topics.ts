/** What a kept glass was computed from, and what an event changes, in the same words: so that one finds the other. */

import type { EventKind } from '@conch/contract'
import { type DrinkDocument, pouredIn } from '@conch/core/drink'
import { toSlug } from '@conch/core/house'
import { inArray, sql } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { events, lots, trials } from '../database/schema.ts'
import { baseOf, closureOf, type HeldHouse } from '../held/index.ts'

export type Topic = string

const ofIngredient = (slug: string): Topic => `i:${slug}`
const ofSlot = (slug: string): Topic => `s:${slug}`
const ofGlass = (slug: string): Topic => `g:${slug}`
const ofWell = (slug: string): Topic => `w:${slug}`
const SETTINGS: Topic = 'settings'

/** Everything on the shelf that a document's glass follows from; with whether something of it is sealed. */
export function shelfOf(document: DrinkDocument, held: HeldHouse): { slugs: Set<string>; hasSealed: boolean } {
  const slugs = closureOf(held, pouredIn([document], baseOf(held).slots))
  const hasSealed = [...slugs].some((slug) => held.ingredient(slug)?.isSealed)
  return { slugs, hasSealed }
}

/** What a document's glass at a well depends on: what it names, though the house may not have it yet, and what that is made of. */
export function topicsOf(document: DrinkDocument, shelf: ReadonlySet<string>, well: string): Topic[] {
  const glass = document.glassByWell?.[well] ?? document.glass
  return [
    SETTINGS,
    ofWell(well),
    ...(glass === undefined ? [] : [ofGlass(glass)]),
    ...new Set(document.pours.flatMap((p) => (p.slot === undefined ? [] : [ofSlot(p.slot)]))),
    ...new Set([...document.pours.flatMap((p) => p.ingredient ?? []), ...shelf].map(ofIngredient)),
  ]
}

interface Happened {
  sequence: number
  kind: EventKind
  subject: string
}

/** What events changed of what glasses are computed from, each with the last event that did. */
export async function touchedBy(
  db: Database,
  held: HeldHouse,
  happened: readonly Happened[],
): Promise<Map<Topic, number>> {
  const touched = new Map<Topic, number>()
  const touch = (topic: Topic, sequence: number) => touched.set(topic, Math.max(sequence, touched.get(topic) ?? 0))
  const of = (kind: EventKind) => happened.filter((e) => e.kind === kind)
  // Whatever is called alike is named otherwise now.
  const touchIngredient = (slug: string, sequence: number) => {
    for (const s of [slug, ...held.namesakesOf(slug)]) touch(ofIngredient(s), sequence)
  }
  for (const { sequence } of of('settings')) touch(SETTINGS, sequence)
  for (const { subject, sequence } of of('ingredient')) touchIngredient(subject, sequence)
  for (const { subject, sequence } of of('slot')) touch(ofSlot(subject), sequence)
  for (const { subject, sequence } of of('glass')) touch(ofGlass(subject), sequence)
  for (const { subject, sequence } of of('well')) touch(ofWell(subject), sequence)
  for (const { subject, sequence } of of('station')) touch(ofWell(subject.split('/')[0] ?? ''), sequence)
  for (const { slug, sequence } of await bottlesIn(db, of('bottles'))) touchIngredient(slug, sequence)
  for (const { subject, sequence } of of('out'))
    for (const slug of thingsOfOut(subject, held)) touchIngredient(slug, sequence)
  const lotIds = new Map(
    happened.flatMap(({ kind, subject, sequence }): [number, number][] => {
      const number = kind === 'lot' ? subject : kind === 'out' ? /^lot\/(\d+)$/.exec(subject)?.[1] : undefined
      return number === undefined ? [] : [[Number(number), sequence]]
    }),
  )
  for (const { id, ingredient } of await findBy(db, lotIds, lots, { id: lots.id, ingredient: lots.ingredient }))
    touch(ofIngredient(ingredient), lotIds.get(id) ?? 0)
  const trialIds = new Map(of('trial').map((e) => [Number(e.subject), e.sequence]))
  for (const { id, well } of await findBy(db, trialIds, trials, { id: trials.id, well: trials.well }))
    touch(ofWell(well), trialIds.get(id) ?? 0)
  return touched
}

/** What may be there, or not, by a word about something being out. Glasses and garnish move no figure. */
function thingsOfOut(subject: string, held: HeldHouse): string[] {
  const [kind, of = ''] = subject.split('/')
  if (kind === 'ingredient') return [of]
  if (kind !== 'fruit') return []
  return held.allIngredients().flatMap((i) => (i.fruit && toSlug(i.fruit.name) === of ? [i.slug] : []))
}

async function findBy<C extends { id: typeof lots.id | typeof trials.id }>(
  db: Database,
  ids: ReadonlyMap<number, unknown>,
  table: typeof lots | typeof trials,
  columns: C,
) {
  if (ids.size === 0) return []
  return db
    .select(columns)
    .from(table)
    .where(inArray(table.id, [...ids.keys()]))
}

/** The slugs that tables of bottles brought in. */
async function bottlesIn(db: Database, tables: readonly Happened[]): Promise<{ slug: string; sequence: number }[]> {
  if (tables.length === 0) return []
  return db
    .select({
      slug: sql<string>`jsonb_array_elements(${events.detail} -> 'is') ->> 'slug'`,
      sequence: events.sequence,
    })
    .from(events)
    .where(
      inArray(
        events.sequence,
        tables.map((e) => e.sequence),
      ),
    )
}
