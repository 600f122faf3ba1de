import { METHODS } from '../cold/index.ts'
import type { Allergen, HouseBook } from '../house/index.ts'
import { standardDrinksOf } from '../liquid/index.ts'
import { isMuddy } from '../palate/index.ts'
import { FROTH_LIQUID_SHARE } from '../vessel/index.ts'
import { balanceOf } from './balance.ts'
import type { Consequence, Say } from './consequence.ts'
import { howSure, sayOfFroth, sayOfSoda } from './glassCautions.ts'
import { sayOfMixes, sayOfSlots } from './mixCautions.ts'
import type { DrinkResult } from './report.ts'
import type { ResolvedDrink } from './resolve.ts'
import type { DrinkDocument } from './schema.ts'
import { MEASURE_NAMES, MEASURES, standingOf } from './standard.ts'

/** A glass that stands higher spills when it is carried, % of its height. */
const HIGH_LINE_PCT = 92
/** From here on of the water it is worth a word that it is not sure, of one. */
const MUCH_UNSURE = 0.15
/** In the words of a garnish. */
const FLAME = /\bflam(?:e|ed|ing|b[eé]e?d?)\b|\bburning\b|\blit\b|\bignited?\b/i

const WEIGHTS = ['stop', 'mind', 'note'] as const

/** What a drink's numbers mean, worst first. */
export function consequencesOf(
  document: DrinkDocument,
  drink: ResolvedDrink,
  result: DrinkResult,
  book: HouseBook,
): Consequence[] {
  const found: Consequence[] = []
  const say: Say = (weight, code, text, isSafety = false) => found.push({ weight, code, text, isSafety })
  sayOfGlass(drink, result, say)
  sayOfStrength(result, book, say)
  sayOfStandard(document, result, say)
  sayOfDanger(document, drink, book, say)
  sayOfChill(drink, result, say)
  const balance = balanceOf(drink)
  if (balance?.remark) say('note', 'balance', balance.remark)
  sayOfSlots(drink, say)
  sayOfMixes(drink, book, say)
  sayOfKnowledge(drink, result, say)
  return WEIGHTS.flatMap((weight) => found.filter((c) => c.weight === weight))
}

/** How it stands in its glass, and how it looks there. */
function sayOfGlass(drink: ResolvedDrink, result: DrinkResult, say: Say): void {
  const { glass } = result
  const fill = glass?.fill
  // Froth that runs over has its own word.
  if (fill && fill.overflowMl - FROTH_LIQUID_SHARE * (fill.foamAboveBrimMl ?? 0) >= 1) {
    const whose = drink.well ? `${drink.well.name}’s ` : ''
    say('stop', 'overflow', `overflows the ${whose}${glass?.name} by ${Math.round(fill.overflowMl)} ml`)
  }
  sayOfFroth(drink, result, say)
  const look = glass?.look?.atHandOver
  if (look && isMuddy(look) && drink.glass && !drink.glass.isOpaque)
    say('note', 'muddy', 'brown and cloudy in a clear glass: another order of colours, or a glass that hides it')
  if (fill && fill.overflowMl < 1 && fill.washLinePct > HIGH_LINE_PCT)
    say('mind', 'highLine', `stands at ${Math.round(fill.washLinePct)} % of the glass: it spills when it is carried`)
  if (fill && fill.iceAboveBrimMl > 0.25 * fill.brimMl)
    say('mind', 'heap', `${Math.round(fill.iceAboveBrimMl)} ml of ice stands above the brim`)
}

function sayOfStrength({ serve }: DrinkResult, { settings }: HouseBook, say: Say): void {
  const { standardDrinkG, standardDrinksLimit } = settings
  const drinks = standardDrinksOf(serve.alcoholG, standardDrinkG)
  if (drinks <= standardDrinksLimit) return
  const limit = `the house says a word above ${standardDrinksLimit}`
  say('mind', 'strong', `${drinks.toFixed(1)} standard drinks in one serve; ${limit}`, true)
}

/** What the glass has and what it was promised. */
function sayOfStandard({ standard }: DrinkDocument, { predictions }: DrinkResult, say: Say): void {
  for (const name of MEASURE_NAMES) {
    const predicted = predictions[name]
    const band = standard[name]
    const standing = standingOf(predicted, band)
    if (!predicted || !band || standing === 'open' || standing === 'inside') continue
    const { label, unit, digits } = MEASURES[name]
    const written = (value: number) => value.toFixed(digits).replace('-', '−')
    const figure = `${label} ${written(predicted.value)} ${unit}`
    const range = `${written(band.low)} to ${written(band.high)}`
    if (standing === 'edge') say('note', 'edge', `${figure}: within ${range}, but only just`)
    else say('mind', 'drift', `${figure}: ${standing} the standard, ${range}`)
  }
}

