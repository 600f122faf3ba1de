/** A lot in the making: what is on the sheet, as plain data that survives a reload. */

import type { MakeLot } from '@conch/contract'
import type { BatchSize } from '@conch/core/formula'
import { z } from 'zod'

const sizeSchema: z.ZodType<BatchSize> = z.union([
  z.object({ to: z.literal('yieldMl'), volumeMl: z.number() }),
  z.object({ to: z.literal('yieldG'), massG: z.number() }),
  z.object({ to: z.literal('drinks'), count: z.number(), pourMl: z.number() }),
  z.object({ to: z.literal('bottles'), count: z.number(), bottleMl: z.number() }),
  z.object({
    to: z.literal('tonight'),
    drinks: z.array(z.object({ name: z.string(), count: z.number(), pourMl: z.number() })),
  }),
  z.object({ to: z.literal('left'), ingredient: z.string(), massG: z.number() }),
])

export const lotInMakingSchema = z.object({
  size: sizeSchema,
  /** What the scale said, g, by the component's slug. */
  weighedG: z.record(z.string(), z.number()),
  measured: z
    .object({
      massG: z.number(),
      volumeMl: z.number(),
      brix: z.number(),
      abvPct: z.number(),
      acidGPer100Ml: z.number(),
      pH: z.number(),
    })
    .partial(),
  fruitCount: z.number().optional(),
  fruitSize: z.string().optional(),
  note: z.string(),
})
export type LotInMaking = z.infer<typeof lotInMakingSchema>

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
