/** What a change of the shelf, a well or the settings will do, at every level, before it is saved. */

import type { Foresee, Foresight } from '@conch/contract'
import { type DrinkDocument, pouredIn } from '@conch/core/drink'
import { withLetters } from '@conch/core/formula'
import type { HouseBook, Ingredient } from '@conch/core/house'
import { isSame } from '@conch/core/lineage'
import { volumeMlOfAmount } from '@conch/core/measure'
import { glassMoved } from '@conch/core/menu'
import { costOfServe, costsPerMl } from '@conch/core/tune'
import type { Actor } from '../../access/actor.ts'
import { closeHouse, mayOpen } from '../../access/seal.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { baseOf, closureOf, type HeldHouse, type HousePart, outsIn, partOf, toBook } from '../../held/index.ts'
import type { Services } from '../../http/route.ts'
import { KEPT_GLASSES, shelfOf, topicsOf, type VersionKey } from '../../kept/index.ts'
import { loadVersionsOf } from '../../stores/drinks.ts'
import { loadListings } from '../../stores/editions.ts'
import { mixesHolding } from './shelf.ts'

/** Drinks that are computed twice for it; the menu comes first. */
const MOST_LOOKED = 60

/** What of a kept glass follows from it, in the words of the kept glasses. */
function topicOf(change: Foresee): string {
  if (change.kind === 'settings') return 'settings'
  const letter = { ingredients: 'i', slots: 's', glasses: 'g', wells: 'w' }[change.kind]
  return `${letter}:${change.document.slug}`
}

/**
 * What is poured or planned and stands on it, whether it was computed already or not: right after a start, or a copy,
 * nobody knows yet of the others what they stand on.
 */
async function menuStandingOn(
  topic: string,
  { poured, planned }: ReturnType<Services['glasses']['listings']>,
  held: HeldHouse,
  db: Services['database']['db'],
): Promise<Map<string, VersionKey>> {
  const keys = [...new Map([...planned, ...poured])].map(([drink, version]) => ({ drink, version }))
  const found = await loadVersionsOf(db, keys)
  const wells = baseOf(held).wells
  return new Map(
    keys.flatMap((key): [string, VersionKey][] => {
      const document = found.get(`${key.drink} ${key.version}`)?.document
      if (!document) return []
      const { slugs } = shelfOf(document, held)
      return wells.some(({ slug }) => topicsOf(document, slugs, slug).includes(topic)) ? [[key.drink, key]] : []
    }),
  )
}

/** The part of the house with the change in it. */
function withChange(part: HousePart, change: Foresee): HousePart {
  const put = <T extends { slug: string }>(list: readonly T[], one: T): T[] =>
    list.some((x) => x.slug === one.slug) ? list.map((x) => (x.slug === one.slug ? one : x)) : [...list, one]
  switch (change.kind) {
    case 'settings':
      return { ...part, settings: change.document }
    case 'wells':
      return { ...part, wells: put(part.wells, change.document) }
    case 'glasses':
      return { ...part, glasses: put(part.glasses, change.document) }
    case 'slots':
      return { ...part, slots: put(part.slots, change.document) }
    case 'ingredients': {
      const { closed: _, sealedAs: __, ...document } = change.document
      const was = part.ingredients.find((i) => i.slug === document.slug)
      const next: Ingredient = {
        ...document,
        ...(was?.sealedAs ? { sealedAs: was.sealedAs } : {}),
        ...(document.isSealed && document.recipe ? { recipe: withLetters(document.recipe, was?.recipe) } : {}),
      }
      return { ...part, ingredients: put(part.ingredients, next) }
    }
  }
}

/** What the change itself refers to that the drinks did not need before. */
function neededBy(change: Foresee): string[] {
  if (change.kind === 'ingredients')
    return [change.document.slug, ...(change.document.recipe?.components ?? []).map((c) => c.ingredient)]
  if (change.kind === 'slots') return change.document.candidates.map((c) => c.ingredient)
  return []
}

/**
 * What a change will do. Of what is sealed and not open to who asks, nothing: what is computed for them starts from what
 * they may know.
 */
