import type { ReactNode } from 'react'
import { useSyncExternalStore } from 'react'
import { z } from 'zod'
import { readStored, writeStored } from '../app/stored.ts'

/** From which width of the page on a column is shown unless somebody says otherwise, px. */
const WIDTHS_PX = { sm: 640, md: 768, lg: 1024, xl: 1280 } as const

export interface ListColumn<R> {
  id: string
  label: string
  /** What the house sorts by; left out: not by this. */
  sort?: string
  /** Largest first when it is pressed for the first time. */
  isDownFirst?: boolean
  /** A column of a CSS grid. */
  width: string
  isRight?: boolean
  from?: keyof typeof WIDTHS_PX
  /** Only for whoever asks for it. */
  isExtra?: boolean
  cell: (row: R) => ReactNode
  /** The same in a file. */
  csv: (row: R) => string | number
}

const keptSchema = z.object({
  columns: z.record(z.string(), z.boolean()).default({}),
  sort: z.string().optional(),
  down: z.boolean().optional(),
})
/** How somebody wants a list on this device. */
export type KeptList = z.infer<typeof keptSchema>

const keyOf = (list: string) => `conch:list:${list}`
export const readKept = (list: string): KeptList => readStored(keyOf(list), keptSchema) ?? { columns: {} }
export const writeKept = (list: string, kept: KeptList) => writeStored(keyOf(list), kept)

const subscribe = (listener: () => void) => {
  window.addEventListener('resize', listener)
  return () => window.removeEventListener('resize', listener)
}

/** Which of these widths the page has. */
export function useWidth(): number {
  return useSyncExternalStore(subscribe, () =>
    Math.max(0, ...Object.values(WIDTHS_PX).filter((px) => window.innerWidth >= px)),
  )
}

export const isShownAt = <R>(column: ListColumn<R>, widthPx: number, chosen: boolean | undefined): boolean =>
  chosen ?? (!column.isExtra && (column.from === undefined || widthPx >= WIDTHS_PX[column.from]))
