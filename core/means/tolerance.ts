import { runStage, type StageParameters } from '../cold/index.ts'
import {
  endStage,
  finishDrink,
  inItsVessel,
  MEASURE_NAMES,
  type MeasureName,
  predict,
  type ResolvedDrink,
  type Standard,
  startDrink,
  uncertaintyOf,
} from '../drink/index.ts'
import { scaleLiquid } from '../liquid/index.ts'
import { keysOf } from '../schema/keysOf.ts'
import { type Seeded, seededRandom } from '../solve/index.ts'
import { type AtSeconds, distanceFrom } from './along.ts'

/** How far a hand is off, as standard deviations. Assumed until a house has measured its own. */
interface Skill {
  label: string
  /** Of a pour: of its volume, and at least so many ml. */
  pourFraction: number
  pourMl: number
  /** Too much or too little on average; left out: neither. */
  pourBiasFraction?: number
  secondsFraction: number
  secondsS: number
  iceFraction: number
}

export const SKILLS = {
  newHand: { label: 'new hand', pourFraction: 0.06, pourMl: 1, secondsFraction: 0.15, secondsS: 0.5, iceFraction: 0.2 },
  trained: {
    label: 'trained hand',
    pourFraction: 0.03,
    pourMl: 0.6,
    secondsFraction: 0.08,
    secondsS: 0.3,
    iceFraction: 0.12,
  },
  steady: {
    label: 'steady hand',
    pourFraction: 0.015,
    pourMl: 0.4,
    secondsFraction: 0.04,
    secondsS: 0.15,
    iceFraction: 0.06,
  },
} as const satisfies Record<string, Skill>
export type SkillName = keyof typeof SKILLS

/** What makes one glass differ from the next. */
export const CAUSES = {
  pours: { label: 'pours', help: 'measure on the meniscus, or batch the base' },
  seconds: { label: 'seconds', help: 'a timer instead of a feeling' },
  ice: { label: 'ice', help: 'a struck scoop instead of a handful' },
  temperature: { label: 'temperature', help: 'bottles and tin from one place, as cold as each other' },
  machine: { label: 'the machine itself', help: 'trials: nobody knows it better yet' },
} as const
export type Cause = keyof typeof CAUSES
const CAUSE_NAMES = keysOf(CAUSES)

/** Of bottles, juices and the tin, K. */
const TEMPERATURE_K = 1.5
/** A calibration's 90 % are so many standard deviations. */
const NINETY_PCT = 1.645
/** Runs for each cause by itself. */
const CAUSE_RUNS = 300
/** Gear this many times as fast, with ice as many times as wet, shows how a drink's dilution answers to it… */
const ASKED_TIMES = 1.1
/** …with at least this power: beyond, ice that is all gone anyway would ask for a machine of any speed. */
const LEAST_POWER = 0.2
/** Step errors may be this many times the usual: hundredths of a gram. */
const COARSENESS = 300

/** A hand as it was measured with jigger and scale: its pours; its seconds and its ice are not known by that. */
export interface MeasuredHand {
  /** Too much or too little on average, as a part of a pour. */
  biasFraction: number
  /** Standard deviation, as a part of a pour. */
  scatterFraction: number
}

export interface ToleranceOptions {
  skill: SkillName
  /** In place of what is assumed of such a hand's pours. */
  hand?: MeasuredHand | undefined
  runs: number
  seed: number
}

export interface CauseEffect {
  cause: Cause
  /** How often the drink would be in its standard if only this varied. */
  aloneInFraction: number
  /** How often, with all the others as they are and this one halved. */
  halvedInFraction: number
  /** Where nine of ten glasses lie when only this varies, of the measure that leaves its band most. */
  low: number
  high: number
}

export interface Tolerance {
  runs: number
  inFraction: number
  /** 90 % of what the true share may be, after so many runs. */
  inLow: number
  inHigh: number
  /** By measure: 5, 50 and 95 in a hundred, and how many glasses are out on either side. */
  measures: Partial<
    Record<MeasureName, { p5: number; p50: number; p95: number; belowFraction: number; aboveFraction: number }>
  >
  /** The measure that leaves its band most often; of a drink that never does, the tightest. */
  leading: MeasureName | undefined
  causes: CauseEffect[]
}

type Scale = Record<Cause, number>
const ALL: Scale = { pours: 1, seconds: 1, ice: 1, temperature: 1, machine: 1 }
const only = (cause: Cause): Scale => ({ pours: 0, seconds: 0, ice: 0, temperature: 0, machine: 0, [cause]: 1 })

