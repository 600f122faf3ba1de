import { type Allergen, type Ingredient, isWeighed, nameApart, valuesOf } from '../house/index.ts'
import {
  addLiquids,
  densityGPerMlOf,
  type Liquid,
  type LiquidFigures,
  liquidFromFigures,
  massGOf,
  NOTHING,
  scaleLiquid,
  volumeMlOf,
} from '../liquid/index.ts'
import { brixOf, daysOf, figuresOf, type Keeps, keepsOf, type Measured, withMeasured } from '../lots/index.ts'
import type { Recipe, RecipeComponent } from '../schema/recipe.ts'
import { amountSize, isByWeight } from '../schema/recipeMeasures.ts'
import { boilDown } from './boilDown.ts'

/** Something about a recipe that cannot be computed, and where. */
export interface MixProblem {
  path: (string | number)[]
  message: string
  /** It contains itself: said the same at every level. */
  isLoop?: boolean
}

/** One component of a recipe, for the batch as written (parts: 100 g or 100 ml each). */
export interface MixPart {
  ingredient: Ingredient
  /** As it is called among the others of the shelf. */
  name: string
  component: RecipeComponent
  massG: number
  /** At 20 °C; of a dry good as it lies in a cup. */
  volumeMl: number
  /** What of it is in the mix. */
  liquid: Liquid
  strainedG: number
  /** Undefined when its price or size is not known. */
  cost: number | undefined
  /** When it is a mix itself. */
  mix: Mix | undefined
}

/** A lot as the computation needs it: what it was when it was made, and what was measured on it. */
export interface LotFigures {
  /** By its weights and its components of that day, g. What changes on the shelf later is not in it. */
  made: Liquid
  /** Boiled down: what it weighs says how much water went, not how much stayed in the pan. */
  isBoiled: boolean
  measured: Measured
  on: string
  by: string
}

/** Where an allergen comes from: names from the mix's component down. */
export interface AllergenSource {
  allergen: Allergen
  from: string[]
}

export interface Mix {
  ingredient: Ingredient
  parts: MixPart[]
  /** massIn = strained + evaporated + lost + mass, g. */
  massInG: number
  strainedG: number
  evaporatedG: number
  lostG: number
  /** What the batch yields. */
  massG: number
  volumeMl: number
  liquid: Liquid
  figures: Required<LiquidFigures>
  densityGPerMl: number
  brix: number
  allergens: AllergenSource[]
  /** Said to be without, for a recorded reason. */
  without: Allergen[]
  /** Things in it, at any depth, with a figure that nobody measured or read. */
  assumed: string[]
  /** Of the batch, in the house's currency, and whose price is not known. */
  cost: { value: number; unknown: string[] }
  keeps: Keeps
  /** Emulsions in it, itself included: stirred before every pour. */
  stirs: string[]
  /** 1 for a mix of bought things only. */
  depth: number
}

export type MixResult = { ok: true; mix: Mix } | { ok: false; problems: MixProblem[] }

/** All that is said of a sealed mix that cannot be computed. */
export const SEALED_PROBLEM = 'cannot be computed; a manager can open it'

const DEFAULT_BULK_G_PER_ML = 0.85

/** A component's composition, g in one gram, with all that travels with it. */
interface Known {
  perG: Liquid
  densityGPerMl: number
  mix: Mix | undefined
}
type KnownResult = { ok: true; known: Known } | { ok: false; message: string; isLoop?: boolean }

export interface MixerOptions {
  /** The lot that stands for a mix now, by slug. */
  lotOf?: (slug: string) => LotFigures | undefined
}

/** Resolves the mixes of one shelf, each once, however deep they nest. */
export interface Mixer {
  /** The mix of this slug as it is made now. @throws Error when it has no recipe (a bug) */
  mixOf(slug: string): MixResult
  /**
   * A new batch by its recipe, of components as they are now, whatever an older lot of it is.
   * @param weighedG what was really weighed in, by the component's slug; the rest by the recipe
   */
  freshMixOf(slug: string, weighedG?: Record<string, number>): MixResult
}

/**
 * A mixer for a shelf. Grams of every component are added, at every depth; a lot's weights and
 * measurements stand in place of the recipe where there are any.
 */
