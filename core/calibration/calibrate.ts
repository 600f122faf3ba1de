import { ICE_KINDS, type IceFigures, type IceKind, METHODS, type Method } from '../cold/index.ts'
import { fitLeastSquares, tFor90Pct } from '../solve/index.ts'
import { predictTrial, type StationFigures } from './trial.ts'
import type { TrialDocument } from './trialSchema.ts'

/** So many trials move a station away from the preset… */
export const FEWEST_TRIALS = 2
/** …and so many make it trusted. */
export const TRUSTED_TRIALS = 4

/** A scale, a shaken strainer and a hand, g: and of the water added, as a fraction. Chosen: as repeated makings scatter. */
const SCALE_G = 1
const HAND_FRACTION = 0.03
/** A pocket thermometer in a small drink, K. */
const THERMOMETER_K = 0.8

/**
 * How far from the preset a station may well be, in natural logarithms: what is believed before any trial. Chosen, because
 * two bars' gear of one kind differs by half as much again or a third less, hardly ever by three times.
 */
const PRIOR_UA = 0.5
const PRIOR_POWER = 0.4
/** Ice that somebody measured is believed that much. */
const PRIOR_MEASURED_WETNESS = 0.25
/** A motor weaker than this does not show beside ice, W. */
const LEAST_POWER_W = 40
/** Different seconds that trials must have before the motor can be told from the ice. */
const SECONDS_FOR_POWER = 3
const SECONDS_APART = 0.75

/** What the model does not know however many trials there are, of the water added. Chosen: half of what κ leaves open. */
const MODEL_UNCERTAINTY_FRACTION = 0.03
/** With so few trials that nobody should trust them, at least. */
const FEW_UNCERTAINTY_FRACTION = 0.08

export interface Estimate {
  value: number
  /** 90 % interval. */
  low: number
  high: number
}

export interface TrialResidual {
  id: number
  durationS: number
  /** Water added: as weighed (what came out, and what the model says stayed on the ice), and as fitted, g. */
  measuredG: number
  fittedG: number
  /** Measured less fitted, K; undefined when nobody took the temperature. */
  offC: number | undefined
  /** Off by how many standard deviations, when it is left out of the fit. */
  deviations: number
  isOutlier: boolean
}

export type Calibration =
  | { outcome: 'tooFew'; trials: number; needed: number }
  /** A trial that the model knows nothing of: leave it out. */
  | { outcome: 'outsideModel'; trial: number }
  | {
      /** `atBound`: a figure at the end of what is believed; look at the trials. */
      outcome: 'converged' | 'atBound' | 'maxIterations'
      uaWPerK: Estimate
      surfaceWaterFraction: Estimate
      /** Only where trials of different seconds tell the motor from the ice. */
      stirringPowerW: Estimate | undefined
      uncertaintyFraction: number
      isTrusted: boolean
      residuals: TrialResidual[]
    }

/** A calibration that came to figures. */
export type Fitted = Extract<Calibration, { residuals: TrialResidual[] }>

/** The figures of a fit; undefined where there are none. */
export function fittedOf(found: Calibration | undefined): Fitted | undefined {
  return found && found.outcome !== 'tooFew' && found.outcome !== 'outsideModel' ? found : undefined
}

export interface CountedTrial {
  id: number
  document: TrialDocument
}

/** Where a calibration starts from: the station as it is without trials. */
export interface CalibrationStart extends StationFigures {
  method: Method
  ice: IceKind
  /** The well's measured ice. */
  measuredIce: Partial<Record<IceKind, IceFigures>>
}

/** How far a weighing may be off, g. */
function scatterG(addedG: number): number {
  return Math.hypot(SCALE_G, HAND_FRACTION * addedG)
}

/** How many clearly different seconds there are. */
function secondsSeen(trials: readonly CountedTrial[]): number {
  let last = Number.NEGATIVE_INFINITY
  let count = 0
  for (const s of trials.map((t) => t.document.durationS).sort((a, b) => a - b)) {
    if (s - last < SECONDS_APART) continue
    last = s
    count += 1
  }
  return count
}

