/**
 * Sealed mixes and blends: what whoever may not open them gets instead. Everything that leaves the server passes here
 * first. What they get follows from figures that were rounded once, when a manager saved the formula: whatever is
 * computed of it starts from these, so that no number of answers is worth more than one.
 */

import { type Asker, mayDo } from '@conch/contract'
import type { Trial } from '@conch/core/calibration'
import { glassFor } from '@conch/core/drink'
import {
  createMixer,
  isAllergenUnsure,
  type KeptHouse,
  type OnShelf,
  partsOf,
  type Recipe,
  resolveHouse,
  sealedAsOf,
} from '@conch/core/formula'
import { bySlug, type Figure, type Ingredient, type SealedAs, valuesOf } from '@conch/core/house'
import { liquidFromFigures, massGOf } from '@conch/core/liquid'
import { brixOf, type Lot } from '@conch/core/lots'
import type { EditionLock, LockedDrink } from '@conch/core/menu'

export const mayOpen = (role: Asker): boolean => mayDo(role, 'openSealed')

/** What of a house can have something sealed in it. */
type Closable = Pick<KeptHouse, 'ingredients' | 'lots'>

/**
 * The house for whoever may not open what is sealed.
 * @param shelf everything that stands there, for the allergens
 */
export function closeHouse<H extends Closable>(house: H, shelf: readonly OnShelf[]): H {
  if (!house.ingredients.some((i) => i.isSealed && i.recipe)) return house
  const ingredients = house.ingredients.map((i) =>
    i.isSealed && i.recipe ? closeIngredient(i, house.ingredients, shelf) : i,
  )
  return { ...house, ingredients, lots: house.lots.map((lot) => closeLot(lot, ingredients)) }
}

/** What is not computed yet: a house from before it was kept, for the moment until it is. */
const NOTHING: SealedAs = {
  figures: { abvPct: 0, sugarGPer100Ml: 0, acidGPer100Ml: 0, fatGPer100Ml: 0, otherGPer100Ml: 0 },
  allergens: [],
  volumeMl: 0,
  mustStir: false,
  isAcidAdjusted: false,
  keepsDays: null,
  shares: {},
  shelf: { upTo: 0, allergens: {} },
}

function closeIngredient(
  ingredient: Ingredient,
  ingredients: readonly Ingredient[],
  shelf: readonly OnShelf[],
): Ingredient {
  const known = ingredient.sealedAs ?? sealedAsOf(ingredient, ingredients, shelf) ?? NOTHING
  const { volumeMl, mustStir, isAcidAdjusted, keepsDays } = known
  return {
    ...withoutFormula(ingredient),
    figures: figuresOf(known),
    allergens: known.allergens,
    ...(keepsDays === null ? {} : { keepsDays }),
    closed: { volumeMl, mustStir, isAcidAdjusted, keepsDays, isAllergenUnsure: isAllergenUnsure(known, shelf) },
  }
}

/** Without what its makers wrote for themselves, and without a price: together with the shelf's it would tell the parts. */
export function withoutFormula(ingredient: Ingredient): Ingredient {
  const {
    recipe: _,
    note: __,
    withoutAllergens: ___,
    densityGPerMl: ____,
    price: _____,
    size: ______,
    sealedAs: _______,
    ...open
  } = ingredient
  return open
}

function figuresOf({ figures }: SealedAs): Ingredient['figures'] {
  const figure = (value: number): Figure => ({ value, basis: 'recipe' })
  const { abvPct, sugarGPer100Ml, acidGPer100Ml, fatGPer100Ml, otherGPer100Ml } = figures
  return {
    abvPct: figure(abvPct),
    sugarGPer100Ml: figure(sugarGPer100Ml),
    acidGPer100Ml: figure(acidGPer100Ml),
    ...(fatGPer100Ml > 0 ? { fatGPer100Ml: figure(fatGPer100Ml) } : {}),
    ...(otherGPer100Ml > 0 ? { otherGPer100Ml: figure(otherGPer100Ml) } : {}),
  }
}

/** Grams finer than this would tell what a sealed blend in the drink is made of. */
const TRIAL_DIGITS = 0
const rounded = (value: number, digits: number) => Number(value.toFixed(digits))

/** A trial for whoever may not open what is sealed. */
export function closeTrial(trial: Trial): Trial {
  const liquid = Object.fromEntries(
    Object.entries(trial.document.liquid).map(([part, grams]) => [part, rounded(grams, TRIAL_DIGITS)]),
  ) as typeof trial.document.liquid
  return { ...trial, document: { ...trial.document, liquid } }
}

/**
 * A lot of something sealed, or of something open that holds it.
 * @param ingredients what it is of and everything in that, closed
 */
