import { abvPctOf, addLiquids, type Liquid, massGOf, NOTHING, scaleLiquid, volumeMlOf } from '../liquid/index.ts'
import { bisect } from '../solve/index.ts'

/** Grams of citric acid that neutralise as much as one gram: equivalent weights 64.04 and 67.05 g/mol. */
export const CITRIC_PER_MALIC = 64.04 / 67.05

export type Adjustment<T> = { ok: true; answer: T } | { ok: false; reason: string }

/**
 * How much of a spirit brings a mix to a strength. Volumes are the alcohol tables', with contraction.
 * @param mix per batch; @param spirit any amount of it: only its composition counts
 * @returns g and ml of the spirit, and the liquid that comes out
 */
export function fortify(
  mix: Liquid,
  spirit: Liquid,
  targetAbvPct: number,
): Adjustment<{ massG: number; volumeMl: number; liquid: Liquid }> {
  const from = abvPctOf(mix)
  const most = abvPctOf(spirit)
  if (!(targetAbvPct > from))
    return { ok: false, reason: `it has ${from.toFixed(1)} % already; the target must be above that` }
  if (!(targetAbvPct < most))
    return {
      ok: false,
      reason: `${most.toFixed(1)} % spirit cannot bring it to ${targetAbvPct} %; less than ${most.toFixed(1)} % can be reached`,
    }
  const perG = scaleLiquid(spirit, 1 / massGOf(spirit))
  const made = (massG: number) => addLiquids(mix, scaleLiquid(perG, massG))
  let high = massGOf(mix)
  for (let i = 0; i < 60 && abvPctOf(made(high)) < targetAbvPct; i++) high *= 2
  const found = bisect((massG) => abvPctOf(made(massG)) - targetAbvPct, 0, high, { tolerance: 1e-9 * high })
  if (found.outcome !== 'converged') return { ok: false, reason: 'no amount of it was found' }
  const massG = found.value
  return { ok: true, answer: { massG, volumeMl: volumeMlOf(scaleLiquid(perG, massG)), liquid: made(massG) } }
}

/**
 * Grams of citric and malic acid that bring a juice to so much titratable acid, as citric, per
 * 100 ml *of the finished juice*.
 * @param citricToMalic grams of citric for one gram of malic; the house's ratio is 2 unless it says else
 */
export function adjustAcid(
  juice: Liquid,
  targetGPer100Ml: number,
  citricToMalic = 2,
): Adjustment<{ citricG: number; malicG: number; liquid: Liquid }> {
  const now = (100 * juice.acidG) / volumeMlOf(juice)
  if (!(targetGPer100Ml > now))
    return { ok: false, reason: `it has ${now.toFixed(2)} g/100 ml already; the target must be above that` }
  if (targetGPer100Ml > 30) return { ok: false, reason: `${targetGPer100Ml} g/100 ml is no juice; at most 30` }
  if (!(citricToMalic >= 0)) return { ok: false, reason: 'the ratio of citric to malic is 0 or more' }
  /** Total powder in g → titratable acid that it brings, as citric. */
  const malicShare = 1 / (1 + citricToMalic)
  const asCitric = (powderG: number) => powderG * (1 - malicShare + malicShare * CITRIC_PER_MALIC)
  const made = (powderG: number): Liquid => addLiquids(juice, { ...NOTHING, acidG: asCitric(powderG) })
  const excess = (powderG: number) => {
    const l = made(powderG)
    return (100 * l.acidG) / volumeMlOf(l) - targetGPer100Ml
  }
  const found = bisect(excess, 0, massGOf(juice), { tolerance: 1e-9 * massGOf(juice) })
  if (found.outcome !== 'converged') return { ok: false, reason: 'no amount of acid was found' }
  const powderG = found.value
  return {
    ok: true,
    answer: { citricG: powderG * (1 - malicShare), malicG: powderG * malicShare, liquid: made(powderG) },
  }
}
