import { abvPctOf, type Liquid, per100Ml, volumeMlOf } from '../liquid/index.ts'
import type { InHand } from './inHand.ts'
import type { Served } from './serveInGlass.ts'
import type { Predicted, Predictions } from './standard.ts'

/** An uncalibrated station also knows its temperature no better than this, K. */
const TEMPERATURE_UNCERTAINTY_K = 1

/**
 * Figures at hand-over, and what they would be with the dilution off by its uncertainty either
 * way: the same drink with that much less or more water.
 */
export function predict(
  served: Served | undefined,
  { mixture, water: total }: Pick<InHand, 'mixture' | 'water'>,
  volumeBeforeIceMl: number,
  uncertaintyFraction: number,
): Predictions {
  const liquid = served?.everything ?? mixture.liquid
  const water = served?.water ?? total
  const addedG = water.meltG + water.surfaceWaterG
  const offG = addedG * uncertaintyFraction
  const drier = { ...liquid, waterG: Math.max(0, liquid.waterG - offG) }
  const wetter = { ...liquid, waterG: liquid.waterG + offG }
  const around = (of: (l: Liquid) => number): Predicted => {
    const value = of(liquid)
    if (offG === 0) return { value, low: value, high: value }
    const ends = [of(drier), of(wetter)]
    return { value, low: Math.min(...ends), high: Math.max(...ends) }
  }
  const temperatureC = served?.body.temperatureC ?? mixture.temperatureC
  const offK = offG > 0 ? TEMPERATURE_UNCERTAINTY_K : 0
  const dilutionPct = volumeBeforeIceMl > 0 ? (100 * addedG) / volumeBeforeIceMl : 0
  const predictions: Predictions = {
    strengthPct: around(abvPctOf),
    sweetGPer100Ml: around((l) => per100Ml(l, 'sugarG')),
    sourGPer100Ml: around((l) => per100Ml(l, 'acidG')),
    dilutionPct: {
      value: dilutionPct,
      low: dilutionPct * (1 - uncertaintyFraction),
      high: dilutionPct * (1 + uncertaintyFraction),
    },
    temperatureC: { value: temperatureC, low: temperatureC - offK, high: temperatureC + offK },
    volumeMl: around(volumeMlOf),
  }
  if (served) {
    const { fill } = served
    // Melted ice sinks as much as it adds: the wash line moves only by what the volume estimate misses.
    const offPct = ((offG * 0.1) / fill.brimMl) * 100
    predictions.washLinePct = {
      value: fill.washLinePct,
      low: fill.washLinePct - offPct,
      high: Math.min(100, fill.washLinePct + offPct),
    }
  }
  return predictions
}
