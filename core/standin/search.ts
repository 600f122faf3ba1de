import {
  abvPctOf,
  addLiquids,
  ethanolWaterDensityGPerMl,
  type Liquid,
  PURE_ETHANOL_G_PER_ML,
  per100Ml,
  scaleLiquid,
  volumeMlOf,
} from '../liquid/index.ts'
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

export interface StandInOptions {
  /** What is poured in all, and in what steps, ml. */
  volumeMl: number
  stepMl: number
  /** Whether the house can measure a volume; left out: all steps. */
  canPour?: (volumeMl: number) => boolean
  /** 1 to 3. */
  mostBottles?: number
  weights?: StandInWeights
  /** Further off than this on average, in steps, is no stand-in. */
  limitSteps?: number
  /** Further off than this on one line of style is another character, however near the rest is. */
  limitPerLine?: number
}

export const DEFAULT_LIMIT_STEPS = 1.2
export const DEFAULT_LIMIT_PER_LINE = 3

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

export interface StandInAnswer {
  parts: { slug: string; name: string; volumeMl: number }[]
  distance: StandInDistance
  abvPct: number
  style: Style
  pricePerLitre: number | undefined
}

export interface StandInResult {
  /** `found`: within the limits. `nothingNear`: `nearest` is the nearest miss. `nothingToTry`: no bottle at all. */
  outcome: 'found' | 'nothingNear' | 'nothingToTry'
  /** For one, two and three bottles: the best and the runner-up, within the limits. */
  byCount: StandInAnswer[][]
  nearest: StandInAnswer | undefined
  /** Mixtures that were compared. */
  tried: number
  /** Bottles that could not be compared, and why. */
  leftOut: { slug: string; name: string; lines: StyleAxis[] }[]
}

const KEPT = 2

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

const linesOf = (target: StandInTarget): StyleAxis[] => STYLE_AXIS_NAMES.filter((a) => target.style[a] !== undefined)

function offBand(value: number, { low, high }: { low: number; high: number }): number {
  return value < low ? value - low : value > high ? value - high : 0
}

/** Steps by which it is dearer; cheaper counts as 0. */
function dearerBy(price: number | undefined, wanted: number | undefined): number | undefined {
  if (price === undefined || wanted === undefined || !(wanted > 0)) return undefined
  return Math.max(0, price / wanted - 1) / STEP.price
}

/**
 * The best stand-ins of one, two and three bottles in pourable volumes: every mixture on the grid is
 * weighed, none is skipped that could be better. Of two as near the fewer bottles, then the order of
 * the shelf, come first.
 * @param bottles those in stock that are not refused
 * @throws RangeError when volume and step make no grid, or more than three bottles are wanted
 */
export function findStandIns(
  target: StandInTarget,
  bottles: readonly StandInBottle[],
  {
    volumeMl,
    stepMl,
    canPour = () => true,
    mostBottles = 3,
    weights = SPIRIT_WEIGHTS,
    limitSteps = DEFAULT_LIMIT_STEPS,
    limitPerLine = DEFAULT_LIMIT_PER_LINE,
  }: StandInOptions,
): StandInResult {
  const units = Math.round(volumeMl / stepMl)
  if (!(stepMl > 0) || !(units >= 1) || units > MOST_UNITS)
    throw new RangeError(`${volumeMl} ml in steps of ${stepMl} ml is no grid; 1 to ${MOST_UNITS} steps`)
  if (!(mostBottles >= 1 && mostBottles <= 3)) throw new RangeError(`${mostBottles} bottles; 1 to 3`)
  const lines = linesOf(target)
  const leftOut = bottles.flatMap((b) => {
    const missing = lines.filter((a) => b.style[a] === undefined)
    return missing.length > 0 ? [{ slug: b.slug, name: b.name, lines: missing }] : []
  })
  const tried = bottles.filter((b) => lines.every((a) => b.style[a] !== undefined))
  const pourable = Array.from({ length: units + 1 }, (_, u) => u > 0 && canPour(u * stepMl))
  const grid = new Grid(target, tried, { units, stepMl, pourable, weights, lines })
  const within = grid.search(mostBottles, limitSteps, limitPerLine)
  const byCount = within.kept.map((answers) => answers.map((a) => grid.describe(a)))
  if (byCount.some((answers) => answers.length > 0))
    return { outcome: 'found', byCount, nearest: undefined, tried: within.tried, leftOut }
  const anyhow = grid.search(mostBottles, Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY).kept.flat()
  const nearest = anyhow.sort((a, b) => a.steps - b.steps || a.of.length - b.of.length)[0]
  return {
    outcome: nearest ? 'nothingNear' : 'nothingToTry',
    byCount,
    nearest: nearest && grid.describe(nearest),
    tried: within.tried,
    leftOut,
  }
}

