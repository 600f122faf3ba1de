import {
  type DrinkDocument,
  MEASURES,
  type MeasureName,
  type Predictions,
  type Standard,
  standardFrom,
} from '../drink/index.ts'
import type { TuneAsked } from './asked.ts'

/** How far "a touch" is as shipped: so much of a measure, in its unit. */
export const A_TOUCH = { sweetGPer100Ml: 0.8, sourGPer100Ml: 0.06, strengthPct: 0.8 } as const satisfies Partial<
  Record<MeasureName, number>
>
/** What a cheaper drink saves. */
export const CHEAPER_BY = 0.08

/** What may be asked of a drink besides its own standard. */
export const TARGETS = {
  standard: 'its standard',
  lessSour: 'a touch less sour',
  moreSour: 'a touch more sour',
  lessSweet: 'a touch less sweet',
  sweeter: 'a touch sweeter',
  weaker: 'a touch weaker',
  stronger: 'a touch stronger',
  lessAlcohol: 'one standard drink less',
  cheaper: `cheaper by ${100 * CHEAPER_BY} %`,
} as const
export type Target = keyof typeof TARGETS

const TOUCHES: Partial<Record<Target, [MeasureName & keyof typeof A_TOUCH, 1 | -1]>> = {
  lessSour: ['sourGPer100Ml', -1],
  moreSour: ['sourGPer100Ml', 1],
  lessSweet: ['sweetGPer100Ml', -1],
  sweeter: ['sweetGPer100Ml', 1],
  weaker: ['strengthPct', -1],
  stronger: ['strengthPct', 1],
}

/** What the drink is now, at the well at which it is looked at. */
export interface TargetNow {
  predictions: Predictions
  /** Of one serve, g; and one standard drink of the house, g. */
  alcoholG: number
  standardDrinkG: number
  cost: number | undefined
  /** How far a touch is in this house; left out: as shipped. */
  touch?: Readonly<Record<keyof typeof A_TOUCH, number>> | undefined
}

/** The part of what the tuner is asked for that a target says. */
export type TargetAsked = Pick<TuneAsked, 'standard' | 'mostAlcoholG' | 'mostCost'>

/**
 * What must be in the glass for a target. Without a standard of its own the drink holds what it makes now. A touch moves one
 * window and leaves the others; less alcohol gives up the strength and the volume, and keeps what is tasted.
 */
export function askedFor(target: Target, document: Pick<DrinkDocument, 'standard'>, now: TargetNow): TargetAsked {
  const held = Object.keys(document.standard).length > 0 ? document.standard : standardFrom(now.predictions)
  // Where a price is not known there is a cap still: the tuner then says whose price is missing.
  if (target === 'cheaper') return { standard: held, mostCost: (now.cost ?? 0) * (1 - CHEAPER_BY) }
  if (target === 'lessAlcohol') {
    const { strengthPct: _, volumeMl: __, washLinePct: ___, dilutionPct: ____, ...kept } = held
    return { standard: kept, mostAlcoholG: Math.max(0, now.alcoholG - now.standardDrinkG) }
  }
  const touch = TOUCHES[target]
  if (!touch) return { standard: held }
  const [measure, sign] = touch
  return {
    standard: { ...held, [measure]: movedBand(held, measure, now.predictions, sign * (now.touch ?? A_TOUCH)[measure]) },
  }
}

/** A window as wide as it was, around what is in the glass now and a touch from there. */
function movedBand(held: Standard, measure: MeasureName, predictions: Predictions, by: number) {
  const { tolerance } = MEASURES[measure]
  const band = held[measure]
  // Narrower than a touch, or staying where it is would do.
  const half = Math.min(band ? (band.high - band.low) / 2 : tolerance, 0.45 * Math.abs(by))
  const middle = (predictions[measure]?.value ?? 0) + by
  return { low: Math.max(0, middle - half), high: middle + half }
}