/** A fit needs no more than a hundredth of what a scale shows; a derivative is taken over more than that. */
const COARSENESS = 20
const DERIVATIVE_STEP = 1e-3

/**
 * What a station with one ice is like, by its trials: conductance, surface water, and of a mixer its
 * power, by bounded least squares on the weights and temperatures, with the preset as a weak belief.
 * The 90 % intervals are those of the linear model at the solution by Student's t, widened when the
 * trials scatter more than scale and thermometer explain; a bootstrap of four trials would be far too sure.
 * @param options.looksForOutliers fits once more without each trial, to see which does not belong
 */
export function calibrate(
  trials: readonly CountedTrial[],
  start: CalibrationStart,
  { looksForOutliers = true }: { looksForOutliers?: boolean } = {},
): Calibration {
  if (trials.length < FEWEST_TRIALS) return { outcome: 'tooFew', trials: trials.length, needed: FEWEST_TRIALS }
  const outside = trials.find((t) => !predictTrial(t.document, start, start.measuredIce))
  if (outside) return { outcome: 'outsideModel', trial: outside.id }
  const fitted = fit(trials, start)
  const { figures, widths } = fitted
  const estimate = (key: keyof StationFigures, i: number): Estimate => ({
    value: figures[key],
    low: figures[key] * Math.exp(-(widths[i] as number)),
    high: figures[key] * Math.exp(widths[i] as number),
  })
  const residuals = trials.map((t): TrialResidual => {
    const others = looksForOutliers ? trials.filter((o) => o !== t) : []
    const without = others.length >= FEWEST_TRIALS ? fit(others, start).figures : figures
    const blind = predicted(t.document, without, start)
    const seen = predicted(t.document, figures, start)
    const deviations = (t.document.afterG - blind.afterG) / scatterG(blind.addedG)
    return {
      id: t.id,
      durationS: t.document.durationS,
      measuredG: seen.addedG + t.document.afterG - seen.afterG,
      fittedG: seen.addedG,
      offC: t.document.afterC === undefined ? undefined : t.document.afterC - seen.afterC,
      deviations,
      isOutlier: others.length >= FEWEST_TRIALS && Math.abs(deviations) > 4,
    }
  })
  const isTrusted = trials.length >= TRUSTED_TRIALS
  const own = Math.hypot(MODEL_UNCERTAINTY_FRACTION, fitted.addedUncertaintyFraction)
  return {
    outcome: fitted.outcome,
    uaWPerK: estimate('uaWPerK', 0),
    surfaceWaterFraction: estimate('surfaceWaterFraction', 1),
    stirringPowerW: widths.length > 2 ? estimate('stirringPowerW', 2) : undefined,
    uncertaintyFraction: Math.min(0.5, isTrusted ? own : Math.max(FEW_UNCERTAINTY_FRACTION, own)),
    isTrusted,
    residuals,
  }
}

/** Out of a fit's reach: so far off that no fit goes there. */
const NOWHERE = { afterG: 1e6, afterC: 1e3, addedG: 1e6, iceLeftG: 0 }

function predicted(document: TrialDocument, figures: StationFigures, start: CalibrationStart, coarseness = 1) {
  return predictTrial(document, figures, start.measuredIce, coarseness) ?? NOWHERE
}

