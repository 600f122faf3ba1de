/** A lot in the making: what is on the sheet, as plain data that survives a reload. */

import type { MakeLot } from '@conch/contract'
import type { BatchSize } from '@conch/core/formula'

export interface LotInMaking {
  size: BatchSize
  /** What the scale said, g, by the component's slug. */
  weighedG: Record<string, number>
  measured: { massG?: number; volumeMl?: number; brix?: number; abvPct?: number; acidGPer100Ml?: number; pH?: number }
  fruitCount?: number
  fruitSize?: string
  note: string
}

export const emptyLot = (size: BatchSize): LotInMaking => ({ size, weighedG: {}, measured: {}, note: '' })

/** What is sent: nothing that was not weighed or measured. */
export function toRequest(
  ingredient: string,
  factor: number,
  lot: LotInMaking,
): Partial<MakeLot> & { ingredient: string } {
  const measured = Object.fromEntries(Object.entries(lot.measured).filter(([, v]) => v !== undefined))
  return {
    ingredient,
    ...(lot.fruitCount === undefined
      ? { factor }
      : { pressed: { fruitCount: lot.fruitCount, ...(lot.fruitSize?.trim() ? { size: lot.fruitSize.trim() } : {}) } }),
    weighed: Object.entries(lot.weighedG).map(([slug, actualG]) => ({ ingredient: slug, actualG })),
    ...(Object.keys(measured).length > 0 ? { measured } : {}),
    ...(lot.note.trim() ? { note: lot.note.trim() } : {}),
  }
}

/** How far a weight is from what was asked, in words; undefined within one per cent or a gram. */
export function offBy(plannedG: number, actualG: number): string | undefined {
  const difference = actualG - plannedG
  if (Math.abs(difference) <= Math.max(1, 0.01 * plannedG)) return undefined
  return `${Math.abs(Math.round(difference))} g ${difference > 0 ? 'too much' : 'too little'}`
}
