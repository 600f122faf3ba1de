import { dayText } from '../calendar/index.ts'
import { METHODS } from '../cold/index.ts'
import type { Allergen, HouseBook, MixFacts } from '../house/index.ts'
import { standardDrinksOf } from '../liquid/index.ts'
import { isMuddy } from '../style/index.ts'
import { FROTH_LIQUID_SHARE } from '../vessel/index.ts'
import { balanceOf } from './balance.ts'
import { BURST_PAUSE_S, frothAdvice } from './froth.ts'
import type { DrinkResult } from './report.ts'
import type { ResolvedDrink } from './resolve.ts'
import type { DrinkDocument } from './schema.ts'
import { MEASURE_NAMES, MEASURES, standingOf } from './standard.ts'

/** Something that follows from a spec. `stop` before `mind` before `note`. */
export interface Consequence {
  weight: 'stop' | 'mind' | 'note'
  code:
    | 'overflow'
    | 'strong'
    | 'drift'
    | 'edge'
    | 'allergens'
    | 'overproofFlame'
    | 'overproof'
    | 'sodaShaken'
    | 'highLine'
    | 'balance'
    | 'notFood'
    | 'iceGone'
    | 'froze'
    | 'assumed'
    | 'unknownFigure'
    | 'uncalibrated'
    | 'drifting'
    | 'foam'
    | 'muddy'
    | 'juiceAge'
    | 'farBelow'
    | 'heap'
    | 'noStation'
    | 'expired'
    | 'due'
    | 'lot'
    | 'stir'
    | 'doubleAcid'
    | 'outOfStock'
    | 'mixProblem'
    | 'slot'
  text: string
  /** Safety: the panel that shows it defers to local law. */
  isSafety: boolean
}

/** Less froth above the brim than this stays there, ml. */
const LEAST_FROTH_OVER_ML = 5
/** A glass that stands higher spills when it is carried, % of its height. */
const HIGH_LINE_PCT = 92
/** In the words of a garnish. */
const FLAME = /\bflam(?:e|ed|ing|b[eé]e?d?)\b|\bburning\b|\blit\b|\bignited?\b/i
const NUMBERS: Record<number, string> = { 2: 'two', 3: 'three' }

const WEIGHTS = ['stop', 'mind', 'note'] as const

