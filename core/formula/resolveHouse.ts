import { clockOf, type HouseClock, nightOf } from '../calendar/index.ts'
import type {
  ClosedMix,
  Figure,
  Glass,
  HouseBook,
  Ingredient,
  MixFacts,
  Settings,
  StationCalibration,
  Well,
} from '../house/index.ts'
import { isAcidPowder, isWeighed, valuesOf } from '../house/index.ts'
import { type LiquidFigures, liquidFromFigures, massGOf } from '../liquid/index.ts'
import {
  brixOf,
  figuresOf,
  type Measured,
  measuredOf,
  saturationBrixIn,
  staleOfLot,
  standingOfLot,
  sugarInWaterBrix,
  withMeasured,
} from '../lots/index.ts'
import type { Lot } from '../lots/lotSchema.ts'
import { type Flight, mixProfiles, profilesOf, type Slot, type StyleProfile } from '../palate/index.ts'
import { createMixer, type LotFigures, type Mix, type Mixer, SEALED_PROBLEM } from './resolveMix.ts'

/** A house as it is kept: what is typed, the lots that are open, and what was tasted. */
export interface KeptHouse {
  settings: Settings
  wells: Well[]
  ingredients: Ingredient[]
  glasses: Glass[]
  lots: Lot[]
  slots?: Slot[]
  flights?: Flight[]
  /** What tasters say, by slug, where it is known already; beside it no flight is counted. */
  tasted?: Record<string, StyleProfile>
  calibrations?: StationCalibration[]
}

/** The lot that stands for something now: the newest that is not gone. */
export function currentLots(lots: readonly Lot[], today: string): Map<string, Lot> {
  const current = new Map<string, Lot>()
  for (const lot of [...lots].sort((a, b) => a.id - b.id)) {
    if (standingOfLot(lot, today) !== 'gone') current.set(lot.ingredient, lot)
  }
  return current
}

/** What a lot of a mix says of itself, for a mixer; undefined for what has no recipe. */
function lotFiguresOf(lot: Lot | undefined, clock: HouseClock): LotFigures | undefined {
  if (!lot?.document.made || !(massGOf(lot.document.made) > 0)) return undefined
  const reading = measuredOf(lot)
  return {
    made: lot.document.made,
    isBoiled: lot.document.recipe?.reduceToG !== undefined,
    measured: reading?.measured ?? {},
    on: reading ? nightOf(new Date(reading.at), clock) : lot.madeOn,
    by: reading?.by ?? lot.madeBy,
  }
}

/** What mixes with the lots that stand for their mixes today. @param today ISO date */
export function mixerOfToday(
  { ingredients, lots, settings }: Pick<KeptHouse, 'ingredients' | 'lots' | 'settings'>,
  today: string,
): Mixer {
  const current = currentLots(lots, today)
  return createMixer(ingredients, { lotOf: (slug) => lotFiguresOf(current.get(slug), clockOf(settings)) })
}

/**
 * The house as drinks see it: every mix with the figures that its recipe, or its newest lot, gives
 * it, and what else there is to know about it. What cannot be resolved keeps its typed figures.
 * @param today ISO date, for what has expired
 * @param at the moment, for the hours of what was pressed; left out: nobody asks for them
 */