export async function foresee(change: Foresee, actor: Actor, services: Services): Promise<Foresight> {
  const { database, glasses, work, now } = services
  const held = await services.held.now()
  const { wells, slots } = baseOf(held)
  const isOpen = mayOpen(actor.role)
  const shown = await glasses.shownVersions()
  const { poured, planned } = glasses.listings()
  const rank = ({ drink }: VersionKey) => (poured.has(drink) ? 0 : planned.has(drink) ? 1 : 2)
  const topic = topicOf(change)
  const menu = await menuStandingOn(topic, { poured, planned }, held, database.db)
  const known = (await glasses.dependent([topic])).filter((k) => shown.get(k.drink) === k.version && !menu.has(k.drink))
  const touched = [...menu.values(), ...known].sort((a, b) => rank(a) - rank(b) || (a.drink < b.drink ? -1 : 1))
  const near = touched.slice(0, isOpen ? MOST_LOOKED : MOST_LOOKED * 5)
  const found = await loadVersionsOf(database.db, near)
  const stands = near.flatMap((key) => {
    const document = found.get(`${key.drink} ${key.version}`)?.document
    return document && (isOpen || standsOpenlyOn(document, change, held)) ? [{ ...key, document }] : []
  })
  const some = stands.slice(0, MOST_LOOKED)
  const slugs = closureOf(held, [
    ...pouredIn(
      some.map((s) => s.document),
      slots,
    ),
    ...neededBy(change),
  ])
  const part = partOf(held, slugs)
  const seen = (p: HousePart) => (isOpen ? p : closeHouse(p, held.onShelf()))
  const at = now()
  const outAt = outsIn(held, part.ingredients)
  const before: HouseBook = { ...toBook(seen(part), at, undefined), outAt }
  // What is poured of a lot is as the lot is: what changes comes with the next one.
  const slug = change.kind === 'ingredients' ? change.document.slug : undefined
  const isFromNextLot = slug !== undefined && isMadeOtherwise(change, held) && before.mixes?.[slug]?.lot !== undefined
  const then = isFromNextLot ? { ...part, lots: part.lots.filter((l) => l.ingredient !== slug) } : part
  const after: HouseBook = { ...toBook(seen(withChange(then, change)), at, undefined), outAt }
  const documents = some.map(({ document }) => ({ document, hasSealed: false }))
  const was = some.length > 0 ? await work.run(actor.name, KEPT_GLASSES, { book: before, documents }) : []
  const is = some.length > 0 ? await work.run(actor.name, KEPT_GLASSES, { book: after, documents }) : []
  const drinks = some.flatMap((one, i): Foresight['drinks'] => {
    const there = wells.flatMap(({ slug: well }): Foresight['drinks'][number]['at'] => {
      const [now, next] = [was[i]?.[well]?.glass, is[i]?.[well]?.glass]
      const moved = now && next && glassMoved(now, next)
      const cost = change.kind === 'ingredients' ? costMoved(one.document, before, after, well) : undefined
      if (!moved && !cost) return []
      const nothing = { moved: [], said: [], unsaid: [], allergensIn: [], allergensOut: [] }
      return [{ well, ...(moved ?? nothing), ...(cost ? { cost } : {}) }]
    })
    if (there.length === 0) return []
    const { drink, version } = one
    const name = held.drinks.get(drink)?.name ?? one.document.name
    return [{ drink, name, version, isPoured: poured.has(drink), isPlanned: planned.has(drink), at: there }]
  })
  const ofThem = new Set((isOpen ? touched : stands).map((s) => s.drink))
  const editions = (await loadListings(database.db)).flatMap(({ number, name, listing }) =>
    listing.some((l) => ofThem.has(l.drink)) ? [{ number, name }] : [],
  )
  return {
    asOf: held.at.sequence,
    isFromNextLot,
    mixes:
      change.kind === 'ingredients'
        ? mixesHolding(change.document.slug, actor, held).mixes.map(({ slug, name, level }) => ({ slug, name, level }))
        : [],
    total: isOpen ? touched.length : stands.length,
    looked: some.length,
    drinks,
    editions,
  }
}

/** Whether what is in it is another, rather than what it costs or where it stands. */
function isMadeOtherwise(change: Foresee, held: HeldHouse): boolean {
  if (change.kind !== 'ingredients') return false
  const was = held.ingredient(change.document.slug)
  const inIt = (i: Ingredient | undefined) => [i?.figures, i?.densityGPerMl, i?.recipe?.by, i?.recipe?.components]
  return !isSame(inIt(was), inIt(change.document))
}

/** Whether it stands on it without going through what is sealed: to say otherwise would tell what is in it. */
function standsOpenlyOn(document: DrinkDocument, change: Foresee, held: HeldHouse): boolean {
  if (change.kind !== 'ingredients') return true
  return closureOf(held, pouredIn([document], baseOf(held).slots), (i) => !i.isSealed).has(change.document.slug)
}

/** Less than a cent of a serve is nobody's business. */
const LEAST_COST = 0.005

/** What the lines that are priced both before and after come to; what has no price costs the same as before. */
function costMoved(document: DrinkDocument, before: HouseBook, after: HouseBook, well: string) {
  const [was, is] = [costsPerMl(document, before, well), costsPerMl(document, after, well)]
  const { kit } = before.settings
  const by = document.pours.reduce((sum, line, i) => {
    const [then, next] = [was[i], is[i]]
    const ml = line.volumeMl ?? (line.amount && volumeMlOfAmount(line.amount, kit, document.partMl))
    return then === undefined || next === undefined || ml === undefined ? sum : sum + (next - then) * ml
  }, 0)
  const each = by / document.serves
  if (Math.abs(each) < LEAST_COST) return undefined
  const whole = costOfServe(document, after, well)
  return { by: Number(each.toFixed(2)), ...(whole === undefined ? {} : { is: Number(whole.toFixed(2)) }) }
}

/** As it is kept with the change: of the menu alone, and of each measure what it was and is. */
export function keptForesight({ asOf, isFromNextLot, mixes, total, drinks, editions }: Foresight): object {
  return {
    asOf,
    ...(isFromNextLot ? { isFromNextLot } : {}),
    total,
    mixes: mixes.map((m) => m.name),
    editions: editions.map((e) => e.number),
    drinks: drinks
      .filter((d) => d.isPoured || d.isPlanned)
      .map(({ drink, name, version, at }) => ({
        drink,
        name,
        version,
        at: at.map(({ well, moved, said, allergensIn, allergensOut, cost }) => ({
          well,
          moved: moved.map(({ measure, was, is, isStanding }) => ({ measure, was, is, isStanding })),
          ...(said.length > 0 ? { said } : {}),
          ...(allergensIn.length > 0 ? { allergensIn } : {}),
          ...(allergensOut.length > 0 ? { allergensOut } : {}),
          ...(cost ? { cost } : {}),
        })),
      })),
  }
}

/** What is kept with a change; nothing where nobody had time to look: a save does not wait for that. */
export async function foreseenFor(change: Foresee, actor: Actor, services: Services): Promise<object | undefined> {
  try {
    const found = await foresee(change, actor, services)
    return found.total > 0 || found.mixes.length > 0 ? keptForesight(found) : undefined
  } catch (error) {
    // What is wrong with it is said where it is saved.
    if (error instanceof Refusal) return undefined
    throw error
  }
}
