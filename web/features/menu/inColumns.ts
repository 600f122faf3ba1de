/** Chapters side by side: a page is as wide as it is, and nobody scrolls past a blank half. */

import { useSyncExternalStore } from 'react'

/** Of a chapter so many lines stand together at least, where it is cut. */
const LEAST_TOGETHER = 2
/** What a chapter's head takes, in lines. */
const HEAD_LINES = 1.6

/** A chapter, or the rest of one in the next column. */
export interface ChapterPart<C, T> {
  of: C
  things: T[]
  isContinued: boolean
}

/**
 * Lays chapters into columns of about the same height, in order; one that does not fit goes on in the next column.
 * @param linesOf how high a thing stands, in lines
 */
export function inColumns<C, T>(
  chapters: readonly { of: C; things: readonly T[] }[],
  count: number,
  linesOf: (thing: T) => number,
): ChapterPart<C, T>[][] {
  const sum = (things: readonly T[]) => things.reduce((lines, thing) => lines + linesOf(thing), 0)
  const heightOf = (things: readonly T[]) => HEAD_LINES + sum(things)
  const columns: ChapterPart<C, T>[][] = [[]]
  let filled = 0
  let aim = chapters.reduce((lines, c) => lines + heightOf(c.things), 0) / count
  const put = (of: C, things: T[], isContinued: boolean) => {
    columns.at(-1)?.push({ of, things, isContinued })
    filled += heightOf(things)
  }
  chapters.forEach(({ of, things }, at) => {
    let rest = [...things]
    while (columns.length < count) {
      const room = aim - filled
      const cut = cutAt(rest, room - HEAD_LINES, linesOf)
      const isNearer = heightOf(rest) - room <= room
      if (cut === rest.length || (cut === 0 && (filled === 0 || isNearer))) break
      if (cut > 0) put(of, rest.slice(0, cut), rest.length < things.length)
      rest = rest.slice(cut)
      const left = heightOf(rest) + chapters.slice(at + 1).reduce((lines, c) => lines + heightOf(c.things), 0)
      aim = left / (count - columns.length)
      filled = 0
      columns.push([])
    }
    put(of, rest, rest.length < things.length)
  })
  return columns
}

/** How many of these stand in a column with so much room; 0 where the cut would leave too few together. */
function cutAt<T>(things: readonly T[], roomLines: number, linesOf: (thing: T) => number): number {
  let [lines, fit] = [0, 0]
  for (const thing of things) {
    const more = linesOf(thing)
    // Half of a line more or less does not show.
    if (lines + more / 2 > roomLines) break
    lines += more
    fit += 1
  }
  if (fit === things.length) return fit
  const cut = Math.min(fit, things.length - LEAST_TOGETHER)
  return cut < LEAST_TOGETHER ? 0 : cut
}

const TWO_PX = 1180
const THREE_PX = 1800
const subscribe = (listener: () => void) => {
  window.addEventListener('resize', listener)
  return () => window.removeEventListener('resize', listener)
}

/** How many columns the page has room for. */
export const useColumnCount = (): number =>
  useSyncExternalStore(subscribe, () => (window.innerWidth >= THREE_PX ? 3 : window.innerWidth >= TWO_PX ? 2 : 1))
