import type { IcePortion } from './ice.ts'

/** How a stage ends: what becomes of the ice. */
export const POURS = {
  open: { label: 'open pour', sentence: 'open pour, all the ice comes along', iceThroughFraction: 1 },
  gated: { label: 'gated pour', sentence: 'gated pour, big pieces stay behind', iceThroughFraction: 0.4 },
  strained: { label: 'strain', sentence: 'strain off the ice', iceThroughFraction: 0 },
  doubleStrained: { label: 'double strain', sentence: 'double strain', iceThroughFraction: 0 },
} as const satisfies Record<string, { label: string; sentence: string; iceThroughFraction: number }>

export type Pour = keyof typeof POURS

/** A method of chilling before calibration: what the gear does, and what is usual with it. */
export interface MethodPreset {
  label: string
  uaWPerK: number
  stirringPowerW: number
  vesselJPerK: number
  leakWPerK: number
  /** The chilling happens in the serving glass itself. */
  inGlass: boolean
  usual: { ice: readonly IcePortion[]; durationS: number; pour: Pour }
}

const crushed = (massG: number): IcePortion => ({ kind: 'crushed', massG })
const cubes = (massG: number): IcePortion => ({ kind: 'machineCube', massG })

export const METHODS = {
  hardShake: {
    label: 'hard shake',
    uaWPerK: 120,
    stirringPowerW: 15,
    vesselJPerK: 150,
    leakWPerK: 0.5,
    inGlass: false,
    usual: { ice: [cubes(180)], durationS: 12, pour: 'strained' },
  },
  crushedShake: {
    label: 'crushed shake',
    uaWPerK: 160,
    stirringPowerW: 15,
    vesselJPerK: 150,
    leakWPerK: 0.5,
    inGlass: false,
    usual: { ice: [crushed(180)], durationS: 6, pour: 'open' },
  },
  whipShake: {
    label: 'whip shake',
    uaWPerK: 90,
    stirringPowerW: 15,
    vesselJPerK: 120,
    leakWPerK: 0.5,
    inGlass: false,
    usual: { ice: [{ kind: 'pebble', massG: 45 }], durationS: 12, pour: 'open' },
  },
  flashBlend: {
    label: 'flash blend',
    uaWPerK: 260,
    stirringPowerW: 120,
    vesselJPerK: 150,
    leakWPerK: 0.5,
    inGlass: false,
    usual: { ice: [crushed(120), cubes(50)], durationS: 4, pour: 'open' },
  },
  fullBlend: {
    label: 'full blend',
    uaWPerK: 400,
    stirringPowerW: 250,
    vesselJPerK: 250,
    leakWPerK: 0.5,
    inGlass: false,
    usual: { ice: [crushed(180)], durationS: 15, pour: 'open' },
  },
  swizzle: {
    label: 'swizzle',
    uaWPerK: 60,
    stirringPowerW: 3,
    vesselJPerK: 120,
    leakWPerK: 0.3,
    inGlass: true,
    usual: { ice: [crushed(200)], durationS: 12, pour: 'open' },
  },
  stir: {
    label: 'stir',
    uaWPerK: 14,
    stirringPowerW: 1,
    vesselJPerK: 200,
    leakWPerK: 0.3,
    inGlass: false,
    usual: { ice: [cubes(180)], durationS: 35, pour: 'strained' },
  },
  build: {
    label: 'build',
    uaWPerK: 4,
    stirringPowerW: 0,
    vesselJPerK: 100,
    leakWPerK: 0.1,
    inGlass: true,
    usual: { ice: [cubes(150)], durationS: 5, pour: 'open' },
  },
} as const satisfies Record<string, MethodPreset>

export type Method = keyof typeof METHODS

/** Relative uncertainty of dilution on a station nobody has calibrated. */
export const UNCALIBRATED_DILUTION_UNCERTAINTY_FRACTION = 0.15

/** Conductance of a drink resting in its glass on ice, W/K. */
export const REST_UA_W_PER_K = METHODS.build.uaWPerK
