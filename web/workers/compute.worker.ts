import {
  type Consequence,
  computeChillCurve,
  type DrinkDocument,
  type GlassFor,
  glassFor,
  resolveDrink,
} from '@conch/core/drink'
import type { HouseBook } from '@conch/core/house'
import { type CausesAsked, causesOf } from '@conch/core/menu'
import {
  type AskedFor,
  afterWorking,
  chillClock,
  type InTin,
  leftSo,
  type MadeLoad,
  makeLoad,
  type PlanOutcome,
  type Poured,
  planByHand,
  planRound,
  rescueOf,
} from '@conch/core/service'
import {
  findStandIns,
  type StandInAnswer,
  type StandInBottle,
  type StandInOptions,
  type StandInTarget,
  standInEffect,
} from '@conch/core/standin'
import { expose } from 'comlink'

/** What is sent back of a glass: everything but the resolved drink, which the page does not need. */
export type GlassAnswer =
  | Pick<Extract<GlassFor, { ok: true }>, 'ok' | 'result' | 'consequences'>
  | Extract<GlassFor, { ok: false }>

/** A plan, and what is to be said to the guest and minded by the hand. */
export interface Planned {
  outcome: PlanOutcome
  said: (Consequence & { name: string })[]
  /** Of which loads the plan is, in its order. */
  loads: string[]
}

let book: HouseBook | undefined

/** Two volumes closer than this are one, ml. */
const SAME_ML = 0.05

const loadKey = (name: string, glasses: number) => `${glasses} ${name}`

function answerFor(document: DrinkDocument, well: string): GlassAnswer {
  if (!book) return { ok: false, problems: [{ path: [], message: 'the house is not loaded yet' }] }
  const glass = glassFor(document, book, well)
  return glass.ok ? { ok: true, result: glass.result, consequences: glass.consequences } : glass
}

const computer = {
  setBook(next: HouseBook) {
    book = next
  },
  glass: answerFor,
  glasses: (requests: { document: DrinkDocument; well: string }[]) =>
    requests.map((r) => answerFor(r.document, r.well)),
  standIns(
    target: StandInTarget,
    bottles: StandInBottle[],
    options: Omit<StandInOptions, 'canPour'>,
    pourableMl: number[],
  ) {
    const canPour = (ml: number) => pourableMl.some((p) => Math.abs(p - ml) < SAME_ML)
    return findStandIns(target, bottles, { ...options, canPour })
  },
  standInEffect(document: DrinkDocument, index: number, answer: Pick<StandInAnswer, 'parts'>, well: string) {
    if (!book) return { ok: false as const, reason: 'the house is not loaded yet' }
    return standInEffect(document, index, answer, book, well)
  },
  /** A round for what is asked for, and what is to be said to the guest and minded by the hand, of each drink. */
  plan(
    asked: readonly AskedFor[],
    byHand: readonly { of: number; glasses: number; goes?: number }[] | undefined,
    well: string,
  ): Planned {
    if (!book) return { outcome: { ok: false, of: 0, words: 'the house is not loaded yet' }, said: [], loads: [] }
    const here = book
    const outcome = byHand ? planByHand(asked, byHand, here, well) : planRound(asked, here, well)
    const said = asked.flatMap(({ name, document }) => {
      const glass = glassFor(document, here, well)
      return glass.ok
        ? glass.consequences.filter((c) => c.isSafety || c.weight === 'stop').map((c) => ({ ...c, name }))
        : []
    })
    const once = new Map(said.map((c) => [`${c.name} ${c.text}`, c]))
    const loads = outcome.ok ? outcome.plan.loads.map((l) => loadKey(asked[l.of]?.name ?? '', l.made.glasses)) : []
    return { outcome, said: [...once.values()], loads }
  },
  loads(loads: readonly { document: DrinkDocument; glasses: number; goes?: number; inTin?: Poured }[], well: string) {
    const here = book
    return loads.map(({ document, glasses, goes, inTin }) => {
      const made = here && makeLoad(document, here, well, glasses, goes)
      if (!here || !made?.ok) return undefined
      return inTin ? leftSo(document, here, well, made.made, inTin) : made.made
    })
  },
  clock(document: DrinkDocument, made: Parameters<typeof chillClock>[3], well: string) {
    return book && chillClock(document, book, well, made)
  },
  worked(
    document: DrinkDocument,
    made: Pick<MadeLoad, 'glasses' | 'goes' | 'iceTimes' | 'standard' | 'inTin'>,
    ranS: number,
    well: string,
  ) {
    return book && afterWorking(document, book, well, made, ranS)
  },
  rescue(document: DrinkDocument, glasses: number, goes: number | undefined, inTin: InTin, well: string) {
    return book && rescueOf(document, book, well, glasses, inTin, goes)
  },
  /** Of a drink with the house that is in here as today's. */
  causes: (asked: Omit<CausesAsked, 'today'>) =>
    book ? causesOf({ ...asked, today: book }) : { ok: false as const, reason: 'the house is not loaded yet' },
  curve(document: DrinkDocument, well: string, endS: number) {
    if (!book) return []
    const resolution = resolveDrink(document, book, well)
    return resolution.ok ? computeChillCurve(resolution.drink, endS) : []
  },
}

export type Computer = typeof computer
expose(computer)
