import { computeChillCurve, type DrinkDocument, type GlassFor, glassFor, resolveDrink } from '@conch/core/drink'
import type { HouseBook } from '@conch/core/house'
import { expose } from 'comlink'

/** What is sent back of a glass: everything but the resolved drink, which the page does not need. */
export type GlassAnswer =
  | Pick<Extract<GlassFor, { ok: true }>, 'ok' | 'result' | 'consequences'>
  | Extract<GlassFor, { ok: false }>

let book: HouseBook | undefined

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
  curve(document: DrinkDocument, well: string, endS: number) {
    if (!book) return []
    const resolution = resolveDrink(document, book, well)
    return resolution.ok ? computeChillCurve(resolution.drink, endS) : []
  },
}

export type Computer = typeof computer
expose(computer)
