/** Sour against sweet, as bars say it: ml of the one beside ml of the other. */

import type { HouseBook } from '../house/index.ts'
import { volumeMlOf } from '../liquid/index.ts'
import { type ResolvedDrink, type ResolvedPour, resolveDrink } from './resolve.ts'
import type { DrinkDocument } from './schema.ts'

export interface Balance {
  /** Of sour juices and acids, and of syrups, liqueurs and what else is mostly sweet, ml for one serve. */
  sourMl: number
  sweetMl: number
  /** Sugar over acid of everything poured, by mass; undefined without acid. */
  sugarToAcid: number | undefined
  /** Where the two are not about the same: in a sentence, with what makes up for it. */
  remark: string | undefined
}

/** From so much acid on a pour is sour, and from so much sugar it is sweet, g in 100 ml. */
const SOUR_G = 2.5
const SWEET_G = 18
/** Sour and sweet are about the same within this factor: the rule of thumb. */
const ABOUT = 1.2
/** What the rule takes a sweet part and a sour one to be, g in 100 ml. */
const USUAL_SUGAR_G = 61
const USUAL_ACID_G = 5.8
const OTHERWISE = 0.12
/** Of all the sugar, brought by what nobody counts as sweet: worth a word. */
const ELSEWHERE_FRACTION = 0.15

const per100 = (pours: readonly ResolvedPour[], what: 'sugarG' | 'acidG') => {
  const ml = pours.reduce((sum, p) => sum + volumeMlOf(p.liquid), 0)
  return ml > 0 ? (100 * pours.reduce((sum, p) => sum + p.liquid[what], 0)) / ml : 0
}

/** How a drink's sour parts stand to its sweet ones; undefined where there are not both, or nobody knows how sweet or sour one is. */
export function balanceOf({ pours, serves }: Pick<ResolvedDrink, 'pours' | 'serves'>): Balance | undefined {
  if (pours.some((p) => p.unknown.some((u) => u === 'sugar' || u === 'acid'))) return undefined
  const inPour = (p: ResolvedPour, what: 'sugarG' | 'acidG') =>
    p.volumeMl > 0 ? (100 * p.liquid[what]) / p.volumeMl : 0
  const sour = pours.filter((p) => inPour(p, 'acidG') >= SOUR_G && inPour(p, 'sugarG') < SWEET_G)
  const sweet = pours.filter((p) => inPour(p, 'sugarG') >= SWEET_G)
  const ml = (of: readonly ResolvedPour[]) => of.reduce((sum, p) => sum + p.volumeMl, 0) / serves
  const [sourMl, sweetMl] = [ml(sour), ml(sweet)]
  if (!(sourMl > 0 && sweetMl > 0)) return undefined
  const sugarG = pours.reduce((sum, p) => sum + p.liquid.sugarG, 0)
  const acidG = pours.reduce((sum, p) => sum + p.liquid.acidG, 0)
  const balance = { sourMl, sweetMl, sugarToAcid: acidG > 0 ? sugarG / acidG : undefined }
  const ratio = sourMl / sweetMl
  if (ratio <= ABOUT && ratio >= 1 / ABOUT) return { ...balance, remark: undefined }
  const they = (of: readonly ResolvedPour[], one: string, some: string) => {
    const names = [...new Set(of.map((p) => p.name))]
    return `${names.join(' and ')} ${names.length > 1 ? some : one}`
  }
  const reasons: string[] = []
  if (ratio > 1) {
    const rich = sweet.filter((p) => inPour(p, 'sugarG') > USUAL_SUGAR_G * (1 + OTHERWISE))
    if (rich.length > 0) reasons.push(they(rich, 'is rich', 'are rich'))
    const elsewhereG = pours.filter((p) => !sweet.includes(p)).reduce((sum, p) => sum + p.liquid.sugarG, 0)
    const others = pours.filter((p) => !sweet.includes(p) && p.liquid.sugarG > 0.05 * sugarG)
    if (elsewhereG > ELSEWHERE_FRACTION * sugarG && others.length > 0)
      reasons.push(they(others, 'sweetens it, too', 'sweeten it, too'))
    if (per100(sour, 'acidG') < USUAL_ACID_G * (1 - OTHERWISE))
      reasons.push(they(sour, 'is not very sour', 'are not very sour'))
  } else {
    const dry = sweet.filter((p) => inPour(p, 'sugarG') < USUAL_SUGAR_G * (1 - OTHERWISE))
    if (dry.length > 0) reasons.push(they(dry, 'is drier than syrup', 'are drier than syrup'))
    if (per100(sour, 'acidG') > USUAL_ACID_G * (1 + OTHERWISE))
      reasons.push(they(sour, 'is very sour', 'are very sour'))
    const elsewhereG = pours.filter((p) => !sour.includes(p)).reduce((sum, p) => sum + p.liquid.acidG, 0)
    const others = pours.filter((p) => !sour.includes(p) && p.liquid.acidG > 0.05 * acidG)
    if (elsewhereG > ELSEWHERE_FRACTION * acidG && others.length > 0)
      reasons.push(they(others, 'is sour, too', 'are sour, too'))
  }
  const what = ratio > 1 ? 'more sour than sweet by volume' : 'more sweet than sour by volume'
  const why =
    reasons.length > 0
      ? `; it works all the same because ${reasons.join(' and ')}`
      : '; nothing in it makes up for that'
  return { ...balance, remark: what + why }
}

/** Where a drink's sugar to acid lies among others. */
export interface AmongOthers {
  others: number
  low: number
  high: number
  standing: 'drier' | 'among' | 'sweeter'
}

const FEWEST_OTHERS = 3

/**
 * How a drink compares with the house's other drinks that are sour and sweet: between their lowest and highest sugar to
 * acid, or beyond. Undefined with fewer than three others.
 */
export function amongOthers(
  document: DrinkDocument,
  others: readonly DrinkDocument[],
  book: HouseBook,
  well: string,
): AmongOthers | undefined {
  const ratioOf = (d: DrinkDocument) => {
    const resolved = resolveDrink(d, book, well)
    return resolved.ok ? balanceOf(resolved.drink)?.sugarToAcid : undefined
  }
  const own = ratioOf(document)
  const ratios = others
    .filter((o) => o.name !== document.name)
    .flatMap((o) => ratioOf(o) ?? [])
    .sort((a, b) => a - b)
  if (own === undefined || ratios.length < FEWEST_OTHERS) return undefined
  const low = ratios[0] as number
  const high = ratios[ratios.length - 1] as number
  return { others: ratios.length, low, high, standing: own < low ? 'drier' : own > high ? 'sweeter' : 'among' }
}
