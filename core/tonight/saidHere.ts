/** What is out once the words that a device has kept count too: told before the house has heard them. */

import type { DrinkDocument } from '../drink/index.ts'
import type { Glass, HouseBook, Ingredient, OutHere } from '../house/index.ts'
import { isWeighed } from '../house/index.ts'
import type { Slot } from '../palate/index.ts'
import { fruitSlug, type OutMark, outMarkOf } from './outs.ts'
import { type ChoiceForNight, isSimplyMade, type StandsAt, standsAt } from './standsAt.ts'

/** One word of a device: that something is out or low, or that what was said under a number has ended. */
export type SaidHere<M extends OutMark> = { is: M } | { ended: number }

export interface EveningKnown<M extends OutMark> {
  outs: readonly M[]
  outAt: NonNullable<HouseBook['outAt']>
  choices: readonly ChoiceForNight[]
}

/** As much of the house as a device knows. */
export interface KnownHere {
  wells: readonly { slug: string }[]
  ingredients: readonly Ingredient[]
  glasses: readonly Glass[]
  slots: readonly Slot[]
  /** Those that are neither used up nor thrown away. */
  lots: readonly { id: number; ingredient: string }[]
  poured: readonly { drink: string; version: number; name: string; document: DrinkDocument }[]
}

const isSamePlace = (a: OutMark, b: OutMark) => a.kind === b.kind && a.of === b.of && a.well === b.well

/** What is said to be out, oldest first: of one thing at one place the newer word counts. */
export function outsAfter<M extends OutMark>(outs: readonly M[], said: readonly SaidHere<M>[]): M[] {
  let all = [...outs]
  for (const word of said) {
    if ('ended' in word) all = all.filter((o) => o.id !== word.ended)
    else if (!all.some((o) => isSamePlace(o, word.is) && o.level === word.is.level))
      all = [...all.filter((o) => !isSamePlace(o, word.is)), word.is]
  }
  return all
}

/** @returns whether any of these words is about it */
const isAbout = (marks: readonly OutMark[], { slug, name, kind, fruit }: Ingredient) => {
  const own = isWeighed(kind) ? name : fruit?.name
  return marks.some(
    (m) =>
      (m.kind === 'ingredient' && m.of === slug) ||
      (m.kind === 'fruit' && own !== undefined && m.of === fruitSlug(own)),
  )
}

/**
 * What is out at each well, and how the drinks stand, with what was said here. Only what those words are about is looked at
 * again, so that what this device does not know of the house stays as the house said it; which of several lots is left only
 * the house knows.
 */
export function eveningAfter<M extends OutMark>(
  before: EveningKnown<M>,
  said: readonly SaidHere<M>[],
  known: KnownHere,
): {
  outs: M[]
  outAt: NonNullable<HouseBook['outAt']>
  drinks: { drink: string; name: string; version: number; at: Record<string, StandsAt> }[]
} {
  const outs = outsAfter(before.outs, said)
  const changed = [
    ...outs.filter((o) => !before.outs.includes(o)),
    ...before.outs.filter((o) => !outs.includes(o)),
  ].filter((m) => m.kind !== 'lot')
  const of = (kind: OutMark['kind']) => changed.filter((m) => m.kind === kind).map((m) => m.of)
  const asked = known.ingredients.filter((i) => isAbout(changed, i))
  const outAt = Object.fromEntries(
    known.wells.map(({ slug: well }): [string, OutHere] => {
      const was = before.outAt[well] ?? { ingredients: [], glasses: [], fruits: [] }
      const isOut = (kind: OutMark['kind']) => (slug: string) =>
        outs.some((m) => m.kind === kind && m.of === slug && m.level === 'out' && (m.well === null || m.well === well))
      const again = (is: readonly string[], about: readonly string[], out: (slug: string) => boolean) => [
        ...is.filter((slug) => !about.includes(slug)),
        ...[...new Set(about)].filter(out),
      ]
      const slugs = asked.map((i) => i.slug)
      const gone = new Set(asked.filter((i) => outMarkOf(i, well, outs, known.lots)).map((i) => i.slug))
      return [
        well,
        {
          ingredients: again(was.ingredients, slugs, (slug) => gone.has(slug)),
          glasses: again(was.glasses, of('glass'), isOut('glass')),
          fruits: again(was.fruits, of('fruit'), isOut('fruit')),
        },
      ]
    }),
  )
  const book = {
    ingredients: [...known.ingredients],
    glasses: [...known.glasses],
    slots: [...known.slots],
    outAt,
  }
  const drinks = known.poured.map((p) => ({
    drink: p.drink,
    name: p.name,
    version: p.version,
    at: Object.fromEntries(known.wells.map(({ slug }) => [slug, standsAt(p, before.choices, book, slug)])),
  }))
  return { outs, outAt, drinks: drinks.filter((d) => !Object.values(d.at).every(isSimplyMade)) }
}
