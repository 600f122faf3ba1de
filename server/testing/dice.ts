/** What growing needs of chance, from a seed: the same seed grows the same house. */

import { seededRandom } from '@conch/core/solve'

export interface Dice {
  uniform: () => number
  pick: <T>(list: readonly T[]) => T
}

export function diceOf(seed: number): Dice {
  const { uniform } = seededRandom(seed)
  return {
    uniform,
    pick: (list) => {
      const found = list[Math.floor(uniform() * list.length)]
      if (found === undefined) throw new Error('bug: nothing to pick from')
      return found
    },
  }
}

export const WORDS = [
  'Tide',
  'Anchor',
  'Lantern',
  'Mangrove',
  'Copper',
  'Ledger',
  'Harbour',
  'Pelican',
  'Sluice',
  'Ember',
] as const

const ROWS_AT_ONCE = 400

export async function inBatches<T>(rows: readonly T[], insert: (rows: T[]) => Promise<unknown>): Promise<void> {
  for (let i = 0; i < rows.length; i += ROWS_AT_ONCE) await insert(rows.slice(i, i + ROWS_AT_ONCE))
}