/** What a drink's numbers mean, worst first. */
export function consequencesOf(
  document: DrinkDocument,
  drink: ResolvedDrink,
  result: DrinkResult,
  book: HouseBook,
): Consequence[] {
  const found: Consequence[] = []
  const say = (weight: Consequence['weight'], code: Consequence['code'], text: string, isSafety = false) =>
    found.push({ weight, code, text, isSafety })
  const wellName = drink.well?.name

  const fill = result.glass?.fill
  // Froth that runs over has its own word.
  if (fill && fill.overflowMl - FROTH_LIQUID_SHARE * (fill.foamAboveBrimMl ?? 0) >= 1) {
    const whose = wellName ? `${wellName}’s ` : ''
    say('stop', 'overflow', `overflows the ${whose}${result.glass?.name} by ${Math.round(fill.overflowMl)} ml`)
  }
  sayOfFroth(drink, result, say)
  const look = result.glass?.look?.atHandOver
  if (look && isMuddy(look) && drink.glass && !drink.glass.isOpaque)
    say('note', 'muddy', 'brown and cloudy in a clear glass: another order of colours, or a glass that hides it')
  if (fill && fill.overflowMl < 1 && fill.washLinePct > HIGH_LINE_PCT) {
    say('mind', 'highLine', `stands at ${Math.round(fill.washLinePct)} % of the glass: it spills when it is carried`)
  }
  if (fill && fill.iceAboveBrimMl > 0.25 * fill.brimMl) {
    say('mind', 'heap', `${Math.round(fill.iceAboveBrimMl)} ml of ice stands above the brim`)
  }

  const { standardDrinkG, standardDrinksLimit } = book.settings
  const drinks = standardDrinksOf(result.serve.alcoholG, standardDrinkG)
  if (drinks > standardDrinksLimit) {
    say(
      'mind',
      'strong',
      `${drinks.toFixed(1)} standard drinks in one serve; the house says a word above ${standardDrinksLimit}`,
      true,
    )
  }

  for (const name of MEASURE_NAMES) {
    const predicted = result.predictions[name]
    const band = document.standard[name]
    const standing = standingOf(predicted, band)
    if (!predicted || !band || standing === 'open' || standing === 'inside') continue
    const { label, unit, digits } = MEASURES[name]
    const written = (value: number) => value.toFixed(digits).replace('-', '−')
    const figure = `${label} ${written(predicted.value)} ${unit}`
    const range = `${written(band.low)} to ${written(band.high)}`
    if (standing === 'edge') say('note', 'edge', `${figure}: within ${range}, but only just`)
    else say('mind', 'drift', `${figure}: ${standing} the standard, ${range}`)
  }

  const allergens = allergensOf(drink)
  if (allergens.length > 0) say('mind', 'allergens', `contains ${allergens.join(', ')}`, true)
  const overproof = drink.pours.filter((p) => (p.ingredient?.figures.abvPct.value ?? 0) > book.settings.overproofPct)
  const hasFlame = document.hasFlame || document.garnish.some((g) => FLAME.test(g.text))
  const strong = overproof.map((p) => p.name).join(', ')
  if (hasFlame) {
    const what = overproof.length > 0 ? `${strong} is overproof and there is flame` : 'flame'
    say(
      overproof.length > 0 ? 'stop' : 'mind',
      'overproofFlame',
      `${what}: bottle away first, nothing poured near a flame`,
      true,
    )
  } else if (overproof.length > 0) {
    say(
      'mind',
      'overproof',
      `${strong} is overproof, above ${book.settings.overproofPct} %: keep it away from flame`,
      true,
    )
  }
  sayOfSoda(drink, say)
  const notFood = document.garnish.filter((g) => !g.isFood)
  if (notFood.length > 0) {
    say('stop', 'notFood', `${notFood.map((g) => g.text).join(', ')}: not food, keep it out of the glass`, true)
  }

  result.stages.forEach((stage, i) => {
    if (stage.iceGoneAtS !== undefined) {
      say(
        'note',
        'iceGone',
        `all the ice has gone after ${stage.iceGoneAtS.toFixed(1)} s: from there the drink only warms`,
      )
    }
    if (stage.atEnd.meltG < -0.5) {
      say('note', 'froze', `${(-stage.atEnd.meltG).toFixed(0)} g of the drink froze onto the very cold ice`)
    }
    const resolved = drink.stages[i]
    const drift = resolved?.calibration?.drift
    if (drift && resolved) {
      const much = `${Math.round(100 * Math.abs(drift.byFraction))} % ${drift.byFraction > 0 ? 'more' : 'less'} water`
      say(
        'mind',
        'drifting',
        `${resolved.name} is drifting: ${drift.trials} newer trials say ${much} than this counts on`,
      )
    }
    if (resolved && !resolved.station && resolved.method && wellName) {
      say(
        'note',
        'noStation',
        `${wellName} has no station to ${METHODS[resolved.method].label}: the shipped preset stands in`,
      )
    }
  })
  if (result.beforeIce.freezingPointC === null)
    say('note', 'farBelow', 'before any water it freezes below −45 °C: beside ice nobody knows what it does')
  const balance = balanceOf(drink)
  if (balance?.remark) say('note', 'balance', balance.remark)
  sayOfSlots(drink, say)
  sayOfMixes(drink, book, say)
  const unknown = result.pours.filter((p) => p.unknown)
  if (unknown.length > 0) {
    const words = unknown.map((p) => `the ${(p.unknown ?? []).join(' and ')} of ${p.name}`)
    say('mind', 'unknownFigure', `without ${words.join(', ')}: nobody has said what it is`)
  }
  const assumed = result.pours.filter((p) => p.assumed.length > 0)
  if (assumed.length > 0) {
    say(
      'note',
      'assumed',
      `assumed, not measured: ${assumed.map((p) => `${p.name} (${p.assumed.join(', ')})`).join('; ')}`,
    )
  }
  if (drink.stages.length > 0 && result.dilutionUncertaintyFraction >= 0.15) {
    say('note', 'uncalibrated', howSure(drink, result))
  }
  return WEIGHTS.flatMap((weight) => found.filter((c) => c.weight === weight))
}

