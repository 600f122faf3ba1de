import type { Comparable, ComparableLine } from './comparable.ts'

/** Words of a name that say what is made of a fruit, not which one. */
const MADE = /\b(pur[ée]e|syrup|juice|mix|honey|liqueur|let[- ]down|pressed|fresh)\b/giu
const fruitOf = (name: string) =>
  name
    .toLowerCase()
    .replace(MADE, ' ')
    .replace(/[^\p{L}]+/gu, ' ')
    .trim()

const sugarOf = (l: ComparableLine) => `${((100 * l.sugarG) / l.volumeMl).toFixed(0)} g sugar/100 ml`

/**
 * What no normalising makes the same, said aloud: a purée in one version and a syrup of the same fruit in another, which people
 * swap by mistake.
 */
export function comparedRemarks(sides: readonly Comparable[]): string[] {
  const lines = sides.flatMap((side) => side.lines.map((line) => ({ side, line })))
  const remarks = new Set<string>()
  for (const { side, line: puree } of lines.filter((l) => l.line.kind === 'puree'))
    for (const { side: other, line: syrup } of lines) {
      if (side === other || (syrup.kind !== 'syrup' && syrup.kind !== 'houseMix')) continue
      const fruit = fruitOf(puree.name)
      if (fruit === '' || fruitOf(syrup.name) !== fruit || puree.volumeMl <= 0 || syrup.volumeMl <= 0) continue
      remarks.add(
        `${puree.name} (${sugarOf(puree)}) is not ${syrup.name} (${sugarOf(syrup)}): one does not stand in for the other`,
      )
    }
  return [...remarks]
}
