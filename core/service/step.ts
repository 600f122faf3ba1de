/** What a step is, and what it belongs to: a load, or one go of it. */

import type { DrinkDocument, ResolvedDrink } from '../drink/index.ts'
import type { JiggerMoves } from '../measure/index.ts'
import { goesOf, type MadeLoad } from './load.ts'
import { byGo, type InTin, type Poured, tooMuchBefore } from './poured.ts'

/** What is done. `glass`: set out or fetched; `soda`: into the glass before what is poured off; `after`: into it then. */
export const STEP_KINDS = [
  'glass',
  'pour',
  'ice',
  'chill',
  'soda',
  'strain',
  'after',
  'topIce',
  'float',
  'garnish',
  'flame',
] as const
export type StepKind = (typeof STEP_KINDS)[number]

/** The same thing for several loads, poured one after the other. */
export interface SharedPour {
  /** Of each load in this order, as it is written: “¾”, “1½”. */
  parts: { load: string; text: string }[]
  totalText: string
  totalMl: number
  /** Which of them this step is. */
  index: number
}

export interface Step {
  /** Stable while the round is made: `pour:a:2` is the third line of load a. */
  id: string
  load: string
  kind: StepKind
  /** As it is called tonight. */
  name: string
  /** The figure that is read from two metres: “1½ oz”, “190 g”, “8 s”. */
  amount?: string
  /** The same otherwise: “45 ml”, “2 × steel scoop”. */
  also?: string
  /** Of a pour: which line of the spec it is. */
  line?: number
  /** What is still to be poured, ml. */
  volumeMl?: number
  /** What the load wants of it with what is in already. */
  whole?: { volumeMl: number; text: string }
  /** What that weighs, g: for a scale beside the tin. */
  massG?: number
  moves?: JiggerMoves
  /** Liquid in the vessel before this pour and after it, ml. */
  levelMl?: { from: number; to: number }
  shared?: SharedPour
  /** Of what is made in several goes: in which of how many this is. */
  go?: { number: number; of: number }
  /** What is to be minded just now; the first is the most pressing. */
  minds: string[]
  /** What is otherwise, or good to know: a stand-in, a lot. */
  notes: string[]
}

/** A load as its steps need it. */
export interface LoadToMake {
  id: string
  name: string
  document: DrinkDocument
  glasses: number
  /** Undefined while it is being reckoned: then ice and seconds are those of the spec, for one glass. */
  made: MadeLoad | undefined
  /** What was poured otherwise than asked for, ml by the line's index: in its vessel, or go by go. */
  inTin?: Poured
  /** In how many goes it was begun; left out: as many as it takes at this well. Read as it is written it is 1. */
  goes?: number
}

/** What is made at once of a load: all of it, or one go of it. */
export interface Ready extends Omit<LoadToMake, 'inTin'> {
  drink: ResolvedDrink
  go: { number: number; of: number }
  /** What is in already, ml by the line's index. */
  inTin: InTin
  /** Of all that is in already, ml. */
  inTinMl: number
  /** What was too much in the goes before and is less in this, the last one; ml by the line's index. */
  before: InTin
}

/** The name of one go of a load in its steps and clocks: “a”, “a2”. */
export const goName = (load: string, go: number): string => (go > 1 ? `${load}${go}` : load)

/** A load as it is made: in one go, or go by go; what was too much in one is less in the last. */
export function goesFor(load: LoadToMake, drink: ResolvedDrink): Ready[] {
  const of = load.glasses === 1 ? (load.goes ?? goesOf(drink)) : 1
  const inGoes = byGo(load.inTin ?? {})
  return Array.from({ length: of }, (_, i): Ready => {
    const inTin = inGoes[i] ?? {}
    const before = i === of - 1 ? tooMuchBefore(drink, inGoes, of) : {}
    const inTinMl = Object.values(inTin).reduce((sum, ml) => sum + ml, 0)
    return { ...load, drink, go: { number: i + 1, of }, inTin, inTinMl, before }
  })
}

/** To which load and go a step belongs. */
export const ofGo = ({ id, go }: Ready): Pick<Step, 'load' | 'go'> => ({ load: id, ...(go.of > 1 ? { go } : {}) })
