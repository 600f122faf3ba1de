/** The menu as pages show it: what was locked beside what is kept now. */

import type { MenuGlass, NextMenu, PouredMenu, ShownDrink } from '@conch/contract'
import { type MeasureName, type Predictions, pouredIn, type Standard } from '@conch/core/drink'
import { volumeMlOfAmount } from '@conch/core/measure'
import { LRUCache } from 'lru-cache'
import type { Actor } from '../../access/actor.ts'
import { closeLock, mayOpen } from '../../access/seal.ts'
import type { Database } from '../../database/index.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { baseOf, closureOf, type HeldHouse } from '../../held/index.ts'
import type { Services } from '../../http/route.ts'
import { keyOf, type ReadGlass, type VersionKey } from '../../kept/index.ts'
import { loadDrinkDrafts } from '../../stores/drafts.ts'
import { loadVersionNumbers, loadVersionsOf } from '../../stores/drinks.ts'
import { findEdition } from '../../stores/editions.ts'
import { glassesTonight } from '../tonight/index.ts'

type Figures = Partial<Record<MeasureName, number>>

/** What a menu shows of an edition: nothing of its curves. */
interface EditionLines {
  number: number
  name: string
  publishedAt: string
  chapters: {
    name: string
    drinks: {
      drink: string
      name: string
      version: number
      standard: Standard
      lockedAt: Record<string, Figures>
    }[]
  }[]
}

/** Editions never change: each is read once. Of one house; another one has other hashes. */
const read = new LRUCache<string, EditionLines>({ max: 8 })

async function newestLines(db: Database, held: HeldHouse, isOpen: boolean): Promise<EditionLines | undefined> {
  const { edition: number } = held.listed
  if (number === 0) return undefined
  // What is sealed may be so only since.
  const key = isOpen ? `${held.id} ${number}` : `${held.id} ${number} ${held.lastOf(['ingredient', 'bottles'])}`
  const before = read.get(key)
  if (before) return before
  const edition = await findEdition(db, number)
  if (!edition) return undefined
  const lock = isOpen ? edition.lock : closeLock(edition.lock, (slug) => held.ingredient(slug))
  const lines = {
    number,
    name: edition.name,
    publishedAt: edition.publishedAt,
    chapters: lock.chapters.map((c) => ({
      name: c.name,
      drinks: c.drinks.map(({ drink, name, version, document, byWell }) => ({
        drink,
        name,
        version,
        standard: document.standard,
        lockedAt: Object.fromEntries(
          Object.entries(byWell).map(([well, at]) => [well, figuresOf(at.result.predictions)]),
        ),
      })),
    })),
  }
  read.set(key, lines)
  return lines
}

/** @throws Refusal `notFound` for a well that the house does not have */
function assertWell(held: HeldHouse, well: string): void {
  if (!baseOf(held).wells.some((w) => w.slug === well)) throw new Refusal('notFound', `there is no well “${well}”`)
}

/** Decimals that a menu shows at most, and one more. */
const DIGITS = 3
const rounded = (value: number) => Number(value.toFixed(DIGITS))
const figuresOf = (predictions: Predictions): Figures =>
  Object.fromEntries(Object.entries(predictions).map(([measure, p]) => [measure, rounded(p.value)]))

const locked = (lockedAt: Record<string, Figures>, well: string) => {
  const figures = lockedAt[well]
  return figures ? { locked: figures } : {}
}

/** What is poured at a well: what each drink was locked as, and what it would be now. */
export async function getPouredMenu(
  well: string,
  { role }: Actor,
  { database, held, glasses, now: clock }: Services,
): Promise<PouredMenu> {
  const house = await held.now()
  assertWell(house, well)
  const lines = await newestLines(database.db, house, mayOpen(role))
  if (!lines) return { edition: null, chapters: [] }
  const { number, name, publishedAt, chapters } = lines
  const keys = chapters.flatMap((c) => c.drinks)
  const kept = await glasses.read(keys, { isOpen: mayOpen(role), well })
  const tonight = await glassesTonight(database.db, house, { well, isOpen: mayOpen(role), now: clock() })
  return {
    edition: { number, name, publishedAt },
    chapters: chapters.map((c) => ({
      name: c.name,
      drinks: c.drinks.map(({ lockedAt, ...drink }) => {
        const instead = tonight.get(drink.drink)?.glass
        const now = instead ? { glass: instead, isOld: false } : kept.get(keyOf(drink))?.[well]
        return { ...drink, ...locked(lockedAt, well), ...(now ? { now: forMenu(now) } : {}) }
      }),
    })),
  }
}

