/** Random numbers that are the same for the same seed, in browser and server. */
export interface Seeded {
  /** Evenly from 0 up to, not including, 1. */
  uniform: () => number
  /** Mean 0, standard deviation 1. */
  normal: () => number
}

/** Mulberry32 for the even ones, Box and Muller (1958) for the normal ones. */
export function seededRandom(seed: number): Seeded {
  let state = seed >>> 0
  const uniform = () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = state
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
  const normal = () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform())
  return { uniform, normal }
}