/** Allergens, flame, overproof, pressure and what is no food. */
function sayOfDanger(document: DrinkDocument, drink: ResolvedDrink, { settings }: HouseBook, say: Say): void {
  const allergens = allergensOf(drink)
  if (allergens.length > 0) say('mind', 'allergens', `contains ${allergens.join(', ')}`, true)
  const { overproofPct } = settings
  const overproof = drink.pours.filter((p) => (p.ingredient?.figures.abvPct.value ?? 0) > overproofPct)
  const isOverproof = overproof.length > 0
  const hasFlame = document.hasFlame || document.garnish.some((g) => FLAME.test(g.text))
  const strong = overproof.map((p) => p.name).join(', ')
  if (hasFlame) {
    const what = isOverproof ? `${strong} is overproof and there is flame` : 'flame'
    const text = `${what}: bottle away first, nothing poured near a flame`
    say(isOverproof ? 'stop' : 'mind', 'overproofFlame', text, true)
  } else if (isOverproof) {
    say('mind', 'overproof', `${strong} is overproof, above ${overproofPct} %: keep it away from flame`, true)
  }
  sayOfSoda(drink, say)
  const notFood = document.garnish.filter((g) => !g.isFood)
  if (notFood.length > 0)
    say('stop', 'notFood', `${notFood.map((g) => g.text).join(', ')}: not food, keep it out of the glass`, true)
}

/** Ice that is gone, that freezes the drink, and stations that are not there or no longer as they were. */
function sayOfChill(drink: ResolvedDrink, { stages, beforeIce }: DrinkResult, say: Say): void {
  stages.forEach((stage, i) => {
    if (stage.iceGoneAtS !== undefined) {
      const when = stage.iceGoneAtS.toFixed(1)
      say('note', 'iceGone', `all the ice has gone after ${when} s: from there the drink only warms`)
    }
    if (stage.atEnd.meltG < -0.5)
      say('note', 'froze', `${(-stage.atEnd.meltG).toFixed(0)} g of the drink froze onto the very cold ice`)
    const resolved = drink.stages[i]
    if (!resolved) return
    const drift = resolved.calibration?.drift
    if (drift) {
      const much = `${Math.round(100 * Math.abs(drift.byFraction))} % ${drift.byFraction > 0 ? 'more' : 'less'} water`
      const trials = `${drift.trials} newer trials say ${much} than this counts on`
      say('mind', 'drifting', `${resolved.name} is drifting: ${trials}`)
    }
    if (!resolved.station && resolved.method && drink.well) {
      const does = METHODS[resolved.method].label
      say('note', 'noStation', `${drink.well.name} has no station to ${does}: the shipped preset stands in`)
    }
  })
  if (beforeIce.freezingPointC === null)
    say('note', 'farBelow', 'before any water it freezes below −45 °C: beside ice nobody knows what it does')
}

/** What nobody knows, what is only assumed, and how sure the water is. */
function sayOfKnowledge(drink: ResolvedDrink, result: DrinkResult, say: Say): void {
  const unknown = result.pours.filter((p) => p.unknown)
  if (unknown.length > 0) {
    const words = unknown.map((p) => `the ${(p.unknown ?? []).join(' and ')} of ${p.name}`)
    say('mind', 'unknownFigure', `without ${words.join(', ')}: nobody has said what it is`)
  }
  const assumed = result.pours.filter((p) => p.assumed.length > 0)
  if (assumed.length > 0) {
    const words = assumed.map((p) => `${p.name} (${p.assumed.join(', ')})`)
    say('note', 'assumed', `assumed, not measured: ${words.join('; ')}`)
  }
  if (drink.stages.length > 0 && result.dilutionUncertaintyFraction >= MUCH_UNSURE)
    say('note', 'uncalibrated', howSure(drink, result))
}

/** Allergens of everything poured, each once, in the list's order of appearance. */
export function allergensOf(drink: ResolvedDrink): Allergen[] {
  return [...new Set(drink.pours.flatMap((p) => p.ingredient?.allergens ?? []))]
}
