import type { IcePortion } from './ice.ts'

/**
 * How a stage ends: what becomes of the ice, what stays as a film on tin and strainer, g (a tin emptied with its ice is shaken out), and how
 * much of a froth goes on. Of ice of a known kind its own figure says how much comes through a gate.
 *
 * Chosen, because nobody published them: films are what a rinsed and weighed tin and strainer hold back; what comes through
 * is by the size of pieces and gaps.
 */
export const POURS = {
  open: {
    label: 'open pour',
    sentence: 'open pour, all the ice comes along',
    iceThroughFraction: 1,
    filmG: 0,
    frothThroughFraction: 1,
  },
  gated: {
    label: 'gated pour',
    sentence: 'gated pour, big pieces stay behind',
    iceThroughFraction: 0.4,
    filmG: 2,
    frothThroughFraction: 0.9,
  },
  strained: {
    label: 'strain',
    sentence: 'strain off the ice',
    iceThroughFraction: 0,
    filmG: 2.5,
    frothThroughFraction: 0.8,
  },
  doubleStrained: {
    label: 'double strain',
    sentence: 'double strain',
    iceThroughFraction: 0,
    filmG: 4,
    frothThroughFraction: 0.3,
  },
} as const satisfies Record<
  string,
  { label: string; sentence: string; iceThroughFraction: number; filmG: number; frothThroughFraction: number }
>

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
  /** How far off the dilution may be on gear that nobody calibrated, as a fraction of itself. */
  uncertaintyFraction: number
  /** A motor does the work, and its clock counts down; else a hand does. */
  isMachine: boolean
  /** Liquid and ice with which such gear still works, ml; undefined: it is the glass. */
  holdsMl: number | undefined
  /** How much of the froth that a juice can make this method raises, 0 to 1. */
  frothing: number
  /** What it is like in the mouth: what no seconds make of another method. */
  texture: string
  usual: { ice: readonly IcePortion[]; durationS: number; pour: Pour }
}

const crushed = (massG: number): IcePortion => ({ kind: 'crushed', massG })
const cubes = (massG: number): IcePortion => ({ kind: 'machineCube', massG })

/**
 * Gear before anybody tried it. Chosen, because no table of it exists: the conductance of the hard shake and of the stir is
 * fitted to the regressions of dilution by strength that bartenders are widely taught (105 ml, 15 to 30 % ABV, 180 g of
 * cubes: 12 s shaken, 30 to 45 s stirred; rms 7.5 and 14 % of the dilution), the others keep what their usual seconds were
 * known to give. What gear holds is two thirds of a usual tin or jar: the rest is the room in which it is thrown about. Power is what motor or arm leaves in the drink, the vessel a tin, jar or glass of its usual weight. Each
 * carries an uncertainty for that, and a few trials say more than all of it.
 */
export const METHODS = {
  hardShake: {
    label: 'hard shake',
    uaWPerK: 210,
    stirringPowerW: 15,
    vesselJPerK: 150,
    leakWPerK: 0.5,
    inGlass: false,
    uncertaintyFraction: 0.15,
    isMachine: false,
    holdsMl: 560,
    frothing: 0.6,
    texture: 'smooth and aerated, no ice in it',
    usual: { ice: [cubes(180)], durationS: 12, pour: 'strained' },
  },
  crushedShake: {
    label: 'crushed shake',
    uaWPerK: 275,
    stirringPowerW: 15,
    vesselJPerK: 150,
    leakWPerK: 0.5,
    inGlass: false,
    uncertaintyFraction: 0.15,
    isMachine: false,
    holdsMl: 560,
    frothing: 0.5,
    texture: 'cold and loose, crushed ice in it',
    usual: { ice: [crushed(180)], durationS: 8, pour: 'open' },
  },
  whipShake: {
    label: 'whip shake',
    uaWPerK: 160,
    stirringPowerW: 15,
    vesselJPerK: 120,
    leakWPerK: 0.5,
    inGlass: false,
    uncertaintyFraction: 0.15,
    isMachine: false,
    holdsMl: 560,
    frothing: 0.7,
    texture: 'light and airy, no ice left',
    usual: { ice: [{ kind: 'pebble', massG: 45 }], durationS: 10, pour: 'open' },
  },
  flashBlend: {
    label: 'flash blend',
    uaWPerK: 450,
    stirringPowerW: 120,
    vesselJPerK: 150,
    leakWPerK: 0.5,
    inGlass: false,
    uncertaintyFraction: 0.15,
    isMachine: true,
    holdsMl: 600,
    frothing: 1.0,
    texture: 'frothy, with fine ice',
    usual: { ice: [crushed(120), cubes(50)], durationS: 4, pour: 'open' },
  },
  fullBlend: {
    label: 'full blend',
    uaWPerK: 700,
    stirringPowerW: 250,
    vesselJPerK: 250,
    leakWPerK: 0.5,
    inGlass: false,
    uncertaintyFraction: 0.15,
    isMachine: true,
    holdsMl: 900,
    frothing: 0.9,
    texture: 'slush',
    usual: { ice: [crushed(180)], durationS: 15, pour: 'open' },
  },
  swizzle: {
    label: 'swizzle',
    uaWPerK: 105,
    stirringPowerW: 3,
    vesselJPerK: 120,
    leakWPerK: 0.3,
    inGlass: true,
    uncertaintyFraction: 0.2,
    isMachine: false,
    holdsMl: undefined,
    frothing: 0.15,
    texture: 'clear, frost on the glass, packed ice',
    usual: { ice: [crushed(200)], durationS: 15, pour: 'open' },
  },
  stir: {
    label: 'stir',
    uaWPerK: 23,
    stirringPowerW: 1,
    vesselJPerK: 200,
    leakWPerK: 0.3,
    inGlass: false,
    uncertaintyFraction: 0.2,
    isMachine: false,
    holdsMl: 450,
    frothing: 0.0,
    texture: 'silky and clear, no air',
    usual: { ice: [cubes(180)], durationS: 35, pour: 'strained' },
  },
  build: {
    label: 'build',
    uaWPerK: 4,
    stirringPowerW: 0,
    vesselJPerK: 100,
    leakWPerK: 0.1,
    inGlass: true,
    uncertaintyFraction: 0.25,
    isMachine: false,
    holdsMl: undefined,
    frothing: 0.0,
    texture: 'as it was poured',
    usual: { ice: [cubes(150)], durationS: 5, pour: 'open' },
  },
} as const satisfies Record<string, MethodPreset>

export type Method = keyof typeof METHODS

/** Relative uncertainty of dilution where not even the method is known. */
export const UNCALIBRATED_DILUTION_UNCERTAINTY_FRACTION = 0.15

/** Conductance of a drink resting in its glass on ice, W/K. */
export const REST_UA_W_PER_K = METHODS.build.uaWPerK
