import { type Liquid, massGOf } from '../liquid/index.ts'
import { bisect } from '../solve/index.ts'

/**
 * How much more readily alcohol leaves than water, by mass, in a dilute boiling mixture (about 9 to
 * 12 below 10 % by mass; the vapour over 5 % alcohol holds about a third). Rayleigh distillation with
 * this constant: E/E₀ = (W/W₀)^α.
 */
const RELATIVE_VOLATILITY = 9

export type BoilResult = { ok: true; liquid: Liquid; evaporatedG: number } | { ok: false; reason: string }

/**
 * Boils a liquid down to a weight. Water leaves, and alcohol long before it; everything else stays.
 * @param toG what is left in the pan, g, at most what was in it
 */
export function boilDown(liquid: Liquid, toG: number): BoilResult {
  const massG = massGOf(liquid)
  const evaporatedG = massG - toG
  if (evaporatedG < -1e-9 * massG)
    return { ok: false, reason: `cannot be boiled down to ${round(toG)} g: there are only ${round(massG)} g` }
  if (evaporatedG <= 0) return { ok: true, liquid, evaporatedG: 0 }
  const volatileG = liquid.waterG + liquid.ethanolG
  if (evaporatedG > volatileG) {
    const least = round(massG - volatileG)
    return { ok: false, reason: `cannot be boiled down to ${round(toG)} g: without any water ${least} g are left` }
  }
  if (liquid.ethanolG === 0)
    return { ok: true, liquid: { ...liquid, waterG: liquid.waterG - evaporatedG }, evaporatedG }
  const ethanolAt = (waterFraction: number) => liquid.ethanolG * waterFraction ** RELATIVE_VOLATILITY
  const leftG = (waterFraction: number) => waterFraction * liquid.waterG + ethanolAt(waterFraction)
  const found = bisect((x) => leftG(x) - (volatileG - evaporatedG), 0, 1, { tolerance: 1e-14 })
  if (found.outcome === 'noBracket') throw new Error('bug: nothing is left of a mixture that is boiled down')
  const ethanolG = ethanolAt(found.value)
  // The water takes what the search left over, so that mass is kept exactly.
  return { ok: true, liquid: { ...liquid, ethanolG, waterG: volatileG - evaporatedG - ethanolG }, evaporatedG }
}

const round = (g: number) => Number(g.toFixed(1))
