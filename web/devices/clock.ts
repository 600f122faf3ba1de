/**
 * The clock that chills are counted by. It ships with a simulator that runs faster, to practise with; a real one on the wall is
 * another object of this shape.
 */

import { followed } from '../ui/followed.ts'

export interface BarClock {
  nowMs: () => number
}

interface Running {
  /** How many times as fast as the device's own. */
  times: number
  /** When it was set so, by the device's clock and by itself, ms. */
  realMs: number
  shownMs: number
}

/** How fast it runs; 1 is the time of day. */
export const clockSpeed = followed(1)
let running: Running | undefined

/** @param realNowMs the device's own clock, for tests */
export function clockAt(realNowMs: number): number {
  return running ? running.shownMs + (realNowMs - running.realMs) * running.times : realNowMs
}

/** Faster from now on; 1: the time of day again. */
export function setClockSpeed(times: number, realNowMs = Date.now()): void {
  running = times === 1 ? undefined : { times, realMs: realNowMs, shownMs: clockAt(realNowMs) }
  clockSpeed.set(times)
}

export const barClock: BarClock = { nowMs: () => clockAt(Date.now()) }
