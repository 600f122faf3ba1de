/** A short sound and a shake of the tablet when the clock enters its window, reaches its seconds, or leaves it. Both can be off. */

import { flagSchema, readStored, writeStored } from '../../app/stored.ts'
import { followed } from '../../ui/followed.ts'

const STORE = 'conch:rail-quiet'
export const isQuiet = followed(readStored(STORE, flagSchema) ?? false)

export function setQuiet(quiet: boolean): void {
  writeStored(STORE, quiet || undefined)
  isQuiet.set(quiet)
}

export type Signal = 'in' | 'now' | 'long'
const TONES: Record<Signal, { hz: number; times: number }> = {
  in: { hz: 660, times: 1 },
  now: { hz: 880, times: 2 },
  long: { hz: 330, times: 3 },
}
const TONE_S = 0.12
let context: AudioContext | undefined

/** @param signal what the clock has come to */
export function signal(signal: Signal): void {
  if (isQuiet.now()) return
  const { hz, times } = TONES[signal]
  navigator.vibrate?.(Array.from({ length: times * 2 - 1 }, (_, i) => (i % 2 === 0 ? 120 : 80)))
  try {
    context ??= new AudioContext()
    for (let i = 0; i < times; i++) {
      const tone = context.createOscillator()
      const loudness = context.createGain()
      const at = context.currentTime + i * TONE_S * 1.7
      tone.frequency.value = hz
      loudness.gain.setValueAtTime(0.25, at)
      loudness.gain.exponentialRampToValueAtTime(0.001, at + TONE_S)
      tone.connect(loudness).connect(context.destination)
      tone.start(at)
      tone.stop(at + TONE_S)
    }
  } catch {
    // A browser without sound: the window is in colour.
  }
}
