/**
 * The surface of melting ice. It is bathed in its own meltwater: what is dissolved reaches it more slowly than heat
 * does, so it is warmer than the freezing point of the liquid around, by more the faster it melts. Film theory with one
 * constant, the ratio of the conductances of heat and of solute.
 */

import { HEAT_CAPACITY_J_PER_G_K, LATENT_HEAT_J_PER_G } from '../liquid/index.ts'

/**
 * Conductance of heat over conductance of solute at a surface, J/(g·K): c_p·Leⁿ with Le = 120 to 220 (heat over ethanol
 * diffusivity in water, 25 to 0 °C), n = 2/3 at a still film (100 to 150), 1/2 where knocks renew it (45 to 60);
 * tempered for scouring. 20 to 110 are plausible.
 */
export const FILM_J_PER_G_K = 40
/** Between these a computed minute in the hand is taken to be right, J/(g·K). */
export const FILM_RANGE_J_PER_G_K = { low: 20, high: 60 } as const

const WATER = HEAT_CAPACITY_J_PER_G_K.water
const ICE = HEAT_CAPACITY_J_PER_G_K.ice

/** What freezes above this is water: its ice is at 0 °C however fast it melts. */
const PURE_C = -1e-9

/** Of the root, absolutely; of the scale that roots have, where they are small. */
const TOLERANCE = 1e-12
const MOST_STEPS = 100
/** From a near guess: as many steps of Halley's, the last of them no longer than this. */
const NEAR_STEPS = 6
const NEAR = 1e-3
/** Over less than this {@link expNear} is the exponential to 1e-9. */
const SHORT = 0.2

/** Where liquid and core are, °C, and how well the core conducts beside the liquid. */
export interface AtSurface {
  liquidC: number
  coreC: number
  /** Of the liquid around. */
  freezingPointC: number
  /** Conductance to the core over conductance to the liquid. */
  coreRatio: number
}

/** Heat that a gram takes in on melting at the surface, having been ice at the core's temperature, J/g. */
export const meltingHeatJPerG = (surfaceC: number, coreC: number): number =>
  LATENT_HEAT_J_PER_G + WATER * surfaceC - ICE * coreC

/** The surface of ice that melts at this u: T_f·e^(−u), °C. */
export const surfaceCOf = (freezingPointC: number, u: number): number =>
  freezingPointC > PURE_C ? 0 : freezingPointC * Math.exp(-u)

/** The same where u is the root: what heat comes in melts u, and melt is warmed or cooled to the surface. */
export const surfaceCAtRoot = ({ liquidC, coreC, coreRatio }: AtSurface, u: number, filmJPerGK: number): number =>
  (filmJPerGK * (liquidC + coreRatio * coreC) - u * (LATENT_HEAT_J_PER_G - ICE * coreC)) /
  (filmJPerGK * (1 + coreRatio) + u * WATER)

/** A root, and how much its melt thins what is dissolved at the surface: e^(−u). */
export interface MeltingRoot {
  u: number
  thinning: number
}

/**
 * How fast ice melts, as u = rate / (conductance of heat / film ratio); negative when liquid freezes onto it. The surface
 * is at T_f·e^(−u). One falling function, one root.
 * @param guess a root that may be near
 * @returns NaN when it was not found: the caller has to say so
 */
export function solveMelting(at: AtSurface, guess = 0, filmJPerGK = FILM_J_PER_G_K): number {
  const root = { u: guess, thinning: Math.exp(-guess) }
  followMelting(at, root, filmJPerGK)
  return root.u
}

/**
 * Moves a root from where it was a moment ago to where it is now, as {@link solveMelting} finds it: Halley's method, one or
 * two steps, kept within a bracket where that does not come to it. The exponential is carried along, being asked by the million.
 */
export function followMelting(at: AtSurface, root: MeltingRoot, filmJPerGK: number): void {
  const { liquidC, coreC, freezingPointC, coreRatio } = at
  if (freezingPointC > PURE_C) {
    root.u = (filmJPerGK * (liquidC + coreRatio * coreC)) / meltingHeatJPerG(0, coreC)
    root.thinning = Math.exp(-root.u)
    return
  }
  const whole = 1 + coreRatio
  const heatC = liquidC + coreRatio * coreC
  const dry = (LATENT_HEAT_J_PER_G - ICE * coreC) / filmJPerGK
  const perK = WATER / filmJPerGK
  const near = NEAR * Math.min(1, (filmJPerGK * whole) / LATENT_HEAT_J_PER_G)
  let { u, thinning } = root
  for (let step = 0; step < NEAR_STEPS; step++) {
    const surfaceC = freezingPointC * thinning
    const warmed = perK * surfaceC
    const f = heatC - whole * surfaceC - u * (dry + warmed)
    const slope = whole * surfaceC - dry - warmed + u * warmed
    const bend = 2 * warmed - whole * surfaceC - u * warmed
    const moved = (2 * f * slope) / (2 * slope * slope - f * bend)
    u -= moved
    thinning = Math.abs(moved) < SHORT ? thinning * expNear(moved) : Math.exp(-u)
    // A step of Halley's leaves an error of the cube of itself, and less.
    if (Math.abs(moved) < near) {
      root.u = u
      root.thinning = thinning
      return
    }
  }
  root.u = solveFromAfar(at, filmJPerGK)
  root.thinning = Math.exp(-root.u)
}

/** The exponential of little, by its first terms. */
const expNear = (x: number): number =>
  1 + x * (1 + x * (1 / 2 + x * (1 / 6 + x * (1 / 24 + x * (1 / 120 + x * (1 / 720))))))

function solveFromAfar({ liquidC, coreC, freezingPointC, coreRatio }: AtSurface, filmJPerGK: number): number {
  const heatC = liquidC + coreRatio * coreC
  const whole = 1 + coreRatio
  const first = (filmJPerGK * (heatC - whole * freezingPointC)) / meltingHeatJPerG(freezingPointC, coreC)
  if (first === 0) return first
  let low = Math.min(0, first)
  let high = Math.max(0, first)
  if (first < 0) low = Math.max(low, Math.log((freezingPointC * whole) / heatC))
  const least = TOLERANCE * Math.min(1, (filmJPerGK * whole) / LATENT_HEAT_J_PER_G)
  let u = (low + high) / 2
  for (let step = 0; step < MOST_STEPS; step++) {
    const surfaceC = surfaceCOf(freezingPointC, u)
    const latent = meltingHeatJPerG(surfaceC, coreC)
    const f = heatC - whole * surfaceC - (u / filmJPerGK) * latent
    if (f > 0) low = u
    else high = u
    const slope = whole * surfaceC - (latent - WATER * u * surfaceC) / filmJPerGK
    const next = u - f / slope
    const isWithin = next >= low && next <= high
    const moved = isWithin ? next : (low + high) / 2
    if (Math.abs(moved - u) <= least || high - low <= least) return moved
    u = moved
  }
  return Number.NaN
}
