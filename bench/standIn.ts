/** The same search for a stand-in through a general solver of mixed-integer programs, written as a text model. */

import { abvPctOf } from '@conch/core/liquid'
import { STYLE_AXIS_NAMES, type StyleAxis } from '@conch/core/palate'
import {
  DEFAULT_LIMIT_PER_LINE,
  distanceTo,
  STEP,
  type StandInBottle,
  type StandInTarget,
  type StandInWeights,
} from '@conch/core/standin'
import highs from 'highs'

/** Sixty invented bottles and a target between them, the same each time. */
export function standInProblem(count = 60): { bottles: StandInBottle[]; target: StandInTarget } {
  let seed = 20260401
  // Park and Miller's generator: enough for made-up bottles.
  const random = () => {
    seed = (seed * 16_807) % 2_147_483_647
    return seed / 2_147_483_647
  }
  const style = (low: number, span: number) =>
    Object.fromEntries(STYLE_AXIS_NAMES.map((a) => [a, Math.round(2 * (low + span * random())) / 2])) as Record<
      StyleAxis,
      number
    >
  const bottles = Array.from({ length: count }, (_, i): StandInBottle => {
    const abv = 0.38 + 0.3 * random()
    const ethanolG = abv * 0.78924
    // Near enough to a spirit's water: the search only needs two different liquids.
    const waterG = (1 - abv) * 0.9982 + 0.04 * abv
    return {
      slug: `bottle-${i}`,
      name: `bottle ${i}`,
      style: style(0, 10),
      perMl: { ethanolG, waterG, sugarG: 0.01 * random(), acidG: 0, fatG: 0, otherG: 0 },
      depth: Math.round(10 * random()),
      pricePerLitre: 20 + 50 * random(),
    }
  })
  const target: StandInTarget = {
    style: style(3, 4),
    abvPct: { low: 46, high: 46 },
    sugarGPer100Ml: 0.4,
    acidGPer100Ml: 0,
    depth: 5,
    pricePerLitre: 42,
  }
  return { bottles, target }
}

/**
 * The best mixture of up to three bottles on the grid by HiGHS. Strength and sugar are taken as if
 * volumes added, which the model must have linear; the answer is weighed by our own measure.
 */
export async function standInByMilp(
  target: StandInTarget,
  bottles: readonly StandInBottle[],
  units: number,
  weights: StandInWeights,
): Promise<{ steps: number; solve: () => void }> {
  const solver = await highs()
  const goals: string[] = []
  const rows: string[] = []
  const bounds: string[] = []
  /** |Σ x·value/units − wanted| ≤ over + under, each weighed in the objective. */
  const term = (
    name: string,
    value: (b: StandInBottle) => number,
    wanted: number,
    weight: number,
    isOneSided = false,
  ) => {
    goals.push(`${weight} o_${name}`, ...(isOneSided ? [] : [`${weight} u_${name}`]))
    const sum = bottles.map((b, i) => `${(value(b) / units).toFixed(9)} x${i}`).join(' + ')
    rows.push(` t_${name}: ${sum} - o_${name} ${isOneSided ? '<=' : `+ u_${name} =`} ${wanted}`)
  }
  for (const axis of STYLE_AXIS_NAMES) {
    const wanted = target.style[axis]
    if (wanted === undefined) continue
    term(axis, (b) => b.style[axis] ?? 0, wanted, 1)
    bounds.push(` o_${axis} <= ${DEFAULT_LIMIT_PER_LINE}`, ` u_${axis} <= ${DEFAULT_LIMIT_PER_LINE}`)
  }
  term('strength', (b) => abvPctOf(b.perMl), target.abvPct.low, weights.strength / STEP.abvPct)
  term('sugar', (b) => 100 * b.perMl.sugarG, target.sugarGPer100Ml, weights.sugar / STEP.sugarGPer100Ml)
  term('colour', (b) => b.depth ?? 0, target.depth ?? 0, weights.colour / STEP.depth)
  const price = target.pricePerLitre ?? 1
  term('price', (b) => b.pricePerLitre ?? 0, price, weights.price / (STEP.price * price), true)
  const all = bottles.map((_, i) => i)
  rows.push(` whole: ${all.map((i) => `x${i}`).join(' + ')} = ${units}`)
  rows.push(` few: ${all.map((i) => `y${i}`).join(' + ')} <= 3`)
  for (const i of all) rows.push(` use${i}: x${i} - ${units} y${i} <= 0`)
  const model = [
    'Minimize',
    ` obj: ${goals.join(' + ')}`,
    'Subject To',
    ...rows,
    'Bounds',
    ...bounds,
    ...all.map((i) => ` 0 <= x${i} <= ${units}`),
    'General',
    ` ${all.map((i) => `x${i}`).join(' ')}`,
    'Binary',
    ` ${all.map((i) => `y${i}`).join(' ')}`,
    'End',
  ].join('\n')
  const solved = solver.solve(model)
  if (solved.Status !== 'Optimal') throw new Error(`the peer ended with ${solved.Status}`)
  const columns = solved.Columns as Record<string, { Primal?: number }>
  const parts = all.flatMap((i) => {
    const count = Math.round(columns[`x${i}`]?.Primal ?? 0)
    return count > 0 ? [{ bottle: bottles[i] as StandInBottle, volumeMl: count }] : []
  })
  return { steps: distanceTo(target, parts, weights).steps, solve: () => void solver.solve(model) }
}
