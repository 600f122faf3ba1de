/**
 * The model of one stage with ice once more, as slow and plain as it can be written: fixed steps, every root by halving,
 * nothing kept from one moment to the next. What the fast one is held to.
 */

import { ICE_KINDS, type IceCharge, NO_KIND, type StageParameters } from '../cold/index.ts'
import { enthalpyJOf, freezingPointCOf, heatCapacityJPerKOf, type Liquid, mixingHeatJOf } from '../liquid/index.ts'

const FILM = 40
const HALVINGS = 60

export function slowStage(
  before: { liquid: Liquid; temperatureC: number },
  p: StageParameters & { charges: readonly IceCharge[] },
  stepS: number,
): { addedG: number; temperatureC: number } {
  const kinds = p.charges.map((c) => (c.kind ? ICE_KINDS[c.kind] : NO_KIND))
  const mass = p.charges.map((c) => c.massG * (1 - c.surfaceWaterFraction))
  const surfaces = mass.map((m, i) => m * (kinds[i]?.surfaceShare ?? 0))
  const surface = surfaces.reduce((sum, s) => sum + s, 0)
  const wetG = p.charges.reduce((sum, c) => sum + c.massG * c.surfaceWaterFraction, 0)
  const heatJ =
    enthalpyJOf(before.liquid, before.temperatureC) + p.vesselJPerK * (p.vesselTemperatureC - 25) + wetG * 4.19 * -25
  // Water added, heat, and of each pile its mass and mass times temperature.
  let y = [wetG, heatJ, ...p.charges.flatMap((c, i) => [mass[i] as number, (mass[i] as number) * c.temperatureC])]
  const gone = p.charges.map(() => false)
  const liquidAt = (addedG: number) => ({ ...before.liquid, waterG: before.liquid.waterG + addedG })
  const temperatureAt = (addedG: number, J: number) =>
    25 + (J - mixingHeatJOf(liquidAt(addedG))) / (heatCapacityJPerKOf(liquidAt(addedG)) + p.vesselJPerK)

  const rates = (at: readonly number[]): number[] => {
    const [added = 0, J = 0] = at
    const T = temperatureAt(added, J)
    const Tf = freezingPointCOf(liquidAt(added))
    const out = at.map(() => 0)
    out[1] = p.stirringPowerW + p.leakWPerK * (p.roomTemperatureC - T)
    p.charges.forEach((_, i) => {
      const m = at[2 + 2 * i] as number
      if (gone[i] || m <= 0) return
      const Tc = (at[3 + 2 * i] as number) / m
      const ua = (p.uaWPerK * (surfaces[i] as number)) / surface
      const K = (m * 2.07) / (kinds[i]?.coreS ?? 1)
      const latent = (Ts: number) => 333.55 + 4.19 * Ts - 2.07 * Tc
      const f = (u: number) => {
        const Ts = Tf * Math.exp(-u)
        return T - Ts + (K / ua) * (Tc - Ts) - (u / FILM) * latent(Ts)
      }
      let low = -10
      let high = 60
      for (let k = 0; k < HALVINGS; k++) {
        const middle = (low + high) / 2
        if (f(middle) > 0) low = middle
        else high = middle
      }
      const Ts = Tf * Math.exp(-low)
      const q = ua * (T - Ts)
      const w = K * (Ts - Tc)
      const melt = (q - w) / latent(Ts)
      out[0] = (out[0] as number) + melt
      out[1] = (out[1] as number) + melt * 4.19 * (Ts - 25) - q
      out[2 + 2 * i] = -melt
      out[3 + 2 * i] = w / 2.07 - Tc * melt
    })
    return out
  }
  const steps = Math.round(p.durationS / stepS)
  for (let n = 0; n < steps; n++) {
    const along = (k: readonly number[], h: number) => y.map((v, i) => v + h * (k[i] as number))
    const a = rates(y)
    const b = rates(along(a, stepS / 2))
    const c = rates(along(b, stepS / 2))
    const d = rates(along(c, stepS))
    y = y.map(
      (v, i) => v + (stepS / 6) * ((a[i] as number) + 2 * (b[i] as number) + 2 * (c[i] as number) + (d[i] as number)),
    )
    p.charges.forEach((_, i) => {
      const m = y[2 + 2 * i] as number
      if (gone[i] || m > 1e-6) return
      gone[i] = true
      y[0] = (y[0] as number) + m
      y[1] = (y[1] as number) + m * (4.19 * -25 - 333.55) + 2.07 * (y[3 + 2 * i] as number)
      y[2 + 2 * i] = 0
      y[3 + 2 * i] = 0
    })
  }
  const [addedG = 0, J = 0] = y
  return { addedG, temperatureC: temperatureAt(addedG, J) }
}
