import { REST_UA_W_PER_K } from './methods.ts'
import type { StageParameters } from './stage.ts'

/** A stretch of work, of rest or of waiting. */
export interface Stretch {
  durationS: number
  uaWPerK: number
  powerW: number
}

/** Stretches of waiting, work and rest, in order: the seconds of work are split evenly over the bursts. */
export function stretchesOf(p: StageParameters): Stretch[] {
  const bursts = Math.max(1, Math.round(p.bursts ?? 1))
  const { restS = 0, waitS = 0 } = p
  const work = { durationS: p.durationS / bursts, uaWPerK: p.uaWPerK, powerW: p.stirringPowerW }
  const still = { uaWPerK: Math.min(p.uaWPerK, REST_UA_W_PER_K), powerW: 0 }
  const burstsAndRests =
    restS > 0
      ? Array.from({ length: bursts }, (_, i) => (i === 0 ? [work] : [{ ...still, durationS: restS }, work])).flat()
      : [{ ...work, durationS: p.durationS }]
  return [{ ...still, durationS: waitS }, ...burstsAndRests].filter((s) => s.durationS > 0)
}

/** From the first ice to the last burst, s. */
export function clockSOf(p: StageParameters): number {
  return stretchesOf(p).reduce((sum, s) => sum + s.durationS, 0)
}