const MOST_UNITS = 60

/** A mixture on the grid: which bottles, how many steps of each. */
interface Mixture {
  of: number[]
  units: number[]
  steps: number
}

interface GridOptions {
  units: number
  stepMl: number
  pourable: readonly boolean[]
  weights: StandInWeights
  lines: readonly StyleAxis[]
}

/** The two best mixtures of one count so far. */
class Best {
  readonly list: Mixture[] = []
  constructor(private readonly limitSteps: number) {}

  /** What a mixture must not come out above, to be kept. */
  get worst(): number {
    return this.list.length < KEPT ? this.limitSteps : Math.min(this.limitSteps, (this.list[KEPT - 1] as Mixture).steps)
  }

  offer(of: readonly number[], units: readonly number[], steps: number): void {
    // What is just as near as what is kept came later on the shelf, and stays out.
    if (steps > this.limitSteps || (this.list.length === KEPT && steps >= this.worst)) return
    this.list.push({ of: [...of], units: [...units], steps })
    this.list.sort((a, b) => a.steps - b.steps)
    if (this.list.length > KEPT) this.list.pop()
  }
}

const ROUNDING = 1e-9

/** Everything of the search that does not change from mixture to mixture, laid out in flat arrays. */
class Grid {
  /** Lines of style, and after them colour and price (NaN: not known). */
  private readonly n: number
  private readonly width: number
  private readonly flat: Float64Array
  private readonly goal: Float64Array
  /** Of each bottle and all after it on the shelf: the lowest and the highest place on each line. */
  private readonly lowest: Float64Array
  private readonly highest: Float64Array
  /** Ethanol, water, sugar and acid in g, and the volume of what is dissolved in ml, of one ml. */
  private readonly grams: Float64Array
  private readonly sumOfWeights: number

  constructor(
    private readonly target: StandInTarget,
    private readonly bottles: readonly StandInBottle[],
    private readonly o: GridOptions,
  ) {
    const { lines, weights } = o
    const count = bottles.length
    this.n = lines.length
    const width = this.n + 2
    this.width = width
    this.flat = new Float64Array(count * width)
    this.grams = new Float64Array(count * 5)
    bottles.forEach((b, i) => {
      lines.forEach((axis, a) => {
        this.flat[i * width + a] = b.style[axis] ?? 0
      })
      this.flat[i * width + this.n] = b.depth ?? Number.NaN
      this.flat[i * width + this.n + 1] = b.pricePerLitre ?? Number.NaN
      const { ethanolG, waterG, sugarG, acidG } = b.perMl
      const solidsMl = volumeMlOf({ ...b.perMl, ethanolG: 0, waterG: 0 })
      this.grams.set([ethanolG, waterG, sugarG, acidG, solidsMl], i * 5)
    })
    this.lowest = new Float64Array((count + 1) * this.n).fill(Number.POSITIVE_INFINITY)
    this.highest = new Float64Array((count + 1) * this.n).fill(Number.NEGATIVE_INFINITY)
    for (let i = count - 1; i >= 0; i--) {
      for (let a = 0; a < this.n; a++) {
        const place = this.flat[i * width + a] as number
        this.lowest[i * this.n + a] = Math.min(place, this.lowest[(i + 1) * this.n + a] as number)
        this.highest[i * this.n + a] = Math.max(place, this.highest[(i + 1) * this.n + a] as number)
      }
    }
    this.goal = Float64Array.from(lines, (axis) => target.style[axis] ?? 0)
    this.sumOfWeights =
      this.n +
      weights.strength +
      weights.sugar +
      weights.acid +
      (target.depth === undefined ? 0 : weights.colour) +
      (target.pricePerLitre === undefined ? 0 : weights.price)
  }

