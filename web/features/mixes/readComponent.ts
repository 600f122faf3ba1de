/** Amounts of a recipe as people type them: "1 oz", "2 cups", "1½", "500 g", "1 kg". Plain functions. */

import { isByWeight, type RecipeMeasure } from '@conch/core/formula'
import { type MeasureKit, readAmount, readNumber, volumeMlOfAmount } from '@conch/core/measure'
import type { ReadFigure } from '@conch/core/reading'

/** An ounce of weight, g. */
const OUNCE_G = 28.3495

/**
 * Reads an amount into the recipe's own measure: g, ml, parts or per cent.
 * @param gPerMl of what it is, as it is poured or lies in a cup; undefined where nobody knows
 */
export function readComponentAmount(
  text: string,
  by: RecipeMeasure,
  { kit, gPerMl }: { kit: MeasureKit; gPerMl: number | undefined },
): ReadFigure {
  const plain = text.trim().toLowerCase()
  const bare = readNumber(plain.replace(/\s*(?:%|parts?)$/, ''))
  if (bare !== undefined) return limited(bare)
  if (by === 'partsByWeight' || by === 'partsByVolume' || by === 'percentByVolume')
    return { ok: false, reason: `“${text}” is no number of ${by === 'percentByVolume' ? 'per cent' : 'parts'}` }
  const weight = /^(.*?)\s*(kg|g|gr|grams?|oz by weight|oz wt|lb)$/.exec(plain)
  const value = weight?.[1] ? readNumber(weight[1]) : undefined
  const times: Record<string, number> = { kg: 1000, lb: 453.592, 'oz by weight': OUNCE_G, 'oz wt': OUNCE_G }
  if (weight && value !== undefined) return inMeasure(asWeighed(value * (times[weight[2] as string] ?? 1)), 'g')
  const read = readAmount(text, 'ml')
  const ml = read.ok ? volumeMlOfAmount(read.amount, kit) : undefined
  if (ml === undefined) return { ok: false, reason: `“${text}” is no amount; write it like 250, 1 kg, 8 oz or 1½ cups` }
  return inMeasure(ml, 'ml')

  function inMeasure(amount: number, unit: 'g' | 'ml'): ReadFigure {
    const wanted = isByWeight(by) ? 'g' : 'ml'
    if (unit === wanted) return limited(amount)
    if (gPerMl === undefined)
      return { ok: false, reason: `“${text}”: nobody knows how much a ml of it weighs; write it in ${wanted}` }
    return limited(asWeighed(unit === 'ml' ? amount * gPerMl : amount / gPerMl))
  }
}

/** What was worked out, as a scale of a bar shows it: no digits that nobody weighs. */
const asWeighed = (value: number): number => Number(value.toFixed(value >= 100 ? 0 : value >= 10 ? 1 : 2))

const MOST = 100_000
const limited = (value: number): ReadFigure =>
  value >= 0 && value <= MOST
    ? { ok: true, value: Number(value.toFixed(3)) }
    : { ok: false, reason: `${value}; 0 to ${MOST}` }