/** A drink, and how far off its gear may be, as a factor of conductance and wetness in natural logarithms. */
interface Asked {
  drink: ResolvedDrink
  gearOff: number
}

/** How far off the gear may be that makes the dilution as uncertain as it is, for this drink as it answers to it. */
function asked(drink: ResolvedDrink): Asked {
  const dilutionWith = (times: number) =>
    make({
      ...drink,
      stages: drink.stages.map((s) => ({ ...s, parameters: withGearTimes(s.parameters, times) })),
    }).predictions.dilutionPct?.value ?? Number.NaN
  const answer = dilutionWith(ASKED_TIMES) / dilutionWith(1 / ASKED_TIMES)
  const power = Math.log(answer) / (2 * Math.log(ASKED_TIMES))
  const uncertainty = uncertaintyOf(drink, startDrink(drink).volumeBeforeIceMl)
  return { drink, gearOff: uncertainty / (power > LEAST_POWER ? power : LEAST_POWER) }
}

const WETTEST = 0.6
function withGearTimes(p: StageParameters, times: number): StageParameters {
  return {
    ...p,
    uaWPerK: p.uaWPerK * times,
    ...(p.charges
      ? {
          charges: p.charges.map((c) => ({
            ...c,
            surfaceWaterFraction: Math.min(WETTEST, c.surfaceWaterFraction * times),
          })),
        }
      : {}),
  }
}

/** One making, with what a hand, the ice and the machine add to it. */
function vary({ drink, gearOff }: Asked, skill: Skill, scale: Scale, random: Seeded): ResolvedDrink {
  // Always as many numbers, whatever varies: one making with less of one cause is the same making.
  const pours = drink.pours.map(() => random.normal())
  const [seconds, moreSeconds, ice, serveIce, warm, machine] = Array.from({ length: 6 }, random.normal) as [
    number,
    number,
    number,
    number,
    number,
    number,
  ]
  const offK = scale.temperature * TEMPERATURE_K * warm
  const iceTimes = Math.max(0.1, 1 + scale.ice * skill.iceFraction * ice)
  const serveTimes = Math.max(0, 1 + scale.ice * skill.iceFraction * serveIce)
  return {
    ...drink,
    startTemperatureC: drink.startTemperatureC === undefined ? undefined : drink.startTemperatureC + offK,
    pours: drink.pours.map((p, i) => {
      const sdMl = Math.hypot(skill.pourFraction * p.volumeMl, Math.min(skill.pourMl, p.volumeMl / 4))
      const volumeMl = Math.max(
        0.05 * p.volumeMl,
        p.volumeMl * (1 + scale.pours * (skill.pourBiasFraction ?? 0)) + scale.pours * sdMl * (pours[i] as number),
      )
      const liquid = scaleLiquid(p.liquid, volumeMl / p.volumeMl)
      return { ...p, volumeMl, temperatureC: p.temperatureC + offK, liquid }
    }),
    stages: drink.stages.map((stage) => {
      const off = Math.exp((scale.machine * gearOff * machine) / NINETY_PCT)
      const p = withGearTimes(stage.parameters, off)
      const durationS =
        p.durationS * (1 + scale.seconds * skill.secondsFraction * seconds) +
        scale.seconds * skill.secondsS * moreSeconds
      return {
        ...stage,
        parameters: {
          ...p,
          durationS: Math.max(0.2, durationS),
          vesselTemperatureC: p.vesselTemperatureC + offK,
          iceG: p.iceG * iceTimes,
          ...(p.charges ? { charges: p.charges.map((c) => ({ ...c, massG: c.massG * iceTimes })) } : {}),
        },
      }
    }),
    serveIce: drink.serveIce.map((s) => ({ ...s, massG: s.massG * serveTimes })),
  }
}

/** A making outside the model is in no standard. */
const OUTSIDE = { predictions: {}, overflowMl: Number.POSITIVE_INFINITY }

function make(drink: ResolvedDrink): Pick<AtSeconds, 'predictions' | 'overflowMl'> {
  const start = startDrink(drink)
  const stage = drink.stages[0]
  let inHand: Parameters<typeof finishDrink>[2] = start
  if (stage) {
    const parameters = inItsVessel(stage, drink)
    const ran = runStage(start.mixture, parameters, { coarseness: COARSENESS })
    if (!ran.ok) return OUTSIDE
    inHand = endStage(stage, start, start, { ...ran, durationS: parameters.durationS }).next
  }
  const finished = finishDrink(drink, start, inHand, 1, COARSENESS)
  if (!finished.ok) return OUTSIDE
  const { inHand: last, served } = finished
  return {
    predictions: predict(served, last, start.volumeBeforeIceMl, 0),
    overflowMl: served?.fill.overflowMl ?? 0,
  }
}