  /** The two best mixtures of each count, within the limits. */
  search(mostBottles: number, limitSteps: number, limitPerLine: number): { kept: Mixture[][]; tried: number } {
    const best = Array.from({ length: mostBottles }, () => new Best(limitSteps))
    const [one, two, three] = best as [Best, Best | undefined, Best | undefined]
    const tried = { count: 0 }
    const { units, pourable } = this.o
    const count = this.bottles.length
    const part = new Float64Array(this.width)
    for (let i = 0; i < count; i++) {
      if (pourable[units]) this.lastPart(this.start(part), [], [], i, i + 1, units, one, limitPerLine, tried)
      if (!two) continue
      for (let u = 1; u < units; u++) {
        if (!pourable[u]) continue
        const afterOne = this.plus(this.start(part), i, u)
        if (pourable[units - u]) this.lastPart(afterOne, [i], [u], i + 1, count, units - u, two, limitPerLine, tried)
        if (three) this.thirds(afterOne, i, u, three, limitPerLine, tried)
      }
    }
    return { kept: best.map((b) => b.list), tried: tried.count }
  }

  /** All mixtures of three that begin with so much of one bottle. */
  private thirds(
    afterOne: Float64Array,
    i: number,
    u: number,
    best: Best,
    limitPerLine: number,
    tried: { count: number },
  ): void {
    const { units, pourable } = this.o
    const count = this.bottles.length
    const afterTwo = new Float64Array(this.width)
    for (let v = 1; v < units - u; v++) {
      const left = units - u - v
      if (!pourable[v] || !pourable[left]) continue
      for (let j = i + 1; j < count - 1; j++) {
        afterTwo.set(afterOne)
        this.plus(afterTwo, j, v)
        if (this.couldBeNear(afterTwo, j + 1, left, best.worst, limitPerLine))
          this.lastPart(afterTwo, [i, j], [u, v], j + 1, count, left, best, limitPerLine, tried)
        else tried.count += count - j - 1
      }
    }
  }

  /** Nothing poured yet: the whole goal is missing. */
  private start(part: Float64Array): Float64Array {
    part.fill(0)
    for (let a = 0; a < this.n; a++) part[a] = -(this.goal[a] as number)
    return part
  }

  private plus(part: Float64Array, bottle: number, units: number): Float64Array {
    const share = units / this.o.units
    const at = bottle * this.width
    for (let a = 0; a < this.width; a++) part[a] = (part[a] as number) + share * (this.flat[at + a] as number)
    return part
  }

  /** Whether any bottle from here on could still bring a mixture within the limits: no line can be better than its own best. */
  private couldBeNear(part: Float64Array, from: number, units: number, worst: number, limitPerLine: number): boolean {
    const share = units / this.o.units
    const most = worst * this.sumOfWeights + ROUNDING
    let sum = 0
    for (let a = 0; a < this.n; a++) {
      const low = (part[a] as number) + share * (this.lowest[from * this.n + a] as number)
      const high = (part[a] as number) + share * (this.highest[from * this.n + a] as number)
      const off = low > 0 ? low : high < 0 ? -high : 0
      if (off > limitPerLine + ROUNDING) return false
      sum += off
    }
    return sum <= most
  }

