import { addLiquids, enthalpyJOf, type Liquid, massGOf, temperatureCFromEnthalpy } from '../liquid/index.ts'

/** Liquids of different temperatures in one vessel without any: heat adds, heat of mixing too. */
export function mixAt(parts: readonly { liquid: Liquid; temperatureC: number }[]): {
  liquid: Liquid
  temperatureC: number
} {
  const liquid = addLiquids(...parts.map((p) => p.liquid))
  if (massGOf(liquid) === 0) return { liquid, temperatureC: parts[0]?.temperatureC ?? 20 }
  const enthalpyJ = parts.reduce((sum, p) => sum + enthalpyJOf(p.liquid, p.temperatureC), 0)
  return { liquid, temperatureC: temperatureCFromEnthalpy(liquid, enthalpyJ) }
}
