import {
  abvPctOf,
  addLiquids,
  ethanolWaterDensityGPerMl,
  PURE_ETHANOL_G_PER_ML,
  scaleLiquid,
  volumeMlOf,
} from '../liquid/index.ts'
import type { Style, StyleAxis } from '../palate/index.ts'
import {
  distanceTo,
  offBand,
  STEP,
  type StandInBottle,
  type StandInDistance,
  type StandInTarget,
  type StandInWeights,
} from './distance.ts'

export interface StandInAnswer {
  parts: { slug: string; name: string; volumeMl: number }[]
  distance: StandInDistance
  abvPct: number
  style: Style
  pricePerLitre: number | undefined
}

/** The best, and the runner-up. */
const KEPT = 2

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
export class Grid {
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