  /** Fills what is left with each bottle in turn, and keeps what is near. */
  private lastPart(
    part: Float64Array,
    of: readonly number[],
    units: readonly number[],
    from: number,
    to: number,
    left: number,
    best: Best,
    limitPerLine: number,
    tried: { count: number },
  ): void {
    const { flat, n, width } = this
    const { weights } = this.o
    const { depth, pricePerLitre } = this.target
    const share = left / this.o.units
    let most = best.worst * this.sumOfWeights + ROUNDING
    tried.count += to - from
    for (let k = from; k < to; k++) {
      const at = k * width
      let sum = 0
      for (let a = 0; a < n; a++) {
        const off = Math.abs((part[a] as number) + share * (flat[at + a] as number))
        sum += off > limitPerLine + ROUNDING ? Number.POSITIVE_INFINITY : off
        if (sum > most) break
      }
      if (sum > most) continue
      if (depth !== undefined) {
        const mean = (part[n] as number) + share * (flat[at + n] as number)
        if (!Number.isNaN(mean)) sum += (weights.colour * Math.abs(mean - depth)) / STEP.depth
      }
      if (pricePerLitre !== undefined && pricePerLitre > 0) {
        const mean = (part[n + 1] as number) + share * (flat[at + n + 1] as number)
        if (mean > pricePerLitre) sum += (weights.price * (mean / pricePerLitre - 1)) / STEP.price
      }
      if (sum > most) continue
      const allOf = [...of, k]
      const allUnits = [...units, left]
      best.offer(allOf, allUnits, (sum + this.liquidSteps(allOf, allUnits)) / this.sumOfWeights)
      most = best.worst * this.sumOfWeights + ROUNDING
    }
  }

  /** Strength, sugar and acid by the alcohol tables: the dear part, reached by few. */
  private liquidSteps(of: readonly number[], parts: readonly number[]): number {
    const { grams } = this
    const { weights } = this.o
    let ethanolG = 0
    let waterG = 0
    let sugarG = 0
    let acidG = 0
    let solidsMl = 0
    for (let m = 0; m < of.length; m++) {
      const at = (of[m] as number) * 5
      const u = parts[m] as number
      ethanolG += u * (grams[at] as number)
      waterG += u * (grams[at + 1] as number)
      sugarG += u * (grams[at + 2] as number)
      acidG += u * (grams[at + 3] as number)
      solidsMl += u * (grams[at + 4] as number)
    }
    const both = ethanolG + waterG
    const ml = (both > 0 ? both / ethanolWaterDensityGPerMl(ethanolG / both) : 0) + solidsMl
    const abvPct = Math.min(100, (100 * ethanolG) / PURE_ETHANOL_G_PER_ML / ml)
    const { abvPct: band, sugarGPer100Ml, acidGPer100Ml } = this.target
    return (
      (weights.strength * Math.abs(offBand(abvPct, band))) / STEP.abvPct +
      (weights.sugar * Math.abs((100 * sugarG) / ml - sugarGPer100Ml)) / STEP.sugarGPer100Ml +
      (weights.acid * Math.abs((100 * acidG) / ml - acidGPer100Ml)) / STEP.acidGPer100Ml
    )
  }

  /** A mixture with its figures, as distanceTo gives them. */
  describe({ of, units }: Mixture): StandInAnswer {
    const parts = of.map((at, m) => ({
      bottle: this.bottles[at] as StandInBottle,
      volumeMl: (units[m] as number) * this.o.stepMl,
    }))
    const volumeMl = parts.reduce((sum, p) => sum + p.volumeMl, 0)
    const liquid = addLiquids(...parts.map((p) => scaleLiquid(p.bottle.perMl, p.volumeMl)))
    const style = Object.fromEntries(
      this.o.lines.map((axis) => [
        axis,
        parts.reduce((sum, p) => sum + ((p.bottle.style[axis] ?? 0) * p.volumeMl) / volumeMl, 0),
      ]),
    )
    const prices = parts.map((p) => p.bottle.pricePerLitre)
    return {
      parts: parts
        .map((p) => ({ slug: p.bottle.slug, name: p.bottle.name, volumeMl: p.volumeMl }))
        .sort((a, b) => b.volumeMl - a.volumeMl),
      distance: distanceTo(this.target, parts, this.o.weights),
      abvPct: abvPctOf(liquid),
      style,
      pricePerLitre: prices.some((p) => p === undefined)
        ? undefined
        : parts.reduce((sum, p) => sum + ((p.bottle.pricePerLitre ?? 0) * p.volumeMl) / volumeMl, 0),
    }
  }
}
