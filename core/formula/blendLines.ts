/** A blended bottle in place of several lines of a spec, and back. */

import type { PourLine } from '../drink/index.ts'
import { type MeasureKit, toFraction, volumeMlOfAmount } from '../measure/index.ts'
import type { Recipe } from '../schema/recipe.ts'
import { amountSize } from '../schema/recipeMeasures.ts'

/** A line of a spec with its volume; undefined while nobody said how large a part is. */
export interface BlendedLine {
  index: number
  line: PourLine
  volumeMl: number
}

/** Shares further apart than this are another blend. */
const SAME_SHARE = 0.005

/** Each component's share of the volume, 0 to 1, in the recipe's order. Only for what is written by volume. */
export const sharesOf = (recipe: Pick<Recipe, 'by' | 'components'>): { ingredient: string; share: number }[] => {
  const all = recipe.components.reduce((sum, c) => sum + c.amount * amountSize(recipe.by), 0)
  return recipe.components.map((c) => ({ ingredient: c.ingredient, share: (c.amount * amountSize(recipe.by)) / all }))
}

/** A volume in the unit it was written in where that is a plain fraction, else in ml. */
function toAmount(volumeMl: number, unit: 'oz' | 'ml', kit: MeasureKit): NonNullable<PourLine['amount']> {
  const ounces = volumeMl / kit.ounceMl
  return unit === 'oz' && toFraction(ounces)
    ? { value: Number(ounces.toFixed(4)), unit: 'oz' }
    : { value: Number(volumeMl.toFixed(2)), unit: 'ml' }
}

const unitOf = (line: PourLine): 'oz' | 'ml' => (line.amount?.unit === 'oz' ? 'oz' : 'ml')

const volumeOf = (line: PourLine, kit: MeasureKit, partMl: number | undefined): number | undefined =>
  line.volumeMl ?? (line.amount && volumeMlOfAmount(line.amount, kit, partMl))

/**
 * The lines that a blended bottle stands for: its parts in its shares, in the same place. Spirits
 * shrink a little when mixed (under 0.5 % of the volume here): less than a jigger shows.
 * @returns undefined when the line's volume is not known
 */
export function expandBlend(line: PourLine, recipe: Recipe, kit: MeasureKit, partMl?: number): PourLine[] | undefined {
  const volumeMl = volumeOf(line, kit, partMl)
  if (volumeMl === undefined) return undefined
  const { amount: _, volumeMl: __, ingredient: ___, ...rest } = line
  return sharesOf(recipe).map(({ ingredient, share }) => ({
    ...rest,
    ingredient,
    amount: toAmount(volumeMl * share, unitOf(line), kit),
  }))
}

/**
 * The one line that a blended bottle makes of several: only when the spec pours its very parts, in
 * its shares, into the same place.
 * @returns the line, which lines it replaces, and where it goes
 */
export function collapseToBlend(
  pours: readonly PourLine[],
  blend: { slug: string; recipe: Recipe },
  kit: MeasureKit,
  { partMl, prefersOunces = false }: { partMl?: number | undefined; prefersOunces?: boolean } = {},
): { line: PourLine; replaces: number[] } | undefined {
  const shares = sharesOf(blend.recipe)
  const lines = shares.map(({ ingredient }) => {
    const index = pours.findIndex((p) => p.ingredient === ingredient)
    const line = pours[index]
    const volumeMl = line && volumeOf(line, kit, partMl)
    return line && volumeMl !== undefined ? { index, line, volumeMl } : undefined
  })
  const found = lines.filter((l) => l !== undefined)
  const [first] = found
  if (!first || found.length !== shares.length || found.some((l) => l.line.into !== first.line.into)) return undefined
  const volumeMl = found.reduce((sum, l) => sum + l.volumeMl, 0)
  const isSame = found.every((l, i) => Math.abs(l.volumeMl / volumeMl - (shares[i]?.share ?? 0)) <= SAME_SHARE)
  if (!isSame) return undefined
  // Thirds of two ounces are written in ml; together they are two ounces again.
  const unit = prefersOunces || found.some((l) => unitOf(l.line) === 'oz') ? 'oz' : 'ml'
  return {
    line: { ingredient: blend.slug, into: first.line.into, amount: toAmount(volumeMl, unit, kit) },
    replaces: found.map((l) => l.index).sort((a, b) => a - b),
  }
}

const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b))

/**
 * A blend's recipe with other shares, in its own measure: parts as small whole numbers where they
 * are, ml with the same total, per cent that come to 100.
 * @param volumesMl of each component in one pour; @param stepMl what the pour snaps to
 */
export function withVolumes(recipe: Recipe, volumesMl: readonly number[], stepMl: number): Recipe {
  const all = volumesMl.reduce((sum, v) => sum + v, 0)
  const put = (amounts: readonly number[]): Recipe => ({
    ...recipe,
    components: recipe.components.map((c, i) => ({ ...c, amount: amounts[i] ?? c.amount })),
  })
  if (recipe.by === 'percentByVolume') {
    const pct = volumesMl.map((v) => Number(((100 * v) / all).toFixed(2)))
    const rest = Number((100 - pct.slice(1).reduce((sum, p) => sum + p, 0)).toFixed(2))
    return put([rest, ...pct.slice(1)])
  }
  if (recipe.by === 'volume') {
    const totalMl = recipe.components.reduce((sum, c) => sum + c.amount, 0)
    return put(volumesMl.map((v) => Number(((totalMl * v) / all).toFixed(2))))
  }
  const units = volumesMl.map((v) => v / stepMl)
  const isWhole = units.every((u) => Math.abs(u - Math.round(u)) < 1e-6)
  if (!isWhole) return put(units.map((u) => Number(u.toFixed(3))))
  const whole = units.map(Math.round)
  const by = whole.reduce(gcd, 0)
  return put(whole.map((u) => u / Math.max(1, by)))
}

/**
 * The recipe that some lines of a spec make together, for a new blend.
 * @returns undefined when a volume is not known
 */
export function partsFromLines(lines: readonly PourLine[], kit: MeasureKit, partMl?: number): Recipe | undefined {
  const components = lines.map((line) => ({ ingredient: line.ingredient, amount: volumeOf(line, kit, partMl) }))
  if (components.some((c) => c.ingredient === undefined || c.amount === undefined)) return undefined
  return {
    by: 'volume',
    components: components.map((c) => ({ ingredient: c.ingredient ?? '', amount: Number((c.amount ?? 0).toFixed(2)) })),
  }
}
