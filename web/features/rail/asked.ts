/** What is asked for, before it is a round. */

import type { SaidRound } from '@conch/contract'
import type { AskedFor, RoundLoad } from '@conch/core/service'
import type { RailDrink } from './useRailMenu.ts'

export interface Asked {
  /** The same drink made the same way is one entry. */
  key: string
  load: Omit<RoundLoad, 'id' | 'glasses'>
  glasses: number
}

export const glassesOf = (asked: readonly Asked[]): number => asked.reduce((sum, a) => sum + a.glasses, 0)
export const askedFor = ({ load, glasses }: Asked): AskedFor => ({
  name: load.document.name,
  document: load.document,
  glasses,
})

/** One glass more of a drink as it is made here; nothing of one that is not known. */
export function addTo(asked: readonly Asked[], { drink, version, document, state, words }: RailDrink): Asked[] {
  if (!document) return [...asked]
  const key = `${drink} ${version}`
  const there = asked.findIndex((a) => a.key === key)
  if (there >= 0) return asked.map((a, i) => (i === there ? { ...a, glasses: a.glasses + 1 } : a))
  const otherwise = state === 'instead' ? (words ?? 'something instead').slice(0, 120) : undefined
  return [...asked, { key, load: { drink, version, document, ...(otherwise ? { otherwise } : {}) }, glasses: 1 }]
}

/** One glass less. */
export const takeFrom = (asked: readonly Asked[], at: number): Asked[] =>
  asked.flatMap((a, i) => (i !== at ? [a] : a.glasses > 1 ? [{ ...a, glasses: a.glasses - 1 }] : []))

/** The same once more, as it is made now; what is dark, or not on the menu any more, is left out. A guest's wish stays. */
export function fromRound({ round }: Pick<SaidRound, 'round'>, drinks: readonly RailDrink[]): Asked[] {
  let asked: Asked[] = []
  for (const load of round.loads) {
    const now = drinks.find((d) => d.drink === load.drink)
    if (!now?.document || now.state === 'dark' || now.state === 'off') continue
    if (load.otherwise && now.state === 'made') {
      const { id: _, goes: __, glasses, ...same } = load
      asked = [
        ...asked,
        { key: `${load.drink} ${load.version} ${load.otherwise} ${asked.length}`, load: same, glasses },
      ]
    } else for (let i = 0; i < load.glasses; i++) asked = addTo(asked, now)
  }
  return asked
}
