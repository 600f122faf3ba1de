/** The full model to the hand-over, for a drink whose pours vary and nothing else does. */

import {
  type DrinkDocument,
  finishDrink,
  type Predictions,
  type Problem,
  predict,
  type ResolvedDrink,
  resolveDrink,
  startDrink,
} from '../drink/index.ts'
import type { HouseBook } from '../house/index.ts'
import { type Liquid, scaleLiquid } from '../liquid/index.ts'
import { followFill } from '../means/index.ts'

/** What is in the glass at hand-over. */
export interface MadeGlass {
  predictions: Predictions
  overflowMl: number
  /** Everything in it. */
  liquid: Liquid
}

export interface Maker {
  well: string
  /** @param volumesMl of every line; undefined: outside of what the model knows */
  make: (volumesMl: readonly number[]) => MadeGlass | undefined
}

export type Makers = { ok: true; makers: Maker[] } | { ok: false; problems: Problem[] }

/** Slugs of the wells that can make a drink: the one that is asked for first, where it can, and the others in the house's order. */
export function wellsThatMake(document: DrinkDocument, book: HouseBook, first?: string): string[] {
  const able = book.wells.map((w) => w.slug).filter((well) => resolveDrink(document, book, well).ok)
  return [...able.filter((w) => w === first), ...able.filter((w) => w !== first)]
}

/** Volumes smaller than this are nothing, ml. */
const NOTHING_ML = 1e-9

/**
 * One for each well: looked up once, made as often as one likes. Where ice fills the glass, it follows the pours, and
 * everything is looked up again.
 */
export function makersOf(document: DrinkDocument, book: HouseBook, wells: readonly string[]): Makers {
  const makers: Maker[] = []
  for (const well of wells) {
    const resolution = resolveDrink(document, book, well)
    if (!resolution.ok) return resolution
    makers.push({
      well,
      make: fillsWithIce(document) ? followingMaker(document, book, well) : makerOf(resolution.drink),
    })
  }
  return { ok: true, makers }
}

const fillsWithIce = ({ serveIce, serveIceByWell = {} }: DrinkDocument): boolean =>
  [serveIce, ...Object.values(serveIceByWell)].some((ice) => ice?.some((p) => p.fill !== undefined))

function followingMaker(document: DrinkDocument, book: HouseBook, well: string): Maker['make'] {
  return (volumesMl) => {
    const pours = document.pours.flatMap(({ amount: _, ...line }, i) => {
      const volumeMl = volumesMl[i] ?? 0
      return volumeMl > NOTHING_ML ? [{ ...line, volumeMl }] : []
    })
    const resolution = resolveDrink(followFill({ ...document, pours }, book), book, well)
    return resolution.ok ? makerOf(resolution.drink)([]) : undefined
  }
}

function makerOf(drink: ResolvedDrink): Maker['make'] {
  return (volumesMl) => {
    const pours = drink.pours.flatMap((p, i) => {
      const volumeMl = volumesMl[i] ?? p.volumeMl
      if (volumeMl <= NOTHING_ML) return []
      const factor = volumeMl / p.volumeMl
      return [factor === 1 ? p : { ...p, volumeMl, liquid: scaleLiquid(p.liquid, factor) }]
    })
    const start = startDrink({ ...drink, pours })
    const finished = finishDrink({ ...drink, pours }, start, start, 0)
    if (!finished.ok) return undefined
    const { served, inHand } = finished
    return {
      predictions: predict(served, inHand, start.volumeBeforeIceMl, 0),
      overflowMl: served?.fill.overflowMl ?? 0,
      liquid: served?.everything ?? inHand.mixture.liquid,
    }
  }
}