/** Of a kept glass what a line of the menu shows. */
function forMenu({ glass, isOld }: ReadGlass): MenuGlass {
  const [problem] = glass.problems
  return {
    predictions: Object.fromEntries(
      Object.entries(glass.predictions).map(([measure, p]) => [
        measure,
        { value: rounded(p.value), low: rounded(p.low), high: rounded(p.high) },
      ]),
    ),
    stops: glass.cautions.filter((c) => c.weight === 'stop').map(({ text, isSafety }) => ({ text, isSafety })),
    ...(problem ? { problem: problem.message } : {}),
    isOld,
  }
}

/** The plan as it would be poured at a well now, and what is poured today. */
export async function getNextMenu(
  well: string,
  { role }: Actor,
  { database, held, glasses }: Services,
): Promise<NextMenu> {
  const { db } = database
  const house = await held.now()
  assertWell(house, well)
  const lines = await newestLines(db, house, mayOpen(role))
  const planned = house.listed.plan?.plan.chapters.flatMap((c) => c.entries) ?? []
  const kept = await glasses.read(planned, { isOpen: mayOpen(role), well })
  const numbers = await versionNumbers(db, house, new Set(planned.map((p) => p.drink)))
  return {
    poured: (lines?.chapters ?? []).flatMap((c) =>
      c.drinks.map(({ drink, name, version, lockedAt }) => ({
        drink,
        name,
        version,
        chapter: c.name,
        ...locked(lockedAt, well),
      })),
    ),
    planned: planned.map(({ drink, version }) => {
      const now = kept.get(keyOf({ drink, version }))?.[well]
      return {
        drink,
        name: house.drinks.get(drink)?.name ?? drink,
        version,
        versions: numbers.get(drink) ?? [],
        ...(now ? { now: forMenu(now) } : {}),
      }
    }),
  }
}

/** The numbers of all versions of some drinks: known where none is missing, as everywhere but in what an older house left out. */
async function versionNumbers(db: Database, held: HeldHouse, drinks: ReadonlySet<string>) {
  const known = new Map<string, number[]>()
  for (const slug of drinks) {
    const { versionCount, latestVersion } = held.drinks.get(slug) ?? {}
    if (versionCount === latestVersion)
      known.set(
        slug,
        Array.from({ length: versionCount ?? 0 }, (_, i) => i + 1),
      )
  }
  const others = await loadVersionNumbers(
    db,
    [...drinks].filter((slug) => !known.has(slug)),
  )
  return new Map([...known, ...others])
}

/** More than a page shows of where something is used. */
const MOST_SHOWN = 200

/** What a list of shown drinks is asked for. */
export interface ShownAsked {
  well: string
  /** Those that stand on one of these bottles or mixes, at any depth, or through a slot that it may fill. */
  on?: string[] | undefined
  /** Those that name this slot. */
  slot?: string | undefined
  /** Only what is poured or planned. */
  menu?: 'yes' | undefined
}

/** Those that stand on one of these for whoever may not open what is sealed. */
async function openlyOn(
  on: readonly string[],
  keys: readonly VersionKey[],
  held: HeldHouse,
  db: Database,
): Promise<VersionKey[]> {
  const found = await loadVersionsOf(db, keys)
  const { slots } = baseOf(held)
  return keys.filter((key) => {
    const document = found.get(`${key.drink} ${key.version}`)?.document
    if (!document) return false
    const seen = closureOf(held, pouredIn([document], slots), (i) => !i.isSealed)
    return on.some((slug) => seen.has(slug))
  })
}

/** Drafts of drinks that have no version, read once for each state of the drafts. */
const begun = new WeakMap<HeldHouse['drafts'], Awaited<ReturnType<typeof loadDrinkDrafts>>>()

