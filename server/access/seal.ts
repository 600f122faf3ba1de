/**
 * Sealed mixes and blends: what whoever may not open them gets instead. Everything that leaves the
 * server passes here first; nothing of a formula is in an answer that should not have it.
 */

import { type Asker, mayDo } from '@conch/contract'
import { clockOf, nightOf } from '@conch/core/calendar'
import type { Trial } from '@conch/core/calibration'
import {
  type KeptHouse,
  lettersOf,
  type Mixer,
  mixerOfToday,
  partsOf,
  type Recipe,
  resolveHouse,
} from '@conch/core/formula'
import { bySlug, type ClosedMix, type Figure, type HouseBook, type Ingredient } from '@conch/core/house'
import type { Lot } from '@conch/core/lots'
import type { EditionLock, LockedDrink } from '@conch/core/menu'

export const mayOpen = (role: Asker): boolean => mayDo(role, 'openSealed')

/** Figures finer than this would let the shelf be searched for what is in it. */
const DIGITS = { abvPct: 1, sugarGPer100Ml: 1, acidGPer100Ml: 2, fatGPer100Ml: 1, otherGPer100Ml: 1 } as const
/** The same for its price: two figures. */
const PRICE_DIGITS = 2

const rounded = (value: number, digits: number) => Number(value.toFixed(digits))

/** What of a house can have something sealed in it. */
type Closable = Pick<KeptHouse, 'settings' | 'wells' | 'ingredients' | 'glasses' | 'lots'>

/** The house for whoever may not open what is sealed: figures, allergens, cost and lettered weights in its place. */
export function closeHouse<H extends Closable>(house: H, now: Date): H {
  const sealed = house.ingredients.filter((i) => i.isSealed && i.recipe)
  if (sealed.length === 0) return house
  const { settings, wells, ingredients, glasses, lots } = house
  const today = nightOf(now, clockOf(settings))
  const book = resolveHouse({ settings, wells, ingredients, glasses, lots, tasted: {} }, today)
  const mixer = mixerOfToday(house, today)
  return {
    ...house,
    ingredients: ingredients.map((i) => (i.isSealed && i.recipe ? closeIngredient(i, i.recipe, book, mixer) : i)),
    lots: lots.map((lot) => closeLot(lot, bySlug(ingredients, lot.ingredient))),
  }
}

function closeIngredient(ingredient: Ingredient, recipe: Recipe, book: HouseBook, mixer: Mixer): Ingredient {
  const {
    recipe: _,
    note: __,
    withoutAllergens: ___,
    densityGPerMl: ____,
    price: _____,
    size: ______,
    ...open
  } = ingredient
  const resolved = bySlug(book.ingredients, ingredient.slug) ?? ingredient
  const facts = book.mixes?.[ingredient.slug]
  const result = mixer.freshMixOf(ingredient.slug)
  const mix = result.ok ? result.mix : undefined
  const letters = lettersOf(recipe)
  const closed: ClosedMix = {
    prep: (mix?.parts ?? [])
      .map((p) => ({ ...(letters.get(p.ingredient.slug) ?? { slug: 'part', name: '?' }), massG: rounded(p.massG, 1) }))
      .map(({ slug, name, massG }) => ({ ingredient: slug, name, massG }))
      .sort((a, b) => a.name.localeCompare(b.name)),
    massG: rounded(mix?.massG ?? 0, 0),
    volumeMl: rounded(mix?.volumeMl ?? 0, 0),
    brix: rounded(facts?.brix ?? 0, 1),
    mustStir: (facts?.stirs.length ?? 0) > 0,
    isAcidAdjusted: facts?.isAcidAdjusted ?? false,
    keepsDays: mix?.keeps.days ?? null,
    costIsKnown: mix !== undefined && mix.cost.unknown.length === 0,
    stale: facts?.isClosedStale ?? null,
  }
  const perLitre = mix && closed.costIsKnown && mix.volumeMl > 0 ? (1000 * mix.cost.value) / mix.volumeMl : undefined
  return {
    ...open,
    figures: roundFigures(resolved.figures),
    allergens: resolved.allergens,
    ...(perLitre === undefined ? {} : { price: Number(perLitre.toPrecision(PRICE_DIGITS)), size: 1000 }),
    closed,
  }
}

function roundFigures(figures: Ingredient['figures']): Ingredient['figures'] {
  const shown = {} as Record<string, Figure>
  for (const [key, figure] of Object.entries(figures) as [keyof typeof DIGITS, Figure | undefined][]) {
    if (figure) shown[key] = { ...figure, value: rounded(figure.value, DIGITS[key]) }
  }
  return shown as unknown as Ingredient['figures']
}

/** Grams finer than this would tell what a sealed blend in the drink is made of. */
const TRIAL_DIGITS = 0

/** A trial for whoever may not open what is sealed. */
export function closeTrial(trial: Trial): Trial {
  const liquid = Object.fromEntries(
    Object.entries(trial.document.liquid).map(([part, grams]) => [part, rounded(grams, TRIAL_DIGITS)]),
  ) as typeof trial.document.liquid
  return { ...trial, document: { ...trial.document, liquid } }
}

/** A lot of something sealed: weights under letters, and nothing of its recipe or its composition. @param ingredient what it is of */
export function closeLot(lot: Lot, ingredient: Ingredient | undefined): Lot {
  if (!ingredient?.isSealed) return lot
  const { recipe, made: _, madeWith: __, weighed, ...document } = lot.document
  const letters = recipe && lettersOf(recipe)
  const closed = weighed.flatMap((w) => {
    const letter = letters?.get(w.ingredient)
    return letter ? [{ ...w, ingredient: letter.slug, name: letter.name }] : []
  })
  return { ...lot, document: { ...document, weighed: closed.sort((a, b) => a.name.localeCompare(b.name)) } }
}

/** What a consequence says in place of a sentence that names something sealed. */
const SEALED_WORDS = 'about something sealed that it pours: a manager can open it'

/**
 * An edition's lock for whoever may not open what is sealed, then or now: no recipe of it, and
 * nothing that only it needs.
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
  const inside = new Set(sealed.flatMap((s) => partsOf(s.slug, ingredients).map((p) => p.name)))
  const closeDrink = (drink: LockedDrink): LockedDrink => {
    const own = drink.document.pours.flatMap((p) => bySlug(ingredients, p.ingredient)?.name ?? [])
    const hidden = [...inside].filter((name) => !own.includes(name))
    const byWell = Object.fromEntries(
      Object.entries(drink.byWell).map(([well, at]) => [
        well,
        {
          ...at,
          consequences: at.consequences.map((c) =>
            hidden.some((name) => c.text.includes(name)) ? { ...c, text: SEALED_WORDS } : c,
          ),
        },
      ]),
    )
    return { ...drink, byWell }
  }
  const isHidden = (slug: string) => !open.has(slug) || sealed.some((s) => s.slug === slug)
  return {
    ...lock,
    book: {
      ...lock.book,
      ingredients: ingredients.filter((i) => open.has(i.slug)).map((i) => (isSealed(i) ? closeLocked(i) : i)),
      ...(lock.book.profiles
        ? { profiles: Object.fromEntries(Object.entries(lock.book.profiles).filter(([slug]) => !isHidden(slug))) }
        : {}),
    },
    chapters: lock.chapters.map((c) => ({ ...c, drinks: c.drinks.map(closeDrink) })),
  }
}

function closeLocked(ingredient: Ingredient): Ingredient {
  const { recipe: _, note: __, withoutAllergens: ___, densityGPerMl: ____, ...open } = ingredient
  return { ...open, figures: roundFigures(open.figures), isSealed: true }
}
