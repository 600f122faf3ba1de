/** The wrong amount went in: what the glass is now, what would put it right, and what starting anew throws away. */

import { type DrinkDocument, type Predictions, resolveDrink } from '../drink/index.ts'
import type { HouseBook } from '../house/index.ts'
import type { Miss } from '../means/index.ts'
import { type JiggerMoves, jiggerMoves, usualMeasures } from '../measure/index.ts'
import { MOST_IN_ONE } from './limits.ts'
import { leftSo, makeLoad } from './load.ts'
import { type InTin, SAME_ML } from './poured.ts'
import { isShareable } from './shared.ts'

/** A glass that would result. */
export interface Outcome {
  predictions: Predictions
  worst: number
  misses: Miss[]
}

export interface ToPour {
  index: number
  name: string
  /** Still to be poured, ml. */
  volumeMl: number
  moves: JiggerMoves | undefined
}

export interface Rescue {
  /** Everything that is not in yet as the spec says, and the wrong amount as it is; worked for seconds that still land, where any do. */
  asItIs: Outcome & { toPour: ToPour[]; durationS: number | undefined }
  /** More of all the others: so many glasses instead. */
  moreGlasses?: Outcome & { glasses: number; toPour: ToPour[] }
  /** Why there is no such answer. */
  noMore?: string
  /** What is in the tin and would be thrown away, ml. */
  lostMl: number
}

/** Nobody pours less again, ml. */
const LEAST_POUR_ML = 1

/**
 * What can be done with a tin that has a wrong amount in it.
 * @param glasses that it was poured for
 * @param inTin what is in it, in all its goes, of every line that was poured; a line that is left out is not poured yet
 * @param begunIn in so many goes one glass of it was begun
 * @returns undefined where the drink cannot be made at all
 */
export function rescueOf(
  document: DrinkDocument,
  book: HouseBook,
  well: string,
  glasses: number,
  inTin: InTin,
  begunIn?: number,
): Rescue | undefined {
  const resolution = resolveDrink(document, book, well)
  const load = makeLoad(document, book, well, glasses, begunIn)
  if (!resolution.ok || !load.ok) return undefined
  const { drink } = resolution
  const { made } = load
  const measures = book.settings.measures ?? usualMeasures(book.settings.kit)
  const wants = drink.pours.map((p) => p.volumeMl)
  const isInTin = (index: number) => drink.pours[index]?.into === 'tin' || drink.stages[0]?.inGlass === true
  const stillFor = (count: number): ToPour[] =>
    drink.pours.flatMap((pour, index): ToPour[] => {
      const volumeMl = (wants[index] ?? 0) * count - (inTin[index] ?? 0)
      if (!isInTin(index) || volumeMl < LEAST_POUR_ML) return []
      return [{ index, name: pour.name, volumeMl, moves: jiggerMoves(volumeMl, measures) }]
    })
  const untouched = stillFor(glasses).filter(({ index }) => inTin[index] === undefined)
  const { predictions, worst, misses, durationS } = leftSo(document, book, well, made, inTin)
  const lostMl = Object.values(inTin).reduce((sum, ml) => sum + ml, 0)
  return { asItIs: { predictions, worst, misses, durationS, toPour: untouched }, lostMl, ...more() }

  /** The fewest glasses of which nothing has too much in it. */
  function more(): Pick<Rescue, 'moreGlasses' | 'noMore'> {
    const needed = Math.max(
      glasses,
      ...Object.entries(inTin).map(([index, ml]) => {
        const one = wants[Number(index)] ?? 0
        return one > 0 ? Math.ceil((ml - SAME_ML) / one) : glasses
      }),
    )
    if (needed === glasses) return {}
    if (!isShareable(drink)) return { noMore: 'it is made in its glass: there is no room for more of it' }
    if (needed > MOST_IN_ONE) return { noMore: `it would have to be ${needed} glasses` }
    const bigger = makeLoad(document, book, well, needed)
    if (!bigger.ok) return { noMore: bigger.words }
    const { predictions, worst, misses } = bigger.made
    return {
      moreGlasses: { predictions, worst, misses, glasses: needed, toPour: stillFor(needed) },
    }
  }
}