const quantile = (sorted: Float64Array, q: number) =>
  sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))] ?? Number.NaN

/**
 * How often a hand lands in a standard: many makings, each pour, the seconds, the ice, temperatures
 * and what is not known of the machine varied by a seeded random; the same seed, the same answer.
 * A generator: it gives its progress, 0 to 1, every so many makings, so that whoever drives it can stop.
 */
export function* runTolerance(
  drink: ResolvedDrink,
  standard: Standard,
  { skill: skillName, hand, runs, seed }: ToleranceOptions,
): Generator<number, Tolerance> {
  const assumed: Skill = SKILLS[skillName]
  const skill: Skill = hand
    ? { ...assumed, pourFraction: hand.scatterFraction, pourMl: 0, pourBiasFraction: hand.biasFraction }
    : assumed
  const wanted = asked(drink)
  const names = MEASURE_NAMES.filter((name) => standard[name])
  const total = runs + 2 * CAUSE_NAMES.length * CAUSE_RUNS
  const values = Object.fromEntries(names.map((name) => [name, new Float64Array(runs)])) as Record<
    MeasureName,
    Float64Array
  >
  let inside = 0
  const random = seededRandom(seed)
  for (let i = 0; i < runs; i++) {
    const made = make(vary(wanted, skill, ALL, random))
    if (distanceFrom(made, standard).worst <= 1) inside++
    for (const name of names) values[name][i] = made.predictions[name]?.value ?? Number.NaN
    if (i % 200 === 199) yield (i + 1) / total
  }
  const measures: Tolerance['measures'] = {}
  let leading: MeasureName | undefined
  let mostOut = -1
  for (const name of names) {
    const sorted = values[name].filter(Number.isFinite).sort()
    const band = standard[name] as { low: number; high: number }
    const below = sorted.findIndex((v) => v >= band.low)
    const belowFraction = (below < 0 ? sorted.length : below) / runs
    const above = sorted.findIndex((v) => v > band.high)
    const aboveFraction = above < 0 ? 0 : (sorted.length - above) / runs
    measures[name] = {
      p5: quantile(sorted, 0.05),
      p50: quantile(sorted, 0.5),
      p95: quantile(sorted, 0.95),
      belowFraction,
      aboveFraction,
    }
    const spread = ((quantile(sorted, 0.95) - quantile(sorted, 0.05)) / Math.max(1e-9, band.high - band.low)) * 1e-3
    if (belowFraction + aboveFraction + spread > mostOut) {
      mostOut = belowFraction + aboveFraction + spread
      leading = name
    }
  }
  const causes: CauseEffect[] = []
  let done = runs
  for (const cause of CAUSE_NAMES) {
    const count = { alone: 0, halved: 0 }
    const seen = new Float64Array(CAUSE_RUNS)
    const same = [seededRandom(seed + 1), seededRandom(seed + 1)] as const
    for (let i = 0; i < CAUSE_RUNS; i++) {
      const alone = make(vary(wanted, skill, only(cause), same[0]))
      if (distanceFrom(alone, standard).worst <= 1) count.alone++
      seen[i] = leading ? (alone.predictions[leading]?.value ?? Number.NaN) : Number.NaN
      const halved = make(vary(wanted, skill, { ...ALL, [cause]: 0.5 }, same[1]))
      if (distanceFrom(halved, standard).worst <= 1) count.halved++
    }
    seen.sort()
    causes.push({
      cause,
      aloneInFraction: count.alone / CAUSE_RUNS,
      halvedInFraction: count.halved / CAUSE_RUNS,
      low: quantile(seen, 0.05),
      high: quantile(seen, 0.95),
    })
    done += 2 * CAUSE_RUNS
    yield done / total
  }
  const inFraction = inside / runs
  // Wilson's interval for a share.
  const z2 = NINETY_PCT ** 2
  const centre = (inFraction + z2 / (2 * runs)) / (1 + z2 / runs)
  const half =
    (NINETY_PCT * Math.sqrt((inFraction * (1 - inFraction)) / runs + z2 / (4 * runs * runs))) / (1 + z2 / runs)
  return {
    runs,
    inFraction,
    inLow: Math.max(0, centre - half),
    inHigh: Math.min(1, centre + half),
    measures,
    leading,
    causes: causes.sort((a, b) => b.high - b.low - (a.high - a.low)),
  }
}
