/** One person's hand, measured: how far off it pours on average, and how much it scatters. */

import { tFor90Pct } from '../solve/index.ts'
import type { TestPour } from './practiceSchema.ts'

/** A figure with where it lies in nine of ten. */
export interface Between {
  value: number
  low: number
  high: number
}

export interface Hand {
  /** Pours that count. */
  count: number
  /** Too much (more than 0) or too little, as a part of what is wanted. */
  biasFraction: Between
  /** Standard deviation, as a part of what is wanted. */
  scatterFraction: Between
  /** Of what is counted in dashes, ml: bias and scatter; undefined where none were poured. */
  dash?: { biasMl: number; scatterMl: number; count: number }
}

/** Less than this is dashed, not poured, ml. */
const DASH_ML = 3
export const LEAST_POURS = 4

/**
 * Quantile of chi square, by Wilson and Hilferty (1931), The distribution of chi-square, PNAS 17, 684: within 1 % from four
 * degrees of freedom on.
 * @param z quantile of the standard normal
 */
function chiSquare(degrees: number, z: number): number {
  const a = 2 / (9 * degrees)
  return degrees * (1 - a + z * Math.sqrt(a)) ** 3
}
const Z_95 = 1.644854

const mean = (all: readonly number[]) => all.reduce((sum, x) => sum + x, 0) / all.length
function deviation(all: readonly number[]): number {
  const m = mean(all)
  return Math.sqrt(all.reduce((sum, x) => sum + (x - m) ** 2, 0) / (all.length - 1))
}

/**
 * A hand from its test pours; intervals of nine in ten, by Student's t for the bias and by chi square for the scatter.
 * @returns undefined with fewer than four pours: they would say anything
 */
export function handOf(pours: readonly TestPour[]): Hand | undefined {
  const large = pours.filter((p) => p.wantedMl >= DASH_ML)
  if (large.length < LEAST_POURS) return undefined
  const off = large.map((p) => p.gotMl / p.wantedMl - 1)
  const n = off.length
  const bias = mean(off)
  const scatter = deviation(off)
  const half = (tFor90Pct(n - 1) * scatter) / Math.sqrt(n)
  const times = (z: number) => Math.sqrt((n - 1) / Math.max(1e-9, chiSquare(n - 1, z)))
  const dashes = pours.filter((p) => p.wantedMl < DASH_ML).map((p) => p.gotMl - p.wantedMl)
  return {
    count: n,
    biasFraction: { value: bias, low: bias - half, high: bias + half },
    scatterFraction: { value: scatter, low: scatter * times(Z_95), high: scatter * times(-Z_95) },
    ...(dashes.length >= 2
      ? { dash: { biasMl: mean(dashes), scatterMl: deviation(dashes), count: dashes.length } }
      : {}),
  }
}

/** Whether a hand is off at all, or only seems so. */
export const isBiased = ({ biasFraction: { low, high } }: Hand): boolean => low > 0 || high < 0

/** Test pours of one person, one after the other. */
export interface Sitting {
  /** ISO moment. */
  at: string
  pours: readonly TestPour[]
}

/** So many sittings say what a hand is now: older ones are how it was. */
const NEWEST = 3

/** The sittings that say what a hand is now. @param sittings the oldest first */
export const newestSittings = <T extends Sitting>(sittings: readonly T[]): T[] => sittings.slice(-NEWEST)

/** A hand by its last sittings. @param sittings the oldest first */
export function handNow(sittings: readonly Sitting[]): { hand: Hand; at: string } | undefined {
  const last = newestSittings(sittings)
  const hand = handOf(last.flatMap((s) => s.pours))
  const at = last.at(-1)?.at
  return hand && at ? { hand, at } : undefined
}
