/** A trial in the making: what is on the sheet, as plain data that survives a reload. */

import type { AddTrial } from '@conch/contract'
import type { IceKind } from '@conch/core/cold'

export interface TrialInMaking {
  well: string
  station: string
  /** Empty: a test liquid. */
  drink: string
  version: number | undefined
  figures: { abvPct: number; sugarGPer100Ml: number; acidGPer100Ml: number }
  liquidBeforeG?: number | undefined
  beforeC?: number | undefined
  ice: { kind: IceKind; massG: number | undefined }[]
  iceC?: number | undefined
  vesselC?: number | undefined
  speed?: string | undefined
  /** When the clock was started, ms; while it runs. */
  startedAtMs?: number | undefined
  durationS?: number | undefined
  bursts: number
  restS: number
  waitS: number
  afterG?: number | undefined
  afterC?: number | undefined
  iceLeftG?: number | undefined
  note: string
}

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