export function resolveHouse(
  { lots, flights = [], tasted = profilesOf(flights), slots = [], ...house }: KeptHouse,
  today: string,
  at?: Date,
): HouseBook {
  const current = currentLots(lots, today)
  const byRecipe = createMixer(house.ingredients)
  const clock = clockOf(house.settings)
  const asMade = mixerOfToday({ ...house, lots }, today)
  const mixes: Record<string, MixFacts> = {}
  const ingredients = house.ingredients.map((ingredient) => {
    const lot = current.get(ingredient.slug)
    if (ingredient.closed) {
      mixes[ingredient.slug] = {
        ...factsOfClosed(ingredient.closed, ingredient),
        ...(lot ? { lot: lotFacts(lot, today) } : {}),
      }
      return ingredient
    }
    if (!ingredient.recipe) {
      if (!lot) return ingredient
      mixes[ingredient.slug] = { ...NO_FACTS, lot: lotFacts(lot, today) }
      return asMeasured(ingredient, lot, mixes[ingredient.slug] as MixFacts, clock)
    }
    const now = asMade.mixOf(ingredient.slug)
    const written = byRecipe.mixOf(ingredient.slug)
    if (!now.ok || !written.ok) {
      const failed = now.ok ? written : now
      mixes[ingredient.slug] = {
        ...NO_FACTS,
        problems: failed.ok ? [] : ingredient.isSealed ? [SEALED_PROBLEM] : failed.problems.map((p) => p.message),
        ...(lot ? { lot: lotFacts(lot, today) } : {}),
      }
      return ingredient
    }
    mixes[ingredient.slug] = {
      ...factsOf(ingredient, now.mix, written.mix, lot, today),
      ...(lot ? staleInLot(ingredient, lot, today) : staleFacts(ingredient, now.mix, current, today)),
    }
    const figures = lotFiguresOf(lot, clock)
    const known = figures && isReading(figures.measured)
    return {
      ...ingredient,
      figures: toFigures(now.mix.figures, {
        basis: figures && isReading(figures.measured) ? 'measured' : now.mix.assumed.length > 0 ? 'assumed' : 'recipe',
        ...(figures ? { on: figures.on, by: figures.by } : {}),
        // A reading of the whole says what its parts do not.
        ...(known ? {} : { unknown: unknownIn(now.mix) }),
      }),
      allergens: now.mix.allergens.map((a) => a.allergen),
    }
  })
  return {
    ...house,
    ...(at ? { at: at.toISOString() } : {}),
    ingredients,
    mixes,
    slots,
    profiles: allProfiles(ingredients, asMade, tasted),
  }
}

/** What tasters say of everything; of a blend or a mix that nobody tasted, what its parts with alcohol make. */
function allProfiles(
  ingredients: readonly Ingredient[],
  mixer: Mixer,
  tasted: Readonly<Record<string, StyleProfile>>,
): Record<string, StyleProfile> {
  const known = { ...tasted }
  const withRecipe = new Set(ingredients.filter((i) => i.recipe).map((i) => i.slug))
  const of = (slug: string): StyleProfile => {
    const own = known[slug]
    if (own) return own
    const mix = withRecipe.has(slug) ? mixer.mixOf(slug) : undefined
    if (!mix?.ok) return {}
    const parts = mix.mix.parts.filter((p) => p.liquid.ethanolG > 0)
    const mixed = mixProfiles(parts.map((p) => ({ profile: of(p.ingredient.slug), volumeMl: p.volumeMl })))
    known[slug] = mixed
    return mixed
  }
  for (const i of ingredients) if (i.kind === 'blend' && i.recipe) of(i.slug)
  return known
}

/** What is known of a sealed mix to whoever may not open it. */
function factsOfClosed(closed: ClosedMix, ingredient: Ingredient): MixFacts {
  const liquid = liquidFromFigures(100, valuesOf(ingredient))
  return {
    ...NO_FACTS,
    ...(liquid.ok ? { brix: brixOf(liquid.liquid) } : {}),
    stirs: closed.mustStir ? [ingredient.name] : [],
    isAcidAdjusted: closed.isAcidAdjusted,
    ...(closed.isAllergenUnsure ? { isAllergenUnsure: true } : {}),
  }
}

const NO_FACTS: MixFacts = { stirs: [], isAcidAdjusted: false, stale: [], notes: [], problems: [] }

const isReading = (m: Measured) => m.brix !== undefined || m.abvPct !== undefined || m.acidGPer100Ml !== undefined

const MAIN_FIGURES = ['abvPct', 'sugarGPer100Ml', 'acidGPer100Ml'] as const
type MainFigure = (typeof MAIN_FIGURES)[number]