export function createMixer(ingredients: readonly Ingredient[], { lotOf = () => undefined }: MixerOptions = {}): Mixer {
  const bySlug = new Map(ingredients.map((i) => [i.slug, i]))
  const done = new Map<string, MixResult>()
  const known = new Map<string, KnownResult>()
  const open: string[] = []

  function mixOf(slug: string): MixResult {
    const before = done.get(slug)
    if (before) return before
    const ingredient = bySlug.get(slug)
    if (!ingredient?.recipe) throw new Error(`bug: “${slug}” has no recipe`)
    if (open.includes(slug)) {
      const loop = [...open.slice(open.indexOf(slug)), slug].map((s) => bySlug.get(s)?.name ?? s)
      const message = `goes round in a circle: ${loop.join(' → ')}`
      return { ok: false, problems: [{ path: ['components'], message, isLoop: true }] }
    }
    open.push(slug)
    const byRecipe = resolve(ingredient, ingredient.recipe, undefined)
    const lot = lotOf(slug)
    const result: MixResult = byRecipe.ok && lot ? { ok: true, mix: asLot(byRecipe.mix, lot) } : byRecipe
    open.pop()
    // What failed within a circle may be sound when asked for by itself.
    if (result.ok || open.length === 0) done.set(slug, result)
    return result
  }

  function freshMixOf(slug: string, weighedG?: Record<string, number>): MixResult {
    const before = mixOf(slug)
    const recipe = bySlug.get(slug)?.recipe
    const ingredient = bySlug.get(slug)
    if (!before.ok || !recipe || !ingredient) return before
    return resolve(ingredient, recipe, weighedG)
  }

  function resolve(ingredient: Ingredient, recipe: Recipe, weighedG: Record<string, number> | undefined): MixResult {
    const problems: MixProblem[] = []
    const parts: MixPart[] = []
    recipe.components.forEach((component, i) => {
      const at = ['components', i, 'ingredient']
      const of = bySlug.get(component.ingredient)
      if (!of) {
        problems.push({ path: at, message: `there is no ingredient “${component.ingredient}”` })
        return
      }
      const found = knownOf(of)
      if (found.ok && ingredient.kind === 'blend' && !(found.known.perG.ethanolG > 0)) {
        problems.push({ path: at, message: `${of.name} has no alcohol; a blend is of spirits` })
        return
      }
      if (found.ok) parts.push(partOf(of, nameApart(of, ingredients), component, recipe, found.known, weighedG))
      else problems.push({ path: at, message: found.message, ...(found.isLoop ? { isLoop: true } : {}) })
    })
    if (problems.length > 0) return { ok: false, problems }

    const mixed = addLiquids(...parts.map((p) => p.liquid))
    // A batch of another size is boiled down in proportion.
    const written = parts.reduce((sum, p) => sum + weightOf(p.component, recipe, p), 0)
    const massInG = parts.reduce((sum, p) => sum + p.massG, 0)
    const scale = weighedG && written > 0 ? massInG / written : 1
    const reduceToG = recipe.reduceToG === undefined ? undefined : recipe.reduceToG * scale
    const boiled = reduceToG === undefined ? undefined : boilDown(mixed, reduceToG)
    if (boiled && !boiled.ok) return { ok: false, problems: [{ path: ['reduceToG'], message: boiled.reason }] }
    const left = boiled?.liquid ?? mixed
    const liquid = scaleLiquid(left, 1 - (recipe.lossFraction ?? 0))
    return { ok: true, mix: describe(ingredient, recipe, parts, liquid, left, boiled?.evaporatedG ?? 0) }
  }

  function knownOf(ingredient: Ingredient): KnownResult {
    const before = known.get(ingredient.slug)
    if (before) return before
    const result = learn(ingredient)
    if (result.ok || open.length === 0) known.set(ingredient.slug, result)
    return result
  }

  function learn(ingredient: Ingredient): KnownResult {
    if (ingredient.recipe) {
      const result = mixOf(ingredient.slug)
      if (!result.ok) {
        const [first] = result.problems
        // A sealed mix tells nobody why it fails: the reason names what is in it.
        if (ingredient.isSealed) return { ok: false, message: `${ingredient.name} ${SEALED_PROBLEM}` }
        if (first?.isLoop) return { ok: false, message: first.message, isLoop: true }
        return { ok: false, message: `${ingredient.name}: ${first?.message}` }
      }
      const { mix } = result
      if (!(mix.massG > 0)) return { ok: false, message: `${ingredient.name} yields nothing` }
      return {
        ok: true,
        known: { perG: scaleLiquid(mix.liquid, 1 / mix.massG), densityGPerMl: mix.densityGPerMl, mix },
      }
    }
    return knownByFigures(ingredient)
  }

  return { mixOf, freshMixOf }
}