function fit(trials: readonly CountedTrial[], start: CalibrationStart) {
  const preset = METHODS[start.method]
  const asksPower =
    preset.stirringPowerW >= LEAST_POWER_W &&
    trials.length >= TRUSTED_TRIALS &&
    secondsSeen(trials) >= SECONDS_FOR_POWER
  const isMeasured = start.measuredIce[start.ice]?.surfaceWaterFraction !== undefined
  const priors = [
    PRIOR_UA,
    isMeasured ? PRIOR_MEASURED_WETNESS : ICE_KINDS[start.ice].wetnessUncertaintyFraction,
    ...(asksPower ? [PRIOR_POWER] : []),
  ]
  const figuresOf = (logs: readonly number[]): StationFigures => ({
    uaWPerK: start.uaWPerK * Math.exp(logs[0] as number),
    surfaceWaterFraction: start.surfaceWaterFraction * Math.exp(logs[1] as number),
    stirringPowerW: start.stirringPowerW * Math.exp(logs[2] ?? 0),
  })
  const wettest = Math.log(0.5 / Math.max(1e-4, start.surfaceWaterFraction))
  const bound = Math.log(4)
  const residualsOf = (logs: readonly number[]) => {
    const figures = figuresOf(logs)
    const data = trials.flatMap(({ document }) => {
      const p = predicted(document, figures, start, COARSENESS)
      const mass = (p.afterG - document.afterG) / scatterG(p.addedG)
      return document.afterC === undefined ? [mass] : [mass, (p.afterC - document.afterC) / THERMOMETER_K]
    })
    return [...data, ...logs.map((log, i) => log / (priors[i] as number))]
  }
  const found = fitLeastSquares(residualsOf, {
    start: priors.map(() => 0),
    derivativeStep: DERIVATIVE_STEP,
    low: priors.map(() => -bound),
    high: priors.map((_, i) => (i === 1 ? Math.min(bound, wettest) : bound)),
  })
  const figures = figuresOf(found.values)
  const dataCount = found.residuals.length - priors.length
  const freedom = Math.max(1, dataCount - priors.length)
  const chi2 = found.residuals.slice(0, dataCount).reduce((sum, r) => sum + r * r, 0)
  const scatter = Math.sqrt(Math.max(1, chi2 / freedom))
  const t = tFor90Pct(dataCount)
  const widths = found.values.map((_, i) => t * scatter * Math.sqrt(Math.max(0, found.covariance[i]?.[i] ?? 0)))
  // How far the water of these very trials may be off, because the figures may be.
  const step = 1e-3
  const relative = trials.map(({ document }) => {
    const base = predicted(document, figures, start).addedG
    const slope = found.values.map((v, i) => {
      const moved = figuresOf(found.values.map((u, j) => (i === j ? v + step : u)))
      return (predicted(document, moved, start).addedG - base) / step / base
    })
    return slope.reduce(
      (sum, a, i) => sum + slope.reduce((inner, b, j) => inner + a * b * (found.covariance[i]?.[j] ?? 0), 0),
      0,
    )
  })
  const meanSquare = relative.reduce((sum, v) => sum + v, 0) / relative.length
  const addedUncertaintyFraction = t * scatter * Math.sqrt(Math.max(0, meanSquare))
  return { outcome: found.outcome, figures, widths, addedUncertaintyFraction }
}

/** Newer trials than a calibration knows, against it. */
export interface Drift {
  trials: number
  /** Mean of (measured less predicted) over predicted water. */
  byFraction: number
  isDrifting: boolean
}

/** How newer trials stand to a calibration; undefined without any. Two that agree with each other and not with it: drifting. */
export function driftOf(
  newer: readonly CountedTrial[],
  figures: StationFigures,
  uncertaintyFraction: number,
  measuredIce: Partial<Record<IceKind, IceFigures>>,
): Drift | undefined {
  if (newer.length === 0) return undefined
  const offs = newer.flatMap(({ document }) => {
    const p = predictTrial(document, figures, measuredIce)
    return p ? [{ off: (document.afterG - p.afterG) / p.addedG, scatter: scatterG(p.addedG) / p.addedG }] : []
  })
  if (offs.length === 0) return undefined
  const byFraction = offs.reduce((sum, o) => sum + o.off, 0) / offs.length
  const chance = Math.sqrt(offs.reduce((sum, o) => sum + o.scatter ** 2, 0)) / offs.length
  return {
    trials: newer.length,
    byFraction,
    isDrifting: newer.length >= FEWEST_TRIALS && Math.abs(byFraction) > Math.max(uncertaintyFraction, 2 * chance),
  }
}
