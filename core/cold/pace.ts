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
  const work = { uaWPerK: p.uaWPerK, powerW: p.stirringPowerW }
  const still = { uaWPerK: Math.min(p.uaWPerK, REST_UA_W_PER_K), powerW: 0 }
  const stretches: Stretch[] = []
  const add = (stretch: Omit<Stretch, 'durationS'>, durationS: number) => {
    if (durationS > 0) stretches.push({ durationS, uaWPerK: stretch.uaWPerK, powerW: stretch.powerW })
  }
  add(still, waitS)
  if (!(restS > 0)) add(work, p.durationS)
  else
    for (let burst = 0; burst < bursts; burst++) {
      if (burst > 0) add(still, restS)
      add(work, p.durationS / bursts)
    }
  return stretches
}

/** From the first ice to the last burst, s. */
export function clockSOf(p: StageParameters): number {
  return stretchesOf(p).reduce((sum, s) => sum + s.durationS, 0)
}
