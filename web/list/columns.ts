import type { ReactNode } from 'react'
import { z } from 'zod'
import { readStored, writeStored } from '../app/stored.ts'
import { WIDTHS_PX } from '../ui/useWidth.ts'

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
  /** From which width of the page on it is shown unless somebody says otherwise. */
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

export const isShownAt = <R>(column: ListColumn<R>, widthPx: number, chosen: boolean | undefined): boolean =>
  chosen ?? (!column.isExtra && (column.from === undefined || widthPx >= WIDTHS_PX[column.from]))
