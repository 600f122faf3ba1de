/** What was poured otherwise than asked for: in one vessel, or go by go. */

import type { ResolvedDrink } from '../drink/index.ts'
import { withPoursTimes } from '../means/index.ts'

/** How much is in the vessel, ml by the line's index; of a line that is left out nothing is known to be wrong. */
export type InTin = Readonly<Record<number, number>>

/** The same, in its vessel or go by go. */
export type Poured = InTin | readonly InTin[]

const isByGo = (poured: Poured): poured is readonly InTin[] => Array.isArray(poured)
export const byGo = (poured: Poured): readonly InTin[] => (isByGo(poured) ? poured : [poured])

/** What was too much in all goes but the last, which gets so much less; ml by the line's index. */
export function tooMuchBefore({ pours }: ResolvedDrink, inGoes: readonly InTin[], goes: number): InTin {
  const tooMuch: Record<number, number> = {}
  for (const [line, { volumeMl }] of pours.entries())
    for (const go of inGoes.slice(0, goes - 1))
      tooMuch[line] = (tooMuch[line] ?? 0) + Math.max(0, (go[line] ?? 0) - volumeMl / goes)
  return tooMuch
}

/** What comes to be in all goes together, ml by the line's index, of lines of which it is too much. */
export function inAllGoes(drink: ResolvedDrink, inGoes: readonly InTin[], goes: number): InTin {
  const before = tooMuchBefore(drink, inGoes, goes)
  const all: Record<number, number> = {}
  for (const [line, { volumeMl }] of drink.pours.entries()) {
    const ml = (volumeMl * (goes - 1)) / goes + (before[line] ?? 0) + (inGoes[goes - 1]?.[line] ?? 0)
    if (ml > volumeMl) all[line] = ml
  }
  return all
}

/** Nobody sees that at the jigger, ml. */
export const SAME_ML = 0.5

/** Whether more is in the vessel than so many glasses want. */
export const isTooMuchIn = ({ pours }: ResolvedDrink, glasses: number, inTin: InTin): boolean =>
  pours.some(({ volumeMl }, index) => (inTin[index] ?? 0) > volumeMl * glasses + SAME_ML)

/** One glass of a drink of which too much of something is in the vessel; of what is less, the rest still comes. */
export function pouredOtherwise(drink: ResolvedDrink, glasses: number, inTin: InTin): ResolvedDrink {
  const pours = drink.pours.map((pour, index) => {
    const ml = inTin[index] ?? 0
    const wantedMl = pour.volumeMl * glasses
    if (!(wantedMl > 0) || ml <= wantedMl) return pour
    return withPoursTimes({ ...drink, pours: [pour] }, ml / wantedMl).pours[0] ?? pour
  })
  return { ...drink, pours }
}
