import { type Seeded, seededRandom } from '../solve/index.ts'

/** What a draw gives: a code for each subject, and for each taster the order in which they come. */
export interface Draw {
  codes: string[]
  /** Places of subjects, one row for each taster. */
  orders: number[][]
}

/** Three digits say nothing: no first, no A. */
const LEAST_CODE = 100
const MOST_CODE = 999

/**
 * Draws codes and orders: every subject as often in every place as in any other, and as often after every other one, as far
 * as the tasters go round (E. J. Williams, Experimental designs balanced for the estimation of residual effects of treatments,
 * 1949). The same seed makes the same draw.
 * @param subjects 2 or more
 */
export function drawTasting({ subjects, tasters, seed }: { subjects: number; tasters: number; seed: number }): Draw {
  const random = seededRandom(seed)
  const codes = new Set<string>()
  while (codes.size < subjects)
    codes.add(String(LEAST_CODE + Math.floor(random.uniform() * (MOST_CODE - LEAST_CODE + 1))))
  const square = williams(subjects)
  const names = shuffled(
    Array.from({ length: subjects }, (_, i) => i),
    random,
  )
  const rows = shuffled(square, random)
  return {
    codes: shuffled([...codes], random),
    orders: Array.from({ length: tasters }, (_, t) =>
      (rows[t % rows.length] as number[]).map((s) => names[s] as number),
    ),
  }
}

/** n rows where n is even, 2n where it is odd: each place and each neighbour as often as any other. */
function williams(n: number): number[][] {
  const first = Array.from({ length: n }, (_, i) => (i === 0 ? 0 : i % 2 === 1 ? (i + 1) / 2 : n - i / 2))
  const rows = Array.from({ length: n }, (_, shift) => first.map((s) => (s + shift) % n))
  return n % 2 === 0 ? rows : [...rows, ...rows.map((r) => [...r].reverse())]
}

function shuffled<T>(all: readonly T[], { uniform }: Seeded): T[] {
  const left = [...all]
  for (let i = left.length - 1; i > 0; i--) {
    const j = Math.floor(uniform() * (i + 1))
    ;[left[i], left[j]] = [left[j] as T, left[i] as T]
  }
  return left
}
