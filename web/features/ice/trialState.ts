/** A trial in the making: what is on the sheet, as plain data that survives a reload. */

import type { AddTrial } from '@conch/contract'
import { type IceKind, METHODS } from '@conch/core/cold'
import { bySlug, type HouseBook } from '@conch/core/house'
import { iceKindSchema } from '@conch/core/house/schema'
import type { TrialRequest } from '@conch/core/trials'
import { z } from 'zod'

const number = z.number().optional()
export const trialInMakingSchema = z.object({
  well: z.string(),
  station: z.string(),
  /** Empty: a test liquid. */
  drink: z.string(),
  version: z.number().optional(),
  figures: z.object({ abvPct: z.number(), sugarGPer100Ml: z.number(), acidGPer100Ml: z.number() }),
  liquidBeforeG: number,
  beforeC: number,
  ice: z.array(z.object({ kind: iceKindSchema, massG: z.number().optional() })),
  iceC: number,
  vesselC: number,
  speed: z.string().optional(),
  /** When the clock was started, ms; while it runs. */
  startedAtMs: number,
  durationS: number,
  bursts: z.number(),
  restS: z.number(),
  waitS: z.number(),
  afterG: number,
  afterC: number,
  iceLeftG: number,
  note: z.string(),
})
export type TrialInMaking = z.infer<typeof trialInMakingSchema>

export function emptyTrial(well: string, station: string, ice: readonly IceKind[]): TrialInMaking {
  return {
    well,
    station,
    drink: '',
    version: undefined,
    figures: { abvPct: 20, sugarGPer100Ml: 8, acidGPer100Ml: 1 },
    ice: ice.map((kind) => ({ kind, massG: undefined })),
    bursts: 1,
    restS: 0,
    waitS: 0,
    note: '',
  }
}

/** What every part of the sheet is about. */
export interface TrialProps {
  trial: TrialInMaking
  set: (change: Partial<TrialInMaking>) => void
}

/** The ice that a station is usually worked with: what it was calibrated with, else its method's. */
export function usualIceAt(book: HouseBook, wellSlug: string, stationSlug: string): IceKind[] {
  const station = bySlug(bySlug(book.wells, wellSlug)?.stations ?? [], stationSlug)
  if (!station) return ['crushed']
  const known = book.calibrations?.find((c) => c.well === wellSlug && c.station === stationSlug)
  const kinds = METHODS[station.method].usual.ice.map((p) => p.kind)
  return known && !kinds.includes(known.ice) ? [known.ice, ...kinds.slice(1)] : kinds
}

/** What is sent, or the first thing that is still to do. */
export function toTrialRequest(t: TrialInMaking): { ok: true; request: AddTrial } | { ok: false; next: TrialStep } {
  const { liquidBeforeG, durationS, afterG } = t
  if (liquidBeforeG === undefined) return { ok: false, next: 'before' }
  if (t.ice.length === 0 || t.ice.some((p) => p.massG === undefined)) return { ok: false, next: 'ice' }
  if (durationS === undefined) return { ok: false, next: 'work' }
  if (afterG === undefined) return { ok: false, next: 'after' }
  const known = <K extends string>(key: K, value: number | string | undefined) =>
    (value === undefined || value === '' ? {} : { [key]: value }) as Partial<AddTrial>
  return {
    ok: true,
    request: {
      well: t.well,
      station: t.station,
      ...(t.drink === '' ? { figures: t.figures } : { drink: t.drink, version: t.version }),
      liquidBeforeG,
      ice: t.ice.map((p) => ({ kind: p.kind, massG: p.massG as number })),
      durationS,
      ...(t.bursts > 1 ? { bursts: t.bursts, restS: t.restS } : {}),
      ...(t.waitS > 0 ? { waitS: t.waitS } : {}),
      afterG,
      ...known('beforeC', t.beforeC),
      ...known('iceC', t.iceC),
      ...known('vesselC', t.vesselC),
      ...known('speed', t.speed),
      ...known('afterC', t.afterC),
      ...known('iceLeftG', t.iceLeftG),
      ...known('note', t.note.trim()),
    },
  }
}

/** In the order in which they are done. */
export type TrialStep = 'before' | 'ice' | 'work' | 'after'

/** A clock's seconds, to a tenth: no thumb is faster. */
export const clockS = (startedAtMs: number, nowMs: number): number => Math.round((nowMs - startedAtMs) / 100) / 10

/** Stands for what is not there yet, so that what is there can be judged: no drink is far from it. */
const MEANWHILE = { liquidBeforeG: 100, iceG: 100, durationS: 5, afterTimes: 1.2 }

/** The trial as far as it is made: for saying at once what cannot be, and what stands for a temperature. */
export function provisionalRequest(t: TrialInMaking): TrialRequest {
  const liquidBeforeG = t.liquidBeforeG ?? MEANWHILE.liquidBeforeG
  const { well, station, speed, afterC, iceLeftG, beforeC, iceC, vesselC } = t
  return {
    well,
    station,
    ...(t.drink === '' ? { figures: t.figures } : { drink: t.drink }),
    liquidBeforeG,
    ice: t.ice.map((p) => ({ kind: p.kind, massG: p.massG ?? MEANWHILE.iceG })),
    durationS: t.durationS ?? MEANWHILE.durationS,
    afterG: t.afterG ?? liquidBeforeG * MEANWHILE.afterTimes,
    speed,
    afterC,
    iceLeftG,
    beforeC,
    iceC,
    vesselC,
  }
}