export function closeLot(lot: Lot, ingredients: readonly Ingredient[]): Lot {
  const ingredient = bySlug(ingredients, lot.ingredient)
  if (ingredient?.closed) return closeSealedLot(lot, ingredient, ingredient.closed)
  const { recipe } = lot.document
  if (!ingredient || !recipe) return lot
  const asMade = ingredients.map((i) => (i.slug === lot.ingredient ? { ...i, recipe } : i))
  return holdsClosed(lot.ingredient, asMade) ? closeHoldingLot(lot, asMade) : lot
}

const holdsClosed = (slug: string, ingredients: readonly Ingredient[]): boolean =>
  partsOf(slug, ingredients).some((p) => bySlug(ingredients, p.slug)?.closed !== undefined)

/** How many times the recipe a lot of long ago was, to two figures: more would tell what its mass was. */
const factorOf = ({ document: { factor, theory } }: Lot, volumeMl: number): number =>
  factor ?? (volumeMl > 0 ? Number((theory.volumeMl / volumeMl).toPrecision(2)) : 1)

/** Nothing of its weights: who weighs has a sheet, for that night. */
function closeSealedLot(lot: Lot, ingredient: Ingredient, { volumeMl }: NonNullable<Ingredient['closed']>): Lot {
  const { recipe: _, made: __, madeWith: ___, weighed: ____, theory: _____, ...document } = lot.document
  const madeMl = volumeMl * factorOf(lot, volumeMl)
  const made = liquidFromFigures(madeMl, valuesOf(ingredient))
  const { abvPct, sugarGPer100Ml, acidGPer100Ml } = valuesOf(ingredient)
  return {
    ...lot,
    document: {
      ...document,
      weighed: [],
      theory: {
        massG: made.ok ? massGOf(made.liquid) : 0,
        volumeMl: madeMl,
        brix: made.ok ? brixOf(made.liquid) : 0,
        abvPct,
        sugarGPer100Ml,
        acidGPer100Ml,
      },
      allergens: ingredient.allergens,
    },
    events: lot.events.map((e) =>
      e.event.kind === 'measured' ? { ...e, event: { ...e.event, measured: coarse(e.event.measured) } } : e,
    ),
  }
}

type Measured = Extract<Lot['events'][number]['event'], { kind: 'measured' }>['measured']

/** What came out was read finer than others may know it; its mass beside its volume would be its density. */
function coarse({ massG: _, brix, abvPct, acidGPer100Ml, ...others }: Measured): Measured {
  return {
    ...others,
    ...(brix === undefined ? {} : { brix: rounded(brix, 0) }),
    ...(abvPct === undefined ? {} : { abvPct: rounded(abvPct, 0) }),
    ...(acidGPer100Ml === undefined ? {} : { acidGPer100Ml: rounded(acidGPer100Ml, 1) }),
  }
}

/** What is open in it stays; what was poured of the sealed part, and what came of it, follows from what is known of it. */
function closeHoldingLot(lot: Lot, ingredients: readonly Ingredient[]): Lot {
  const { made: _, madeWith, weighed, theory, ...document } = lot.document
  const mixer = createMixer(ingredients)
  const planned = mixer.freshMixOf(lot.ingredient)
  if (!planned.ok)
    return {
      ...lot,
      document: {
        ...document,
        weighed: [],
        theory: { ...theory, massG: 0, brix: 0, abvPct: 0, sugarGPer100Ml: 0, acidGPer100Ml: 0 },
      },
    }
  const { mix } = planned
  const factor = factorOf(lot, mix.volumeMl)
  const actual = new Map(weighed.map((w) => [w.ingredient, w.actualG]))
  const lines = mix.parts.map((p) => ({
    ingredient: p.ingredient.slug,
    name: p.name,
    plannedG: p.massG * factor,
    actualG: holdsClosedOrIs(p.ingredient, ingredients) ? null : (actual.get(p.ingredient.slug) ?? null),
  }))
  const made = mixer.freshMixOf(
    lot.ingredient,
    Object.fromEntries(lines.map((l) => [l.ingredient, l.actualG ?? l.plannedG])),
  )
  const open = new Set(partsOf(lot.ingredient, ingredients).map((p) => p.slug))
  const { abvPct, sugarGPer100Ml, acidGPer100Ml } = mix.figures
  return {
    ...lot,
    document: {
      ...document,
      weighed: lines,
      ...(made.ok ? { made: made.mix.liquid } : {}),
      ...(madeWith ? { madeWith: madeWith.filter((w) => open.has(w.ingredient)) } : {}),
      theory: {
        massG: mix.massG * factor,
        volumeMl: mix.volumeMl * factor,
        brix: mix.brix,
        abvPct,
        sugarGPer100Ml,
        acidGPer100Ml,
      },
      allergens: mix.allergens.map((a) => a.allergen),
    },
  }
}

const holdsClosedOrIs = (i: Ingredient, ingredients: readonly Ingredient[]): boolean =>
  i.closed !== undefined || holdsClosed(i.slug, ingredients)

/**
 * An edition's lock for whoever may not open what is sealed, then or now: no recipe of it, nothing that only it needs,
 * and figures that start from what others may know of it.
 */