/** Froth that runs over, with what keeps it under the brim; and what stands on the drink. */
function sayOfFroth(drink: ResolvedDrink, { glass }: DrinkResult, say: Say): void {
  if (!glass?.froth) return
  const { fill, froth } = glass
  const isAssumed = froth.assumed.length > 0 ? ', assumed' : ''
  const aboveMl = fill.foamAboveBrimMl ?? 0
  if (aboveMl < LEAST_FROTH_OVER_ML) {
    const heightMm = (fill.foamTopMm ?? 0) - fill.washLineMm
    const later = heightMm * (froth.after1MinMl / froth.atHandOverMl)
    if (heightMm >= 2)
      say(
        'note',
        'foam',
        `froths: ${heightMm.toFixed(0)} mm at hand-over, ${later.toFixed(0)} mm a minute later${isAssumed}`,
      )
    return
  }
  const last = [...drink.stages].reverse().find((s) => s.method && METHODS[s.method].frothing > 0)
  const { bursts = 1, durationS = 0 } = last?.parameters ?? {}
  const fits = (froth.atHandOverMl - aboveMl) / froth.atHandOverMl
  const advice = frothAdvice(bursts > 1 ? undefined : durationS, drink.handOverS, fits)
  const words = advice?.bursts
    ? `${NUMBERS[advice.bursts]} bursts of ${Number(advice.burstS.toFixed(1))} s, ${BURST_PAUSE_S} s apart`
    : advice
      ? `let it stand ${advice.standS} s before you pour`
      : 'a larger glass, or less of what froths'
  say('mind', 'foam', `foams ${Math.round(aboveMl)} ml over the brim${isAssumed}: ${words}`)
}

/** Bubbles do not outlive a tin, and a tin may not outlive them. */
function sayOfSoda(drink: ResolvedDrink, say: Say): void {
  const first = drink.stages[0]
  if (!first || first.inGlass || !first.method || first.method === 'stir') return
  const fizzy = drink.pours.filter((p) => p.into === 'tin' && p.ingredient?.kind === 'soda').map((p) => p.name)
  if (fizzy.length > 0)
    say(
      'stop',
      'sodaShaken',
      `${[...new Set(fizzy)].join(', ')} is in the tin and would be ${METHODS[first.method].label}: a closed tin bursts open; pour it into the glass`,
      true,
    )
}

/** How far off the dilution may be, and why: nobody tried this gear, or only with much more or less in it. */
function howSure(drink: ResolvedDrink, { dilutionUncertaintyFraction, beforeIce }: DrinkResult): string {
  const off = `dilution ±${Math.round(100 * dilutionUncertaintyFraction)} %`
  const known = drink.stages.flatMap((s) => (s.calibration?.volumesMl ? [s.calibration.volumesMl] : []))
  if (drink.stages.some((s) => s.method && !s.calibration) || known.length === 0) return `uncalibrated: ${off}`
  const [low, high] = [Math.min(...known.map((v) => v.lowMl)), Math.max(...known.map((v) => v.highMl))]
  return `${off}: its trials were of ${Math.round(low)} to ${Math.round(high)} ml, this is ${Math.round(beforeIce.volumeMl)}`
}

type Say = (weight: Consequence['weight'], code: Consequence['code'], text: string, isSafety?: boolean) => void

/** What stands in a slot when its pick is not there. */
function sayOfSlots(drink: ResolvedDrink, say: Say): void {
  for (const { slot, name } of drink.pours) {
    if (slot?.insteadOf) say('mind', 'slot', `${slot.name}: ${slot.insteadOf.name} is out, ${name} is poured`)
    if (slot?.isOut) say('mind', 'slot', `${slot.name}: nothing that may fill it is in stock`)
  }
}

