/** The loads of a round, put together and taken apart by hand before anything is poured. */

import { MOST_IN_ONE, type Round } from '@conch/core/service'

export type Loads = Round['loads']
type Load = Loads[number]

const LETTERS = 'abcdefgh'

/** A load keeps its letter, by which its ticks go; one that is split off gets a free one. */
export function lettered(loads: Loads): Loads {
  const used = new Set<string>()
  const kept = loads.map((l) => {
    const isFirst = !used.has(l.id)
    used.add(l.id)
    return isFirst ? l : undefined
  })
  const free = [...LETTERS].filter((x) => !used.has(x))
  return kept.map((l, i) => l ?? { ...(loads[i] as Load), id: free.shift() as string })
}

const isSame = (a: Load, b: Load) => JSON.stringify([a.drink, a.document]) === JSON.stringify([b.drink, b.document])

/** Loads of the same drink made the same way, together. */
export function grouped(loads: Loads): Load[][] {
  const groups: Load[][] = []
  for (const load of loads) {
    const same = groups.find(([first]) => first && isSame(first, load))
    if (same) same.push(load)
    else groups.push([load])
  }
  return groups
}

/** One place earlier. */
export const earlier = (loads: Loads, i: number): Loads =>
  loads.map((l, at) => (at === i - 1 ? (loads[i] ?? l) : at === i ? (loads[i - 1] ?? l) : l))

/** One glass of it by itself, right behind the others. */
export function apart(loads: Loads, id: string): Loads {
  if (loads.length >= LETTERS.length) return loads
  return loads.flatMap((l) => {
    if (l.id !== id || l.glasses < 2) return [l]
    return [
      { ...l, glasses: l.glasses - 1 },
      { ...l, glasses: 1 },
    ]
  })
}

/** Whether a load is the same drink as the one before it, and both together still one load. */
export function canJoin(loads: Loads, i: number): boolean {
  const [before, here] = [loads[i - 1], loads[i]]
  return (
    before !== undefined && here !== undefined && isSame(before, here) && before.glasses + here.glasses <= MOST_IN_ONE
  )
}

/** In one go with the one before it. */
export const joined = (loads: Loads, i: number): Loads =>
  canJoin(loads, i)
    ? loads.flatMap((l, at) =>
        at === i ? [] : [at === i - 1 ? { ...l, glasses: l.glasses + (loads[i]?.glasses ?? 0) } : l],
      )
    : loads