export function closeLock(lock: EditionLock, today: (slug: string) => Ingredient | undefined): EditionLock {
  const isSealed = (i: Ingredient) => (i.isSealed || today(i.slug)?.isSealed) === true
  const { ingredients, slots = [] } = lock.book
  const sealed = ingredients.filter((i) => i.recipe && isSealed(i))
  if (sealed.length === 0) return lock
  const documents = lock.chapters.flatMap((c) => c.drinks.map((d) => d.document))
  const poured = new Set([
    ...documents.flatMap((d) => d.pours.flatMap((p) => p.ingredient ?? [])),
    ...slots.flatMap((s) => [...s.candidates, ...s.refused].map((c) => c.ingredient)),
  ])
  const open = new Set(poured)
  for (const slug of open) {
    const ingredient = bySlug(ingredients, slug)
    if (!ingredient || isSealed(ingredient)) continue
    // A set goes on to what is added while one walks it.
    for (const c of ingredient.recipe?.components ?? []) open.add(c.ingredient)
  }
  const inside = new Set(sealed.flatMap((s) => partsOf(s.slug, ingredients).map((p) => p.slug)))
  const isHidden = (slug: string) => inside.has(slug) && !open.has(slug)
  const closedOnes = ingredients.map((i) => (i.recipe && isSealed(i) ? closeLocked(i, today(i.slug)) : i))
  const holds = new Set(closedOnes.flatMap((i) => (i.closed || holdsClosed(i.slug, closedOnes) ? [i.slug] : [])))
  const book = resolveHouse(
    {
      ...lock.book,
      // What holds nothing sealed keeps the figures that it had.
      ingredients: closedOnes.map((i) => (holds.has(i.slug) || !i.recipe ? i : withoutRecipe(i))),
      lots: [],
      slots,
      tasted: lock.book.profiles ?? {},
    },
    '1970-01-01',
  )
  const resolved = new Map(book.ingredients.map((i) => [i.slug, i]))
  const shown = closedOnes
    .filter((i) => open.has(i.slug))
    .map((i) => {
      if (i.closed) {
        const { closed: _, ...locked } = i
        return { ...locked, isSealed: true }
      }
      return holds.has(i.slug) ? { ...i, figures: resolved.get(i.slug)?.figures ?? i.figures } : i
    })
  const poursSealed = ({ document }: LockedDrink) =>
    document.pours.some((p) => {
      const slot = slots.find((s) => s.slug === p.slot)
      const all = [p.ingredient, ...(slot ? [...slot.candidates, ...slot.refused].map((c) => c.ingredient) : [])]
      return all.some((slug) => slug !== undefined && holds.has(slug))
    })
  const closeDrink = (drink: LockedDrink): LockedDrink => {
    if (!poursSealed(drink)) return drink
    const byWell = Object.fromEntries(
      Object.keys(drink.byWell).flatMap((well) => {
        const glass = glassFor(drink.document, book, well)
        return glass.ok ? [[well, { result: glass.result, consequences: glass.consequences }] as const] : []
      }),
    )
    return { ...drink, byWell }
  }
  return {
    ...lock,
    book: {
      ...lock.book,
      ingredients: shown,
      ...(lock.book.profiles
        ? { profiles: Object.fromEntries(Object.entries(lock.book.profiles).filter(([slug]) => !isHidden(slug))) }
        : {}),
    },
    chapters: lock.chapters.map((c) => ({ ...c, drinks: c.drinks.map(closeDrink) })),
  }
}

const withoutRecipe = ({ recipe: _, ...i }: Ingredient & { recipe?: Recipe }): Ingredient => i

/** As it was known when it was locked; of an older lock, as it is known today. */
function closeLocked(ingredient: Ingredient, today: Ingredient | undefined): Ingredient {
  const known = ingredient.sealedAs ?? today?.sealedAs
  const figures = known ? figuresOf(known) : figuresOf({ ...NOTHING, figures: wholeOf(ingredient) })
  const { volumeMl, mustStir, isAcidAdjusted, keepsDays } = known ?? NOTHING
  return {
    ...withoutFormula(ingredient),
    figures,
    allergens: known?.allergens ?? ingredient.allergens,
    isSealed: true,
    closed: { volumeMl, mustStir, isAcidAdjusted, keepsDays, isAllergenUnsure: false },
  }
}

const wholeOf = (ingredient: Ingredient): SealedAs['figures'] => {
  const v = valuesOf(ingredient)
  return {
    abvPct: rounded(v.abvPct, 0),
    sugarGPer100Ml: rounded(v.sugarGPer100Ml, 0),
    acidGPer100Ml: rounded(v.acidGPer100Ml, 1),
    fatGPer100Ml: rounded(v.fatGPer100Ml ?? 0, 0),
    otherGPer100Ml: rounded(v.otherGPer100Ml ?? 0, 0),
  }
}