/** What stands on a label or was measured, made a liquid; of what is weighed dry the rest is water. */
function knownByFigures(ingredient: Ingredient): KnownResult {
  const { figures: f } = ingredient
  if (isWeighed(ingredient.kind)) {
    const solids = {
      sugarG: f.sugarGPer100Ml.value / 100,
      acidG: f.acidGPer100Ml.value / 100,
      fatG: (f.fatGPer100Ml?.value ?? 0) / 100,
      otherG: (f.otherGPer100Ml?.value ?? 0) / 100,
    }
    const perG: Liquid = { ...NOTHING, ...solids, waterG: Math.max(0, 1 - massGOf({ ...NOTHING, ...solids })) }
    const densityGPerMl = ingredient.bulkGPerMl ?? DEFAULT_BULK_G_PER_ML
    return { ok: true, known: { perG, densityGPerMl, mix: undefined } }
  }
  const made = liquidFromFigures(100, valuesOf(ingredient))
  if (!made.ok) return { ok: false, message: `${ingredient.name}: ${made.reason}` }
  const perG = scaleLiquid(made.liquid, 1 / massGOf(made.liquid))
  return { ok: true, known: { perG, densityGPerMl: densityGPerMlOf(made.liquid), mix: undefined } }
}

/** Why a mix cannot be made of what is on a shelf: a circle, something missing, nothing left. None when it can. */
export function recipeProblems(slug: string, ingredients: readonly Ingredient[]): MixProblem[] {
  const result = createMixer(ingredients).mixOf(slug)
  return result.ok ? [] : result.problems
}

/** What a component weighs when the recipe is followed, g. */
function weightOf(component: RecipeComponent, recipe: Recipe, part: { massG: number; volumeMl: number }): number {
  const size = amountSize(recipe.by)
  if (isByWeight(recipe.by)) return component.amount * size
  return part.volumeMl > 0 ? component.amount * size * (part.massG / part.volumeMl) : 0
}

function partOf(
  ingredient: Ingredient,
  name: string,
  component: RecipeComponent,
  recipe: Recipe,
  { perG, densityGPerMl, mix }: Known,
  weighedG: Record<string, number> | undefined,
): MixPart {
  const byRecipeG = weightOf(component, recipe, { massG: densityGPerMl, volumeMl: 1 })
  const massG = weighedG?.[component.ingredient] ?? byRecipeG
  const volumeMl = massG / densityGPerMl
  const stays = component.staysFraction ?? 1
  return {
    ingredient,
    name,
    component,
    massG,
    volumeMl,
    liquid: scaleLiquid(perG, massG * stays),
    strainedG: massG * (1 - stays),
    cost: costOf(ingredient, mix, massG, volumeMl),
    mix,
  }
}

function costOf(ingredient: Ingredient, mix: Mix | undefined, massG: number, volumeMl: number): number | undefined {
  if (mix) return mix.cost.unknown.length > 0 || mix.massG === 0 ? undefined : (mix.cost.value * massG) / mix.massG
  const { price, size } = ingredient
  if (price === undefined || size === undefined) return undefined
  return (price / size) * (isWeighed(ingredient.kind) ? massG : volumeMl)
}

/** What a lot is now: what came out, by its weight, with what was measured put in place of what was computed. */
export function lotLiquid({ made, isBoiled, measured }: LotFigures): Liquid {
  const madeG = massGOf(made)
  const { massG = madeG } = measured
  const steamedOffG = madeG - massG
  const weighed =
    isBoiled && steamedOffG <= made.waterG
      ? { ...made, waterG: made.waterG - steamedOffG }
      : scaleLiquid(made, massG / madeG)
  return withMeasured(weighed, measured).liquid
}

