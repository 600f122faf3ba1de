/**
 * How far figures go that people write: said once, for the schema that holds a document, for the field in which it is
 * typed, and for what is read from tables. Wide enough for every bar; narrow enough that a slip of the finger is refused.
 */

import { z } from 'zod'

export interface Range {
  low: number
  high: number
}

const range = (low: number, high: number): Range => ({ low, high })

export const RANGES = {
  // What is in a liquid.
  abvPct: range(0, 100),
  sugarGPer100Ml: range(0, 130),
  acidGPer100Ml: range(0, 100),
  fatGPer100Ml: range(0, 92),
  brix: range(0, 85),
  pH: range(0, 14),
  frothMlPerMl: range(0, 3),
  densityGPerMl: range(0.7, 1.6),
  // How a drink is made.
  serves: range(1, 12),
  bursts: range(1, 10),
  restS: range(0, 60),
  iceWaitS: range(0, 300),
  durationS: range(0, 120),
  /** Ends of a window, in the unit of its measure. */
  windowEnd: range(-50, 5000),
  // The ice, the gear, the room.
  iceG: range(0, 2000),
  scoopG: range(1, 2000),
  iceTemperatureC: range(-40, 0),
  surfaceWaterFraction: range(0, 0.6),
  packedSolidFraction: range(0.2, 1),
  uaWPerK: range(0, 2000),
  powerW: range(0, 2000),
  vesselJPerK: range(0, 5000),
  vesselC: range(-40, 60),
  leakWPerK: range(0, 50),
  speedTimes: range(0.1, 10),
  /** Liquid and ice that a tin works with, ml. */
  holdsMl: range(50, 5000),
  handOverS: range(0, 120),
  wellRoomC: range(-10, 45),
  trialG: range(0, 5000),
  trialC: range(-30, 60),
  // A glass.
  wallHeightMm: range(0, 600),
  stemMm: range(0, 200),
  glassJPerK: range(0, 2000),
  // A mix, and a lot of it.
  lossFraction: range(0, 0.9),
  stepC: range(-30, 200),
  stepMinutes: range(0, 7 * 24 * 60),
  mixKeepsDays: range(0, 730),
  bottleKeepsDays: range(0, 3650),
  batchG: range(0, 200_000),
  // The house.
  ounceMl: range(25, 35),
  barSpoonMl: range(0.5, 10),
  dashMl: range(0.1, 3),
  dropMl: range(0.01, 0.3),
  sprayMl: range(0.02, 0.5),
  teaspoonMl: range(3, 7),
  tablespoonMl: range(10, 25),
  cupMl: range(150, 300),
  countMl: range(2, 20),
  standardDrinkG: range(6, 20),
  standardDrinksLimit: range(0.5, 10),
  overproofPct: range(40, 80),
  juiceHours: range(1, 96),
  fridgeC: range(-5, 12),
  freezerC: range(-40, -5),
  keepBackupsDays: range(1, 3650),
  /** Without a touch; 0: never. */
  idleLockMinutes: range(0, 240),
  price: range(0, 100_000),
  // How far a target moves at once.
  noteSweet: range(0.1, 3),
  noteSour: range(0.01, 0.3),
  noteStrength: range(0.1, 3),
  standInSteps: range(0.1, 10),
  standInWeight: range(0, 10),
} as const satisfies Record<string, Range>

/** A number in one of them. */
export const within = ({ low, high }: Range) => z.number().min(low).max(high)

/** A whole number in one of them. */
export const wholeWithin = ({ low, high }: Range) => z.number().int().min(low).max(high)

/** A range in another unit: a fraction as per cent. */
export const times = ({ low, high }: Range, by: number): Range => ({ low: low * by, high: high * by })