/** Figures that nobody knows of something in a mix, at any depth. */
function unknownIn(mix: Mix): MainFigure[] {
  return MAIN_FIGURES.filter((key) =>
    mix.parts.some((p) => (p.mix ? unknownIn(p.mix).includes(key) : p.ingredient.figures[key].basis === 'unknown')),
  )
}

function toFigures(
  f: Required<LiquidFigures>,
  { unknown = [], ...known }: Omit<Figure, 'value'> & { unknown?: readonly MainFigure[] },
): Ingredient['figures'] {
  const figure = (value: number, key?: MainFigure): Figure => ({
    value,
    ...known,
    ...(key && unknown.includes(key) ? { basis: 'unknown' as const } : {}),
  })
  return {
    abvPct: figure(f.abvPct, 'abvPct'),
    sugarGPer100Ml: figure(f.sugarGPer100Ml, 'sugarGPer100Ml'),
    acidGPer100Ml: figure(f.acidGPer100Ml, 'acidGPer100Ml'),
    ...(f.fatGPer100Ml > 0 ? { fatGPer100Ml: figure(f.fatGPer100Ml) } : {}),
    ...(f.otherGPer100Ml > 0 ? { otherGPer100Ml: figure(f.otherGPer100Ml) } : {}),
  }
}

const lotFacts = (lot: Lot, today: string): NonNullable<MixFacts['lot']> => ({
  id: lot.id,
  madeOn: lot.madeOn,
  useBy: lot.useBy,
  standing: standingOfLot(lot, today),
  ...(lot.document.madeAt === undefined ? {} : { madeAt: lot.document.madeAt }),
})

/** A bought or pressed thing whose lot was measured. */
function asMeasured(ingredient: Ingredient, lot: Lot, facts: MixFacts, clock: HouseClock): Ingredient {
  const reading = measuredOf(lot)
  if (!reading || isWeighed(ingredient.kind) || !isReading(reading.measured)) return ingredient
  const typed = valuesOf(ingredient)
  const made = liquidFromFigures(100, typed)
  if (!made.ok) return ingredient
  const { liquid } = withMeasured(made.liquid, reading.measured)
  facts.theory = typed
  facts.theoryBrix = brixOf(made.liquid)
  facts.brix = brixOf(liquid)
  return {
    ...ingredient,
    figures: toFigures(figuresOf(liquid), {
      basis: 'measured',
      on: nightOf(new Date(reading.at), clock),
      by: reading.by,
    }),
  }
}

function factsOf(ingredient: Ingredient, now: Mix, written: Mix, lot: Lot | undefined, today: string): MixFacts {
  const hasPowder = now.parts.some((p) => isAcidPowder(p.ingredient))
  const hasChanged = Object.keys(now.figures).some((key) => {
    const k = key as keyof typeof now.figures
    return Math.abs(now.figures[k] - written.figures[k]) > 1e-9
  })
  return {
    stirs: now.stirs,
    isAcidAdjusted: hasPowder && now.figures.acidGPer100Ml > 1,
    brix: now.brix,
    stale: [],
    notes: notesOf(ingredient, now),
    problems: [],
    ...(hasChanged ? { theory: written.figures, theoryBrix: written.brix } : {}),
    ...(lot ? { lot: lotFacts(lot, today) } : {}),
  }
}

/** Below this share of sugar there is hardly a syrup that could crystallise. */
const SYRUP_SUGAR_FRACTION = 0.2

/** What should not wait in a mix that has no lot of its own; of what is sealed only that there is something. */
function staleFacts(
  ingredient: Ingredient,
  mix: Mix,
  current: ReadonlyMap<string, Lot>,
  today: string,
): Pick<MixFacts, 'stale' | 'isClosedStale'> {
  const all = staleIn(mix, current, today)
  const open = ingredient.isSealed ? [] : staleIn(mix, current, today, (i) => !i.isSealed)
  const hidden = all.filter((s) => !open.some((o) => o.id === s.id))
  if (hidden.length === 0) return { stale: open }
  return { stale: open, isClosedStale: hidden.some((s) => s.standing === 'expired') ? 'expired' : 'due' }
}

