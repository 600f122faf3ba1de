/** How a drink of the menu stands at a well: what is missing, and what was chosen for the night. */

import type { DrinkDocument } from '../drink/index.ts'
import type { HouseBook } from '../house/index.ts'
import type { ChoiceKind } from '../schema/tonight.ts'
import { type DrinkTonight, drinkTonight, type Missing } from './drinkTonight.ts'

/** What was chosen for a drink for one night. */
export interface ChoiceForNight {
  id: number
  drink: string
  /** Where; null: at every well. */
  well: string | null
  kind: ChoiceKind
  /** What was missing when it was chosen, as `kind/of`; none: it counts whatever is there. */
  because: readonly string[]
  /** How it is made; of something instead. */
  document?: DrinkDocument | undefined
}

export interface StandsAt extends DrinkTonight {
  /** Made as it is; made otherwise tonight; dark, because something is missing; off, because somebody said so. */
  state: 'made' | 'instead' | 'dark' | 'off'
  choice?: number
}

/** What is missing, as a choice names it. */
export const missingKey = ({ kind, of }: Missing): string => `${kind}/${of}`

/** Whether what a choice was made for is still so. */
export const stillCounts = (
  { because }: Pick<ChoiceForNight, 'because'>,
  { missing }: Pick<DrinkTonight, 'missing'>,
): boolean => because.length === 0 || missing.some((m) => because.includes(missingKey(m)))

/**
 * @param poured a drink as its edition pours it; @param choices of this night, newest last; @param book with what is out
 * @param well its slug
 */
export function standsAt(
  { drink, document }: { drink: string; document: DrinkDocument },
  choices: readonly ChoiceForNight[],
  book: Pick<HouseBook, 'ingredients' | 'slots' | 'glasses' | 'outAt'>,
  well: string,
): StandsAt {
  const asWritten = drinkTonight(document, book, well)
  const choice = choices
    .filter((c) => c.drink === drink && (c.well === null || c.well === well) && stillCounts(c, asWritten))
    .at(-1)
  if (choice?.kind === 'off') return { ...asWritten, state: 'off', choice: choice.id }
  if (choice?.document) {
    const instead = drinkTonight(choice.document, book, well)
    return { ...instead, state: instead.missing.length > 0 ? 'dark' : 'instead', choice: choice.id }
  }
  return { ...asWritten, state: asWritten.missing.length > 0 ? 'dark' : 'made' }
}

/** Made as it is written, with everything that it names. */
export const isSimplyMade = ({ state, swapped, without }: StandsAt): boolean =>
  state === 'made' && swapped.length === 0 && without.length === 0
