import type { DrinkDocument, MeasureName, Predictions, Problem, Standard } from '../drink/index.ts'
import type { HouseBook } from '../house/index.ts'
import type { Miss } from '../means/index.ts'

/** What may become of one line. */
export interface LineLimits {
  isLocked?: boolean
  leastMl?: number
  mostMl?: number
}

/** What the tuner is asked for. */
export interface TuneAsked {
  document: DrinkDocument
  /** What must be in the glass: the document's own standard, or another target. */
  standard: Standard
  book: HouseBook
  /** Slugs of the wells at which it must hold; pours are the same at all of them. What it costs is counted at the first. */
  wells: readonly string[]
  /** By the line's index; what is left out may move. */
  lines?: Readonly<Record<number, LineLimits>>
  /** What may be put in that is not there, at most so much of each. */
  mayAdd?: readonly { ingredient: string; mostMl: number }[]
  /** Two lines whose pours keep their ratio. */
  keepRatio?: readonly [number, number]
  /** Of one serve, in the house's currency. */
  mostCost?: number
  /** Of one serve, g. */
  mostAlcoholG?: number
}

/** A line that pours otherwise. */
export interface TunedLine {
  /** Of the document; beyond its last: put in. */
  index: number
  name: string
  fromMl: number
  toMl: number
  /** Steps on the grid. */
  steps: number
}

/** The glass of an answer at a well. */
export interface TunedGlass {
  well: string
  predictions: Predictions
  overflowMl: number
  misses: Miss[]
}

export interface TuneAnswer {
  /** The drink with these pours. */
  document: DrinkDocument
  lines: TunedLine[]
  steps: number
  glasses: TunedGlass[]
  /** Over all wells: 0 in the middle of every band, 1 at the edge of one. */
  worst: number
  /** Of one serve; undefined where a price is not known. */
  cost: number | undefined
  alcoholG: number
}

/** How much was looked at. */
export interface TuneEffort {
  /** Sets of pours that were looked at with the table of the ice, and with the full model. */
  looked: number
  made: number
  /** How far the table was off where that was tried, by measure. */
  tableOff: Partial<Record<MeasureName, number>>
}

export type TuneResult =
  /** It is in its standard as it is. */
  | { outcome: 'meets'; answer: TuneAnswer }
  | { outcome: 'found'; answers: TuneAnswer[]; effort: TuneEffort }
  /** Nothing within three changed lines does it; the one that comes nearest. */
  | { outcome: 'none'; closest: TuneAnswer | undefined; effort: TuneEffort }
  | { outcome: 'noStandard' }
  /** What is asked cannot be together; in words. */
  | { outcome: 'contradiction'; reason: string }
  | { outcome: 'problem'; problems: Problem[] }
