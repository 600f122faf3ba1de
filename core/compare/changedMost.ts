import type { PourPart } from '../drink/index.ts'
import { type AlignedRow, alignPours } from './align.ts'
import type { Comparable, ComparableLine } from './comparable.ts'

/** What is in the glass of a version, as far as it is known. */
export interface InGlass {
  strengthPct?: number | undefined
  sweetGPer100Ml?: number | undefined
  sourGPer100Ml?: number | undefined
}

/** Less of a change than this is not worth a word: of a pour, as a part of it. */
const LEAST_PART = 0.07
/** Of where the sugar comes from, as a part of all sugar. */
const LEAST_MOVED = 0.2
/** In the glass. */
const LEAST_POINTS = 0.3
const LEAST_G_PER_100_ML = 0.4
const LEAST_SOUR_G_PER_100_ML = 0.04
/** More than this is a paragraph. */
const MOST_SAID = 3

const FRACTIONS: readonly (readonly [number, string])[] = [
  [1 / 10, 'a tenth'],
  [1 / 8, 'an eighth'],
  [1 / 6, 'a sixth'],
  [1 / 5, 'a fifth'],
  [1 / 4, 'a quarter'],
  [1 / 3, 'a third'],
  [2 / 5, 'two fifths'],
  [1 / 2, 'half'],
  [2 / 3, 'two thirds'],
  [3 / 4, 'three quarters'],
]
/** How far a spoken fraction may be from what it says, as a part of the whole. */
const SPOKEN_WITHIN = 0.02

/**
 * A change in words: "a third less", "half as much again", "twice as much"; in per cent where no fraction is near.
 * @param before, after above 0, of the same measure
 */
export function changeText(before: number, after: number): string {
  const part = after / before - 1
  const times = after / before
  const near = FRACTIONS.filter(([f]) => Math.abs(Math.abs(part) - f) <= SPOKEN_WITHIN).sort(
    (a, b) => Math.abs(Math.abs(part) - a[0]) - Math.abs(Math.abs(part) - b[0]),
  )[0]
  if (near && part < 0) return near[1] === 'half' ? 'half as much' : `${near[1]} less`
  if (near) return near[1] === 'half' ? 'half as much again' : `${near[1]} more`
  const whole = Math.round(times)
  if (whole >= 2 && Math.abs(times - whole) <= SPOKEN_WITHIN * whole)
    return whole === 2 ? 'twice as much' : `${whole} times as much`
  if (times > 2) return `${times.toFixed(1)} times as much`
  const pct = Math.round(100 * Math.abs(part))
  return `${pct} % ${part < 0 ? 'less' : 'more'}`
}

interface Said {
  words: string
  /** How much of the drink it is about. */
  weight: number
}

/**
 * What is most different in one version against another, in a sentence: pours, where the sweetness comes from, and how it
 * ends. "the same pours" where there is nothing to say.
 */
export function changedMost(
  from: Comparable,
  to: Comparable,
  glasses?: { from: InGlass | undefined; to: InGlass | undefined },
): string {
  const rows = alignPours([from, to])
  const said = [...rows.flatMap((row) => ofRow(row, from)), ...ofSugar(from, to)]
    .sort((a, b) => b.weight - a.weight)
    .slice(0, MOST_SAID)
    .map((s) => s.words)
  const pours = said.length > 0 ? said.join(', ') : 'the same pours'
  const end = glasses?.from && glasses.to ? inGlass(glasses.from, glasses.to) : undefined
  return end ? `${pours}; ${end}` : pours
}

function ofRow({ cells: [before, after] }: AlignedRow, from: Comparable): Said[] {
  const all = from.lines.reduce((sum, l) => sum + l.volumeMl, 0) || 1
  if (!before && !after) return []
  if (!before) return [{ words: `${nameOf(after)} added`, weight: (after?.volumeMl ?? 0) / all }]
  if (!after) return [{ words: `no ${nameOf(before)}`, weight: before.volumeMl / all }]
  const part = before.volumeMl > 0 ? after.volumeMl / before.volumeMl - 1 : 0
  const hasChanged = Math.abs(part) >= LEAST_PART
  const moved = Math.abs(after.volumeMl - before.volumeMl) / all
  if (before.what !== after.what) {
    const amount = hasChanged ? ` (${changeText(before.volumeMl, after.volumeMl)})` : ''
    return [{ words: `${nameOf(after)} for ${nameOf(before)}${amount}`, weight: before.volumeMl / all + moved }]
  }
  return hasChanged ? [{ words: `${changeText(before.volumeMl, after.volumeMl)} ${nameOf(after)}`, weight: moved }] : []
}

const nameOf = (line: ComparableLine | undefined) => line?.name ?? ''

const BRINGS: Record<PourPart, string> = {
  base: 'the base',
  strong: 'liqueur',
  sweet: 'syrup',
  sour: 'juice',
  long: 'what is long in it',
}

/** Where the sweetness comes from, if that is another place. */
function ofSugar(from: Comparable, to: Comparable): Said[] {
  const [was, is] = [sugarShares(from), sugarShares(to)]
  if (!was || !is) return []
  const moves = (Object.keys(BRINGS) as PourPart[]).map((part) => ({ part, by: (is[part] ?? 0) - (was[part] ?? 0) }))
  moves.sort((a, b) => a.by - b.by)
  const [less, more] = [moves[0], moves[moves.length - 1]]
  if (!less || !more || more.by < LEAST_MOVED || less.by > -LEAST_MOVED) return []
  const words = `the sweetness moved from ${BRINGS[less.part]} to ${BRINGS[more.part]}`
  return [{ words, weight: more.by }]
}

function sugarShares({ lines }: Comparable): Partial<Record<PourPart, number>> | undefined {
  const all = lines.reduce((sum, l) => sum + l.sugarG, 0)
  if (all <= 0) return undefined
  const shares: Partial<Record<PourPart, number>> = {}
  for (const l of lines) shares[l.part] = (shares[l.part] ?? 0) + l.sugarG / all
  return shares
}

/** How it ends, in the glass: what differs enough to be tasted. */
function inGlass(from: InGlass, to: InGlass): string | undefined {
  const said = [
    differs(
      from.strengthPct,
      to.strengthPct,
      LEAST_POINTS,
      (d) => `${d.toFixed(1)} points ${(to.strengthPct ?? 0) < (from.strengthPct ?? 0) ? 'weaker' : 'stronger'}`,
    ),
    differs(
      from.sweetGPer100Ml,
      to.sweetGPer100Ml,
      LEAST_G_PER_100_ML,
      (d) => `${d.toFixed(1)} g/100 ml ${(to.sweetGPer100Ml ?? 0) < (from.sweetGPer100Ml ?? 0) ? 'drier' : 'sweeter'}`,
    ),
    differs(
      from.sourGPer100Ml,
      to.sourGPer100Ml,
      LEAST_SOUR_G_PER_100_ML,
      (d) => `${d.toFixed(2)} g/100 ml ${(to.sourGPer100Ml ?? 0) < (from.sourGPer100Ml ?? 0) ? 'less sour' : 'sourer'}`,
    ),
  ].filter((words) => words !== undefined)
  return said.length > 0 ? `ends ${said.join(', ')}` : undefined
}

function differs(
  from: number | undefined,
  to: number | undefined,
  least: number,
  words: (by: number) => string,
): string | undefined {
  if (from === undefined || to === undefined) return undefined
  const by = Math.abs(to - from)
  return by < least ? undefined : words(by)
}