/** Acid of a juice above which it is a sour one, g in 100 ml. */
const SOUR_G_PER_100ML = 4

/** Hours that a pressed juice is poured for where the house has not said. */
export const JUICE_HOURS = 8
const hoursBetween = (from: string, to: string) => (Date.parse(to) - Date.parse(from)) / 3_600_000
const lotWords = ({ lot }: MixFacts) => (lot ? 'was' : 'would be')

/** What is made or pressed in the house, and what has run out. */
function sayOfMixes(drink: ResolvedDrink, book: HouseBook, say: Say): void {
  const ingredients = [...new Set(drink.pours.flatMap((p) => p.ingredient ?? []))]
  const factsOf = (slug: string) => book.mixes?.[slug]
  for (const { slug, name, stock, kind } of ingredients) {
    const facts = factsOf(slug)
    if (stock === 'out' || stock === 'discontinued')
      say('mind', 'outOfStock', stock === 'out' ? `${name} is out` : `${name} is no longer made`)
    for (const problem of facts?.problems ?? [])
      say('mind', 'mixProblem', `${name} ${problem}: its typed figures stand in`)
    if (facts?.isClosedStale)
      say(
        facts.isClosedStale === 'expired' ? 'stop' : 'mind',
        facts.isClosedStale,
        `${name} ${lotWords(facts)} made with something that ${facts.isClosedStale === 'expired' ? 'is past its day' : 'should not wait'}; ask a manager`,
        true,
      )
    const lot = facts?.lot
    if (lot?.standing === 'expired')
      say(
        'stop',
        'expired',
        `${name}: lot ${lot.id} of ${dayText(lot.madeOn)} was to be used by ${byDayText(lot.useBy)}`,
        true,
      )
    for (const s of facts?.stale ?? []) {
      if (s.standing === 'expired')
        say(
          'stop',
          'expired',
          `${name} ${s.isInIt ? 'was' : 'would be'} made with ${s.name}: lot ${s.id} was to be used by ${byDayText(s.useBy)}`,
          true,
        )
      else say('mind', 'due', `${name} would be made with ${s.name}: use lot ${s.id} by ${byDayText(s.useBy)}`, true)
    }
    const hours = kind === 'juice' && lot?.madeAt && book.at ? hoursBetween(lot.madeAt, book.at) : 0
    const juiceHours = book.settings.juiceHours ?? JUICE_HOURS
    if (hours > juiceHours)
      say('mind', 'juiceAge', `${name} was pressed ${Math.floor(hours)} h ago; the house pours it for ${juiceHours} h`)
    if (lot?.standing === 'due') say('mind', 'due', `${name}: use lot ${lot.id} by ${byDayText(lot.useBy)}`, true)
  }
  const stirs = [...new Set(ingredients.flatMap((i) => factsOf(i.slug)?.stirs ?? []))]
  if (stirs.length > 0) say('note', 'stir', `stir before every pour: ${stirs.join(', ')}`)
  const adjusted = ingredients.filter((i) => factsOf(i.slug)?.isAcidAdjusted)
  const sour = ingredients.filter((i) => i.kind === 'juice' && i.figures.acidGPer100Ml.value >= SOUR_G_PER_100ML)
  if (adjusted.length > 0 && sour.length > 0) {
    const both = `${adjusted.map((i) => i.name).join(', ')} beside ${sour.map((i) => i.name).join(', ')}`
    say('mind', 'doubleAcid', `${both}: sharpened juice replaces the sour one, or the acid is there twice`)
  }
}

/** Allergens of everything poured, each once, in the list's order of appearance. */
export function allergensOf(drink: ResolvedDrink): Allergen[] {
  return [...new Set(drink.pours.flatMap((p) => p.ingredient?.allergens ?? []))]
}

/** A lot without a use-by is never due: then this is not asked. */
const byDayText = (useBy: string | null) => (useBy === null ? 'no day' : dayText(useBy))
