import type { StyleAxis } from './axes.ts'

/** Where something lies on one line: what all tasters say together, and how far apart they are. */
export interface StyleReading {
  value: number
  low: number
  high: number
  tasters: number
}

/** Where something lies on the lines that anybody placed it on. */
export type StyleProfile = Partial<Record<StyleAxis, StyleReading>>