/** A mix as its lot is: what came out of it, at the price of all that went in. */
function asLot(byRecipe: Mix, lot: LotFigures): Mix {
  const batches = byRecipe.massG > 0 ? massGOf(lot.made) / byRecipe.massG : 1
  const cost = { ...byRecipe.cost, value: byRecipe.cost.value * batches }
  return { ...byRecipe, ...ofLiquid(lotLiquid(lot)), cost }
}

const ofLiquid = (liquid: Liquid) => ({
  massG: massGOf(liquid),
  volumeMl: volumeMlOf(liquid),
  liquid,
  figures: figuresOf(liquid),
  densityGPerMl: densityGPerMlOf(liquid),
  brix: brixOf(liquid),
})

/** Everything about a resolved batch that follows from its parts. */
function describe(
  ingredient: Ingredient,
  recipe: Recipe,
  parts: MixPart[],
  liquid: Liquid,
  left: Liquid,
  evaporatedG: number,
): Mix {
  const massG = massGOf(liquid)
  const without = (ingredient.withoutAllergens ?? []).map((w) => w.allergen)
  return {
    ingredient,
    parts,
    massInG: parts.reduce((sum, p) => sum + p.massG, 0),
    strainedG: parts.reduce((sum, p) => sum + p.strainedG, 0),
    evaporatedG,
    lostG: massGOf(left) - massG,
    ...ofLiquid(liquid),
    allergens: allergensOf(ingredient, parts).filter((a) => !without.includes(a.allergen)),
    without,
    assumed: [...new Set(parts.flatMap((p) => p.mix?.assumed ?? assumedOf(p)))],
    cost: {
      value: parts.reduce((sum, p) => sum + (p.cost ?? 0), 0),
      unknown: [...new Set(parts.flatMap((p) => (p.cost === undefined ? (p.mix?.cost.unknown ?? [p.name]) : [])))],
    },
    keeps: keepsOf(
      recipe,
      parts.map((p) => ({ name: p.name, days: p.mix ? p.mix.keeps.days : daysOf(p.ingredient) })),
    ),
    stirs: stirsOf(ingredient, recipe, parts),
    depth: 1 + Math.max(0, ...parts.map((p) => p.mix?.depth ?? 0)),
  }
}

/** Emulsions in a mix; a sealed one names only itself. */
function stirsOf(ingredient: Ingredient, recipe: Recipe, parts: readonly MixPart[]): string[] {
  const inside = [...new Set(parts.flatMap((p) => p.mix?.stirs ?? []))]
  const isStirred = recipe.isEmulsion || inside.length > 0
  if (ingredient.isSealed) return isStirred ? [ingredient.name] : []
  return recipe.isEmulsion ? [...new Set([ingredient.name, ...inside])] : inside
}

function assumedOf({ ingredient, name, liquid }: MixPart): string[] {
  const f = ingredient.figures
  const counts: [{ value: number; basis: string } | undefined, number][] = [
    [f.abvPct, liquid.ethanolG],
    [f.sugarGPer100Ml, liquid.sugarG],
    [f.acidGPer100Ml, liquid.acidG],
    [f.fatGPer100Ml, liquid.fatG],
  ]
  return counts.some(([figure, massG]) => figure?.basis === 'assumed' && massG > 0) ? [name] : []
}

function allergensOf(ingredient: Ingredient, parts: MixPart[]): AllergenSource[] {
  const found = new Map<Allergen, string[]>()
  const put = (allergen: Allergen, from: string[]) => {
    if (!found.has(allergen)) found.set(allergen, from)
  }
  for (const allergen of ingredient.allergens) put(allergen, [])
  for (const part of parts) {
    const { name } = part.ingredient
    const own = part.mix
      ? part.mix.allergens.map((a) => ({ allergen: a.allergen, from: [name, ...a.from] }))
      : part.ingredient.allergens.map((allergen) => ({ allergen, from: [name] }))
    for (const a of own) put(a.allergen, a.from)
  }
  return [...found].map(([allergen, from]) => ({ allergen, from }))
}
