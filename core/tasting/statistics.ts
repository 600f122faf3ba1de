/** Exact tests for few tasters: nothing is assumed of how scores are spread. */

/** How many said one, the other, and neither; and how often chance alone comes out as far apart, either way. */
export interface SignTest {
  first: number
  second: number
  ties: number
  /** 0 to 1; 1 where nobody preferred anything. */
  p: number
}

/**
 * The exact sign test, two-sided (W. J. Dixon and A. M. Mood, The statistical sign test, 1946): those who are undecided are
 * left out.
 * @param differences of each taster: second less first
 */
export function signTest(differences: readonly number[]): SignTest {
  const first = differences.filter((d) => d < 0).length
  const second = differences.filter((d) => d > 0).length
  const n = first + second
  const fewer = Math.min(first, second)
  let ways = 0
  let choose = 1
  for (let k = 0; k <= fewer; k++) {
    ways += choose
    choose = (choose * (n - k)) / (k + 1)
  }
  return { first, second, ties: differences.length - n, p: n === 0 ? 1 : Math.min(1, (2 * ways) / 2 ** n) }
}

/**
 * The exact permutation test of a mean difference of pairs, two-sided (R. A. Fisher, The design of experiments, 1935): how
 * often, of all ways in which each taster's two scores may have been swapped, the mean is as far from nothing.
 * @param differences of each taster, 20 at most
 * @returns 0 to 1; 1 where there is nothing to swap
 */
export function permutationTest(differences: readonly number[]): number {
  const n = differences.length
  if (n === 0) return 1
  if (n > 20) throw new RangeError(`${n} tasters are too many to count every way`)
  const observed = Math.abs(differences.reduce((a, b) => a + b, 0))
  let asFar = 0
  for (let swaps = 0; swaps < 2 ** n; swaps++) {
    let sum = 0
    for (let i = 0; i < n; i++) sum += swaps & (1 << i) ? -(differences[i] as number) : (differences[i] as number)
    if (Math.abs(sum) >= observed - 1e-9) asFar++
  }
  return asFar / 2 ** n
}

/** Chance does it less often than this: worth a word. */
const SELDOM = 0.05

/** What a test proves, in a sentence that promises no more. */
export function provesText(p: number, tasters: number): string {
  const least = 2 * 0.5 ** tasters
  const often = `chance alone does as much ${oftenText(p)}`
  if (tasters < 6)
    return `${often}; with ${tasters} tasters this proves little: even all of one mind come about by chance ${oftenText(least)}`
  return p < SELDOM ? `${often}: it is hardly chance` : `${often}: it proves nothing`
}

/** "1 time in 16", "every time". */
export function oftenText(p: number): string {
  if (p > 0.95) return 'nearly every time'
  if (p > 0.4) return 'about every second time'
  const one = Math.round(1 / p)
  return `1 time in ${one}`
}
