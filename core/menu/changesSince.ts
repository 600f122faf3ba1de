/** What changed in a house since an edition was locked, thing by thing, and the house with some of it. */

import type { DrinkDocument } from '../drink/index.ts'
import { createMixer, type Mixer } from '../formula/index.ts'
import { bySlug, type HouseBook, type Ingredient, nameIn, valuesOf, type Well } from '../house/index.ts'
import { isSame } from '../schema/sameness.ts'

/** What of a thing changed. */
export type ChangeKind = 'out' | 'lot' | 'recipe' | 'figures' | 'slot' | 'glass' | 'well' | 'station' | 'settings'

/** One thing that is not what it was. */
export interface Change {
  kind: ChangeKind
  /** Its slug, within its kind; '' of what there is one of. */
  of: string
  name: string
  /** The lot that stands for it now. */
  lot?: number
}

/** Figures closer than this are the same: what is left of computing them in another order. */
const SAME_FIGURE = 1e-9

interface Books {
  locked: HouseBook
  today: HouseBook
  well: string
}

export interface Since {
  changes: Change[]
  /**
   * The house as it was locked, with some of what changed since: a mix that follows from its recipe is mixed anew of what
   * its parts are then.
   */
  houseWith(made: readonly Change[]): HouseBook
  /** Whether a drink refers to a thing at all, at any depth of a mix. */
  feels(document: Pick<DrinkDocument, 'pours'>, change: Change): boolean
}

/**
 * Every thing that a drink at a well can feel and that is not what it was when an edition was locked: each once. A mix whose
 * parts changed is no change of its own.
 */
export function changesSince(books: Books): Since {
  const opaque = opaqueIn(books)
  return {
    changes: findChanges(books, opaque),
    houseWith: (made) => houseWith(made, books, opaque),
    feels: (document, change) => feels(document, change, books),
  }
}

function findChanges({ locked, today, well }: Books, opaque: ReadonlySet<string>): Change[] {
  const things = locked.ingredients.flatMap((was): Change[] => {
    const is = bySlug(today.ingredients, was.slug)
    if (!is || !isOtherThing(was, is, opaque.has(was.slug))) return []
    const name = nameIn(today.ingredients, was.slug)
    const lot = today.mixes?.[was.slug]?.lot?.id
    if (lot !== undefined && opaque.has(was.slug)) return [{ kind: 'lot', of: was.slug, name, lot }]
    return [{ kind: isSame(was.recipe, is.recipe) ? 'figures' : 'recipe', of: was.slug, name }]
  })
  const slots = (locked.slots ?? []).flatMap((was): Change[] => {
    const is = bySlug(today.slots ?? [], was.slug)
    return is && !isSame(was, is) ? [{ kind: 'slot', of: was.slug, name: is.name }] : []
  })
  const glasses = locked.glasses.flatMap((was): Change[] => {
    const is = bySlug(today.glasses, was.slug)
    return is && !isSame(was, is) ? [{ kind: 'glass', of: was.slug, name: is.name }] : []
  })
  const outs = outThere(today, well).flatMap((of): Change[] =>
    bySlug(locked.ingredients, of) ? [{ kind: 'out', of, name: nameIn(today.ingredients, of) }] : [],
  )
  return [
    ...outs,
    ...things,
    ...slots,
    ...glasses,
    ...changesOfWell(locked, today, well),
    ...settingsChange(locked, today),
  ]
}

/** What is out at a well tonight; an edition knows of no such thing. */
const outThere = ({ outAt }: HouseBook, well: string): readonly string[] => outAt?.[well]?.ingredients ?? []

/** Without its stations: each of them is a thing of its own. */
const bare = ({ stations: _, name: __, ...well }: Well) => well

function changesOfWell(locked: HouseBook, today: HouseBook, slug: string): Change[] {
  const [was, is] = [bySlug(locked.wells, slug), bySlug(today.wells, slug)]
  if (!was || !is) return []
  const stations = is.stations.flatMap((station): Change[] => {
    const before = bySlug(was.stations, station.slug)
    const isOther =
      !isSame(before, station) ||
      !isSame(calibrationsOf(locked, slug, station.slug), calibrationsOf(today, slug, station.slug))
    return isOther ? [{ kind: 'station', of: station.slug, name: station.name }] : []
  })
  return [...(isSame(bare(was), bare(is)) ? [] : [{ kind: 'well' as const, of: slug, name: is.name }]), ...stations]
}

const calibrationsOf = ({ calibrations = [] }: HouseBook, well: string, station: string) =>
  calibrations.filter((c) => c.well === well && c.station === station)

function settingsChange(locked: HouseBook, today: HouseBook): Change[] {
  const felt = ({ settings: s }: HouseBook) => [s.kit, s.fridgeTemperatureC, s.freezerTemperatureC, s.juiceHours]
  return isSame(felt(locked), felt(today)) ? [] : [{ kind: 'settings', of: '', name: 'the house’s measures' }]
}

function sameFigures(a: Ingredient, b: Ingredient): boolean {
  const [one, other] = [valuesOf(a), valuesOf(b)]
  return Object.keys(one).every((key) => {
    const k = key as keyof typeof one
    return Math.abs(one[k] - other[k]) <= SAME_FIGURE * Math.max(1, Math.abs(one[k]))
  })
}

/** Whether a thing itself is another one; of what follows from its recipe, the recipe. */
function isOtherThing(was: Ingredient, is: Ingredient, isOpaque: boolean): boolean {
  const felt = ({ kind, storedIn, stock, frothMlPerMl, colour }: Ingredient) => [
    kind,
    storedIn,
    stock,
    frothMlPerMl,
    colour,
  ]
  if (!isSame(felt(was), felt(is))) return true
  return isOpaque ? !sameFigures(was, is) : !isSame(was.recipe, is.recipe)
}

