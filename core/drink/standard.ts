import { keysOf } from '../schema/keysOf.ts'

interface Measure {
  label: string
  unit: string
  /** Decimals that the figure honestly has. */
  digits: number
  /** Half the width of a band taken from a glass. */
  tolerance: number
}

/** What a standard can hold still, in the order of the windows. */
export const MEASURES = {
  strengthPct: { label: 'strength', unit: '%', digits: 1, tolerance: 1 },
  sweetGPer100Ml: { label: 'sweet', unit: 'g/100 ml', digits: 1, tolerance: 0.7 },
  sourGPer100Ml: { label: 'sour', unit: 'g/100 ml', digits: 2, tolerance: 0.1 },
  dilutionPct: { label: 'dilution', unit: '%', digits: 0, tolerance: 6 },
  temperatureC: { label: 'temperature', unit: '°C', digits: 1, tolerance: 1.5 },
  volumeMl: { label: 'volume', unit: 'ml', digits: 0, tolerance: 10 },
  washLinePct: { label: 'wash line', unit: '%', digits: 0, tolerance: 6 },
} as const satisfies Record<string, Measure>

export type MeasureName = keyof typeof MEASURES
export const MEASURE_NAMES = keysOf(MEASURES)

/** The range that a measure must be in, both ends included. */
export interface Band {
  low: number
  high: number
}

/** What must be in the glass at hand-over; what is left out is free. */
export type Standard = Partial<Record<MeasureName, Band>>

/** A prediction: the figure and how far off it may be, in the measure's unit. */
export interface Predicted {
  value: number
  low: number
  high: number
}

export type Predictions = Partial<Record<MeasureName, Predicted>>

/**
 * Where a prediction lies in its band: `inside` wholly, `edge` when its uncertainty reaches out of
 * the band, `below` or `above` when the figure itself is outside; `open` without a band.
 */
export type Standing = 'inside' | 'edge' | 'below' | 'above' | 'open'

export function standingOf(predicted: Predicted | undefined, band: Band | undefined): Standing {
  if (!predicted || !band) return 'open'
  if (predicted.value < band.low) return 'below'
  if (predicted.value > band.high) return 'above'
  return predicted.low < band.low || predicted.high > band.high ? 'edge' : 'inside'
}

/** Said where a standard is taken from a glass that runs over. */
export const OVERFLOWING_STANDARD = 'this glass runs over: a standard taken from it promises what is on the bar'

/** What would tell, finely enough, what is in something sealed. */
const TELLING: ReadonlySet<MeasureName> = new Set(['strengthPct', 'sweetGPer100Ml', 'sourGPer100Ml'])

/**
 * The standard that holds these figures, each with the measure's usual tolerance.
 * @param poursSealed it is written where everybody reads it: what tells of something sealed is said to one figure less
 */
export function standardFrom(predictions: Predictions, { poursSealed = false } = {}): Standard {
  const standard: Standard = {}
  for (const name of MEASURE_NAMES) {
    const predicted = predictions[name]
    if (!predicted) continue
    const { tolerance, digits: finest } = MEASURES[name]
    const digits = poursSealed && TELLING.has(name) ? Math.max(0, finest - 1) : finest
    const rounded = (x: number) => Number(x.toFixed(digits))
    const low = rounded(predicted.value - tolerance)
    standard[name] = {
      low: name === 'temperatureC' ? low : Math.max(0, low),
      high: rounded(predicted.value + tolerance),
    }
  }
  return standard
}
