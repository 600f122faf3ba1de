import type { Lot } from '../lots/lotSchema.ts'

/** Acid of a lot as it ages: each reading with its age, and by how much it changed an hour. */
export interface AcidCurve {
  /** Hours from when it was made, or from the first reading where nobody wrote that down. */
  points: { ageH: number; acidGPer100Ml: number }[]
  /** Between the first and the last reading, g/100 ml an hour. */
  perHour: number
}

const MS_PER_H = 3_600_000
/** Two readings closer than this are one, h. */
const APART_H = 0.25

/** The acid readings of a lot against its age. Undefined with fewer than two at different times: one says nothing of ageing. */
export function acidCurveOf(lot: Lot): AcidCurve | undefined {
  const readings = lot.events.flatMap(({ at, event }) =>
    event.kind === 'measured' && event.measured.acidGPer100Ml !== undefined
      ? [{ atMs: Date.parse(at), acidGPer100Ml: event.measured.acidGPer100Ml }]
      : [],
  )
  readings.sort((a, b) => a.atMs - b.atMs)
  const [first] = readings
  const last = readings[readings.length - 1]
  if (!first || !last || last.atMs - first.atMs < APART_H * MS_PER_H) return undefined
  const fromMs = lot.document.madeAt === undefined ? first.atMs : Date.parse(lot.document.madeAt)
  return {
    points: readings.map(({ atMs, acidGPer100Ml }) => ({ ageH: (atMs - fromMs) / MS_PER_H, acidGPer100Ml })),
    perHour: ((last.acidGPer100Ml - first.acidGPer100Ml) * MS_PER_H) / (last.atMs - first.atMs),
  }
}