async function begunDrafts({ drafts }: HeldHouse, db: Database) {
  const known = begun.get(drafts) ?? (await loadDrinkDrafts(db))
  begun.set(drafts, known)
  return known
}

/** Drinks that are only drafted yet, and stand on one of these: what is being written counts on them, too. */
async function begunOn(
  { on = [], slot }: Pick<ShownAsked, 'on' | 'slot'>,
  shown: ReadonlyMap<string, number>,
  held: HeldHouse,
  db: Database,
  isOpen: boolean,
): Promise<ShownDrink[]> {
  const { slots, settings } = baseOf(held)
  const drafts = (await begunDrafts(held, db)).filter((d) => !shown.has(d.drink))
  return drafts.flatMap(({ drink, document }) => {
    const seen = closureOf(held, pouredIn([document], slots), (i) => isOpen || !i.isSealed)
    const isOnIt = on.some((slug) => seen.has(slug)) || document.pours.some((p) => slot && p.slot === slot)
    if (!isOnIt) return []
    const pours = document.pours.map((p) => ({
      ...(p.ingredient ? { slug: p.ingredient } : {}),
      ...(p.slot ? { slot: p.slot } : {}),
      name: p.ingredient ?? p.slot ?? '',
      volumeMl: p.volumeMl ?? (p.amount && volumeMlOfAmount(p.amount, settings.kit, document.partMl)) ?? 0,
    }))
    const { serves } = document
    return [
      {
        drink,
        name: document.name,
        version: null,
        isPoured: false,
        isPlanned: false,
        isOld: false,
        serves,
        pours,
        stations: [],
      },
    ]
  })
}

/** Drinks as they are shown (what is poured, else planned, else the newest), each with its kept glass at a well. */
export async function getShownDrinks(
  { well, on, slot, menu }: ShownAsked,
  { role }: Actor,
  { database, held, glasses }: Services,
): Promise<{ total: number; waiting: number; drinks: ShownDrink[] }> {
  const { db } = database
  const house = await held.now()
  assertWell(house, well)
  const shown = await glasses.shownVersions()
  const { poured, planned } = glasses.listings()
  const isOnMenu = (drink: string) => poured.has(drink) || planned.has(drink)
  const topics = [...(on ?? []).map((o) => `i:${o}`), ...(slot === undefined ? [] : [`s:${slot}`])]
  const asked: VersionKey[] =
    topics.length > 0
      ? (await glasses.dependent(topics)).filter((k) => shown.get(k.drink) === k.version)
      : [...shown].map(([drink, version]) => ({ drink, version }))
  const onMenu = asked.filter((k) => menu === undefined || isOnMenu(k.drink))
  // What stands on something only through what is sealed would tell what is in it.
  const wanted = on && !mayOpen(role) ? await openlyOn(on, onMenu, house, db) : onMenu
  const rank = ({ drink }: VersionKey) => (poured.has(drink) ? 0 : planned.has(drink) ? 1 : 2)
  const some = [...wanted].sort((a, b) => rank(a) - rank(b) || (a.drink < b.drink ? -1 : 1)).slice(0, MOST_SHOWN)
  const kept = await glasses.read(some, { isOpen: mayOpen(role), well })
  const begun = on || slot ? await begunOn({ on, slot }, shown, house, db, mayOpen(role)) : []
  return {
    total: wanted.length + begun.length,
    waiting: glasses.unknown,
    drinks: [
      ...some.flatMap((key): ShownDrink[] => {
        const now = kept.get(keyOf(key))?.[well]
        const { drink } = key
        return [
          {
            ...key,
            name: house.drinks.get(drink)?.name ?? drink,
            isPoured: poured.has(drink),
            isPlanned: planned.has(drink),
            // What was never computed is there all the same; what it pours comes when it is.
            isOld: now?.isOld ?? true,
            serves: now?.glass.serves ?? 1,
            pours: now?.glass.pours ?? [],
            stations: now?.glass.stations ?? [],
            glass: now?.glass.glass,
          },
        ]
      }),
      ...begun,
    ],
  }
}
