import { integrate } from '../solve/integrate.ts'
import { Exchange } from './exchange.ts'
import type { Mixture } from './mixture.ts'
import { type Stretch, stretchesOf } from './pace.ts'
import { DOMAIN, type PassedLimit, type StageOutcome, type StageParameters, type StageSample } from './stage.ts'
import { FILM_J_PER_G_K } from './surface.ts'

export interface RunOptions {
  /** Times in s since the ice went in at which to report, rising. */
  sampleS?: readonly number[]
  /** How many times the usual error a step may make; for runs by the thousand. Default 1. */
  coarseness?: number
  /** Another film ratio than the model's, J/(g·K): to see how much hangs on it. */
  filmJPerGK?: number
  /** Whether everything that is there is wanted at the samples, too. Default not. */
  keepsStates?: boolean
}

/** Work is shorter; a drink at rest goes on for longer, and slowly. */
const LONG_S = 60
const FIRST_STEP_S = 0.4
const FIRST_STEP_OF_LONG_S = 1
/** Over minutes, errors of its few long steps stay where the others' many are. */
const LONG_COARSENESS = 2

const NOTHING_DONE: Stretch = { durationS: 0, uaWPerK: 0, powerW: 0 }

/**
 * One stage of chilling: a heat balance of liquid and vessel (one temperature), of ice with a core behind a surface that
 * is bathed in its own meltwater, of stirring and the room. At the start the ice's surface water joins at 0 °C. Kinds of
 * ice share the conductance by their surface, and one that is gone takes its share along: what agitator cubes are for.
 * When the last ice is gone the drink only warms.
 * @param before what is there at the start; ice already in it stays and counts as dry
 * @returns what comes out, or the limit of the model that the stage passes: {@link DOMAIN}
 */
export function runStage(
  before: Mixture,
  p: StageParameters,
  { sampleS = [], coarseness = 1, filmJPerGK = FILM_J_PER_G_K, keepsStates = false }: RunOptions = {},
): StageOutcome {
  const exchange = new Exchange(before, p, filmJPerGK)
  const { surfaceWaterG } = exchange
  const samples: StageSample[] = []
  const states: Mixture[] = []
  let timeS = 0
  const refuse = (passed: PassedLimit) => ({ ok: false as const, passed, atS: timeS, surfaceWaterG, samples, states })
  if (before.temperatureC > DOMAIN.hottestC) return refuse({ limit: 'hot', temperatureC: before.temperatureC })
  let state: Float64Array = exchange.start.slice()
  exchange.foldGone(state)
  const beforeJ = exchange.totalJ(state)
  let passed = exchange.limitPassed(state, p.uaWPerK > 0)
  if (passed) return refuse(passed)
  let iceGoneAtS: number | undefined
  const stretches = stretchesOf(p)
  for (const stretch of stretches.length > 0 ? stretches : [NOTHING_DONE]) {
    const derivative = exchange.flow(stretch)
    let leftS = stretch.durationS
    for (;;) {
      const startS = timeS
      const isLong = leftS > LONG_S
      const ran = integrate({
        start: state,
        endS: leftS,
        derivative,
        tolerance: exchange.tolerance(isLong ? coarseness * LONG_COARSENESS : coarseness),
        settledIn: isLong ? exchange.dependsOn : undefined,
        // A pile stops the clock as soon as it is no more.
        until: exchange.hasIce ? (y) => exchange.leastIceG(y) : undefined,
        isWithin: (y) => {
          passed = exchange.limitPassed(y, stretch.uaWPerK > 0)
          return passed === undefined
        },
        firstStepS: isLong ? FIRST_STEP_OF_LONG_S : FIRST_STEP_S,
        sampleS: sampleS.slice(samples.length).map((s) => s - startS),
      })
      for (const s of ran.samples) {
        samples.push(exchange.sample(s.timeS + startS, s.state))
        if (keepsStates) states.push(exchange.mixture(s.state))
      }
      state = ran.state
      timeS += ran.timeS
      leftS -= ran.timeS
      if (passed) return refuse(passed)
      if (ran.outcome === 'maxSteps' || ran.outcome === 'stuck') return refuse({ limit: 'steps' })
      if (ran.outcome !== 'stopped') break
      exchange.foldGone(state)
      if (!exchange.hasIce) iceGoneAtS = timeS
      if (leftS <= 0) break
    }
  }
  const stirringJ = p.stirringPowerW * p.durationS
  const roomJ = exchange.roomJ(state)
  const afterJ = exchange.totalJ(state)
  return {
    ok: true,
    after: exchange.mixture(state),
    meltG: exchange.startIceG - exchange.iceG(state),
    surfaceWaterG,
    iceGoneAtS,
    samples,
    states,
    heat: { stirringJ, roomJ, beforeJ, afterJ, residualJ: afterJ - beforeJ - stirringJ - roomJ },
  }
}