/** What a lot of a mix was made of that is past its day; of what is sealed only that there is something. */
function staleInLot(ingredient: Ingredient, lot: Lot, today: string): Pick<MixFacts, 'stale' | 'isClosedStale'> {
  const stale = staleOfLot(lot, today)
  if (ingredient.isSealed) return { stale: [], ...(stale.length > 0 ? { isClosedStale: 'expired' } : {}) }
  return { stale: stale.map((s) => ({ name: s.name, id: s.lot, useBy: s.useBy, standing: 'expired', isInIt: true })) }
}

/**
 * The lots that go into a batch made today and those that had gone into them, each with its day: to be written down with it.
 */
export function lotsWithin(mix: Mix, current: ReadonlyMap<string, Lot>): NonNullable<Lot['document']['madeWith']> {
  const within = mix.parts.flatMap((p): NonNullable<Lot['document']['madeWith']> => {
    const lot = current.get(p.ingredient.slug)
    if (!lot) return p.mix ? lotsWithin(p.mix, current) : []
    const own =
      lot.useBy === null ? [] : [{ ingredient: p.ingredient.slug, name: p.name, lot: lot.id, useBy: lot.useBy }]
    // What the house decided to keep longer is counted by its own day.
    return [...own, ...(lot.document.recipe?.keepsDecision ? [] : (lot.document.madeWith ?? []))]
  })
  return within.filter((w, i) => within.findIndex((o) => o.lot === w.lot) === i)
}

/** The lots that it would be made of today and that should not wait, at any depth; a fresh lot hides what is in it. */
function staleIn(
  mix: Mix,
  current: ReadonlyMap<string, Lot>,
  today: string,
  mayOpen: (i: Ingredient) => boolean = () => true,
): MixFacts['stale'] {
  return mix.parts.flatMap((p) => {
    const lot = current.get(p.ingredient.slug)
    if (!lot) return p.mix && mayOpen(p.ingredient) ? staleIn(p.mix, current, today, mayOpen) : []
    const standing = standingOfLot(lot, today)
    if (standing !== 'due' && standing !== 'expired') return []
    return [{ name: p.name, id: lot.id, useBy: lot.useBy, standing }]
  })
}

/**
 * The earliest use-by among the lots that a batch is made of today: it keeps no longer than they do.
 * An expired lot is not counted: it is told of elsewhere, and nobody pours it in.
 */
export function earliestUseBy(mix: Mix, current: ReadonlyMap<string, Lot>, today: string): string | undefined {
  const dates = mix.parts.flatMap((p) => {
    const lot = current.get(p.ingredient.slug)
    if (!lot) return (p.mix && earliestUseBy(p.mix, current, today)) ?? []
    return lot.useBy === null || standingOfLot(lot, today) === 'expired' ? [] : [lot.useBy]
  })
  return dates.sort()[0]
}

/** What to know about a mix before it is made, in words. */
export function notesOf(ingredient: Ingredient, mix: Mix): string[] {
  const notes: string[] = []
  const limit = saturationBrixIn(ingredient.storedIn)
  const inWater = sugarInWaterBrix(mix.liquid)
  if (inWater > limit && mix.liquid.sugarG > SYRUP_SUGAR_FRACTION * mix.massG) {
    const where = ingredient.storedIn === 'shelf' ? 'at 20 °C' : 'in the fridge'
    notes.push(`will crystallise: ${inWater.toFixed(1)} g sugar in 100 g of sugar and water; ${where} at most ${limit}`)
  }
  if (mix.liquid.ethanolG > 0 && ingredient.recipe?.reduceToG !== undefined)
    notes.push('alcohol boils off before water: its strength is a guess until it is measured')
  if (mix.figures.fatGPer100Ml > 2 && mix.stirs.length === 0)
    notes.push('its fat will separate: mark it as an emulsion, so that every spec says to stir it')
  if (mix.keeps.days === undefined) notes.push('nobody has said how many days it keeps')
  if (mix.keeps.isLengthened) notes.push(`kept longer than what is fresh in it: ${mix.keeps.because}`)
  return notes
}