/** What stands on figures of its own: bottles, and mixes that are as a lot says and not as their recipe. */
function opaqueIn({ locked, today }: Pick<Books, 'locked' | 'today'>): Set<string> {
  const [then, now] = [createMixer(locked.ingredients), createMixer(today.ingredients)]
  return new Set(
    locked.ingredients
      .filter((was) => {
        const is = bySlug(today.ingredients, was.slug)
        return !is || !followsFrom(was, then) || !followsFrom(is, now)
      })
      .map((i) => i.slug),
  )
}

/** Whether the figures of a mix are those that its recipe and the figures of its parts make. */
function followsFrom(ingredient: Ingredient, mixer: Mixer): boolean {
  if (!ingredient.recipe) return false
  const made = mixer.mixOf(ingredient.slug)
  return made.ok && sameFigures(ingredient, withFigures(ingredient, made.mix.figures))
}

function withFigures(ingredient: Ingredient, f: ReturnType<typeof valuesOf>): Ingredient {
  const figure = (value: number) => ({ value, basis: 'recipe' as const })
  return {
    ...ingredient,
    figures: {
      abvPct: figure(f.abvPct),
      sugarGPer100Ml: figure(f.sugarGPer100Ml),
      acidGPer100Ml: figure(f.acidGPer100Ml),
      ...(f.fatGPer100Ml > 0 ? { fatGPer100Ml: figure(f.fatGPer100Ml) } : {}),
      ...(f.otherGPer100Ml > 0 ? { otherGPer100Ml: figure(f.otherGPer100Ml) } : {}),
    },
  }
}

function houseWith(made: readonly Change[], { locked, today, well }: Books, opaque: ReadonlySet<string>): HouseBook {
  const has = (kind: ChangeKind[], of: string) => made.some((c) => kind.includes(c.kind) && c.of === of)
  const pick = <T extends { slug: string }>(was: readonly T[], is: readonly T[], kind: ChangeKind[]): T[] => [
    ...was.map((w) => (has(kind, w.slug) ? (bySlug(is, w.slug) ?? w) : w)),
    // What was not there then can only be reached by what changed.
    ...is.filter((i) => !bySlug(was, i.slug)),
  ]
  const things = pick(locked.ingredients, today.ingredients, ['lot', 'recipe', 'figures'])
  const bottles = things.map((i) => (opaque.has(i.slug) ? withoutRecipe(i) : i))
  const mixer = createMixer(bottles)
  const ingredients = bottles.map((i) => {
    if (!i.recipe || !bySlug(locked.ingredients, i.slug)) return i
    const mix = mixer.mixOf(i.slug)
    return mix.ok ? withFigures(i, mix.mix.figures) : i
  })
  const wells = locked.wells.map((w) => (w.slug === well ? wellWith(w, bySlug(today.wells, well) ?? w, has) : w))
  const ofStation = (slug: string) => (has(['station'], slug) ? today : locked)
  const stations = new Set([locked, today].flatMap((b) => bySlug(b.wells, well)?.stations.map((s) => s.slug) ?? []))
  const { kit, fridgeTemperatureC, freezerTemperatureC } = today.settings
  const { mixes: _, calibrations: __, at: ___, profiles: ____, ...rest } = locked
  return {
    ...rest,
    settings: has(['settings'], '')
      ? { ...locked.settings, kit, fridgeTemperatureC, freezerTemperatureC }
      : locked.settings,
    ingredients,
    wells,
    glasses: pick(locked.glasses, today.glasses, ['glass']),
    outAt: { [well]: { ingredients: outThere(today, well).filter((o) => has(['out'], o)), glasses: [], fruits: [] } },
    slots: pick(locked.slots ?? [], today.slots ?? [], ['slot']),
    calibrations: [...stations].flatMap((s) => calibrationsOf(ofStation(s), well, s)),
  }
}

const withoutRecipe = ({ recipe: _, ...ingredient }: Ingredient): Ingredient => ingredient

function wellWith(was: Well, is: Well, has: (kind: ChangeKind[], of: string) => boolean): Well {
  const frame = has(['well'], was.slug) ? is : was
  const stations = [
    ...was.stations.map((s) => (has(['station'], s.slug) ? (bySlug(is.stations, s.slug) ?? s) : s)),
    ...is.stations.filter((s) => has(['station'], s.slug) && !bySlug(was.stations, s.slug)),
  ]
  return { ...frame, stations }
}

/** What changes one thing on the shelf. */
const OF_A_THING: ReadonlySet<ChangeKind> = new Set(['out', 'lot', 'recipe', 'figures'])

function feels(document: Pick<DrinkDocument, 'pours'>, change: Change, { locked, today }: Books): boolean {
  if (change.kind === 'slot') return document.pours.some((p) => p.slot === change.of)
  if (!OF_A_THING.has(change.kind)) return true
  const seen = new Set<string>()
  const wave = document.pours.flatMap((p) => [
    ...(p.ingredient ? [p.ingredient] : []),
    ...[locked, today].flatMap((b) => bySlug(b.slots ?? [], p.slot)?.candidates.map((c) => c.ingredient) ?? []),
  ])
  for (let slug = wave.pop(); slug !== undefined; slug = wave.pop()) {
    if (slug === change.of) return true
    if (seen.has(slug)) continue
    seen.add(slug)
    for (const book of [locked, today])
      wave.push(...(bySlug(book.ingredients, slug)?.recipe?.components.map((c) => c.ingredient) ?? []))
  }
  return false
}
