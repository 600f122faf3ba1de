import { computeChillCurve, type DrinkDocument, type GlassFor, glassFor, resolveDrink } from '@conch/core/drink'
import type { HouseBook } from '@conch/core/house'
import { type CausesAsked, causesOf } from '@conch/core/menu'
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

let book: HouseBook | undefined

/** Two volumes closer than this are one, ml. */
const SAME_ML = 0.05

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
