import { abvPctOf, addLiquids, type Liquid, per100Ml, scaleLiquid } from '../liquid/index.ts'
import { STYLE_AXIS_NAMES, type Style, type StyleAxis } from '../palate/index.ts'

/** A bottle that may stand in. */
export interface StandInBottle {
  slug: string
  name: string
  style: Style
  /** One millilitre of it at 20 °C. */
  perMl: Liquid
  /** Depth of its colour, 0 to 10; undefined when nobody said. */
  depth: number | undefined
  /** In the house's currency; undefined when it is not known. */
  pricePerLitre: number | undefined
}

/** What is wanted in the glass. What is left out does not count. */
export interface StandInTarget {
  style: Style
  abvPct: { low: number; high: number }
  sugarGPer100Ml: number
  acidGPer100Ml: number
  depth: number | undefined
  pricePerLitre: number | undefined
}

/** How much one step on each counts. A line of style always counts 1. */
export interface StandInWeights {
  strength: number
  sugar: number
  acid: number
  colour: number
  price: number
}

/** Spirits: strength before colour and price; sugar and acid hardly differ. */
export const SPIRIT_WEIGHTS: StandInWeights = { strength: 1.5, sugar: 1, acid: 0.5, colour: 0.5, price: 0.5 }
/** Liqueurs and wines: sugar and acid are what the drink hangs on. */
export const SWEET_WEIGHTS: StandInWeights = { strength: 1, sugar: 3, acid: 2, colour: 0.5, price: 0.5 }

/** What counts as one step, beside one step on a line of style. */
export const STEP = {
  abvPct: 2,
  sugarGPer100Ml: 2,
  acidGPer100Ml: 0.2,
  depth: 2,
  /** Dearer by this share of the price; cheaper costs nothing. */
  price: 0.25,
} as const

/** How far a stand-in is from the target, each in steps, signed: more than wanted is above 0. */
export interface StandInDistance {
  /** Weighted mean of the absolute values below. */
  steps: number
  style: Partial<Record<StyleAxis, number>>
  strength: number
  sugar: number
  acid: number
  colour: number | undefined
  price: number | undefined
}

/**
 * How far a mixture is from the target. The reference that the search is proven against: any
 * mixture's distance is this function's.
 */
export function distanceTo(
  target: StandInTarget,
  parts: readonly { bottle: StandInBottle; volumeMl: number }[],
  weights: StandInWeights,
): StandInDistance {
  const volumeMl = parts.reduce((sum, p) => sum + p.volumeMl, 0)
  const mean = (of: (b: StandInBottle) => number | undefined): number | undefined => {
    let sum = 0
    for (const p of parts) {
      const value = of(p.bottle)
      if (value === undefined) return undefined
      sum += value * (p.volumeMl / volumeMl)
    }
    return sum
  }
  const liquid = addLiquids(...parts.map((p) => scaleLiquid(p.bottle.perMl, p.volumeMl)))
  const style: StandInDistance['style'] = {}
  let sum = 0
  let weight = 0
  const count = (steps: number, w: number) => {
    sum += w * Math.abs(steps)
    weight += w
    return steps
  }
  for (const axis of linesOf(target)) {
    style[axis] = count((mean((b) => b.style[axis]) ?? 0) - (target.style[axis] ?? 0), 1)
  }
  const strength = count(offBand(abvPctOf(liquid), target.abvPct) / STEP.abvPct, weights.strength)
  const sugar = count((per100Ml(liquid, 'sugarG') - target.sugarGPer100Ml) / STEP.sugarGPer100Ml, weights.sugar)
  const acid = count((per100Ml(liquid, 'acidG') - target.acidGPer100Ml) / STEP.acidGPer100Ml, weights.acid)
  // A bottle whose colour or price nobody knows is neither preferred nor held back for it.
  const depth = mean((b) => b.depth)
  const colour =
    target.depth === undefined
      ? undefined
      : count(depth === undefined ? 0 : (depth - target.depth) / STEP.depth, weights.colour)
  const dearer = dearerBy(
    mean((b) => b.pricePerLitre),
    target.pricePerLitre,
  )
  const price = target.pricePerLitre === undefined ? undefined : count(dearer ?? 0, weights.price)
  return { steps: weight > 0 ? sum / weight : 0, style, strength, sugar, acid, colour, price }
}

export const linesOf = (target: StandInTarget): StyleAxis[] =>
  STYLE_AXIS_NAMES.filter((a) => target.style[a] !== undefined)

export function offBand(value: number, { low, high }: { low: number; high: number }): number {
  return value < low ? value - low : value > high ? value - high : 0
}

/** Steps by which it is dearer; cheaper counts as 0. */
export function dearerBy(price: number | undefined, wanted: number | undefined): number | undefined {
  if (price === undefined || wanted === undefined || !(wanted > 0)) return undefined
  return Math.max(0, price / wanted - 1) / STEP.price
}
