import type { StageParameters } from '../cold/index.ts'
import {
  chargesOf,
  type IceFigures,
  type IceKind,
  iceGOf,
  type Mixture,
  mainKindOf,
  pourOut,
  runStage,
} from '../cold/index.ts'
import { massGOf } from '../liquid/index.ts'
import type { TrialDocument } from './trialSchema.ts'

/** What a calibration asks of a station with one ice. */
export interface StationFigures {
  uaWPerK: number
  surfaceWaterFraction: number
  stirringPowerW: number
}

/** The ice that a trial says something about: most of what went in. */
export function trialIceOf(trial: TrialDocument): IceKind {
  const kind = mainKindOf(trial.ice)
  if (!kind) throw new Error('bug: a trial without ice passed the schema')
  return kind
}

function iceInG(trial: TrialDocument): number {
  return trial.ice.reduce((sum, p) => sum + p.massG, 0)
}

/** The stage of a trial, on a station with these figures. */
export function trialStage(
  trial: TrialDocument,
  figures: StationFigures,
  otherIce: Partial<Record<IceKind, IceFigures>> = {},
): { before: Mixture; parameters: StageParameters } {
  const main = trialIceOf(trial)
  const charges = chargesOf(trial.ice, otherIce).map((c) => ({
    ...c,
    ...(c.kind === main
      ? { surfaceWaterFraction: figures.surfaceWaterFraction, temperatureC: Math.min(0, trial.iceC.value) }
      : {}),
  }))
  return {
    before: { liquid: trial.liquid, temperatureC: trial.beforeC.value, ice: [] },
    parameters: {
      iceG: iceInG(trial),
      iceTemperatureC: trial.iceC.value,
      surfaceWaterFraction: figures.surfaceWaterFraction,
      charges,
      uaWPerK: figures.uaWPerK * trial.gear.uaTimes,
      stirringPowerW: figures.stirringPowerW * trial.gear.powerTimes,
      vesselJPerK: trial.gear.vesselJPerK,
      vesselTemperatureC: trial.vesselC.value,
      durationS: trial.durationS,
      bursts: trial.bursts,
      restS: trial.restS,
      waitS: trial.waitS,
      roomTemperatureC: trial.roomC.value,
      leakWPerK: trial.gear.leakWPerK,
    },
  }
}

/** What a scale and a thermometer would say. */
export interface PredictedTrial {
  afterG: number
  afterC: number
  addedG: number
  iceLeftG: number
}

/**
 * What the scale and the thermometer would say of a trial on a station with these figures; undefined when that is
 * outside of what the model knows.
 */
export function predictTrial(
  trial: TrialDocument,
  figures: StationFigures,
  otherIce?: Partial<Record<IceKind, IceFigures>>,
  coarseness = 1,
): PredictedTrial | undefined {
  const { before, parameters } = trialStage(trial, figures, otherIce)
  const ran = runStage(before, parameters, { coarseness })
  if (!ran.ok) return undefined
  const strained = pourOut(ran.after, 'strained')
  return {
    afterG: massGOf(strained.mixture.liquid),
    afterC: ran.after.temperatureC,
    addedG: ran.meltG + ran.surfaceWaterG,
    iceLeftG: iceGOf(ran.after) + strained.heldBackG,
  }
}

/** Weights that go with each other to this many grams, or this share of everything, are believed. */
const LOST_G = 3
const LOST_FRACTION = 0.02

/** Why these weights cannot be: which field, and what is allowed. Empty when they can. */
export function trialProblems(trial: TrialDocument): { field: string; message: string }[] {
  const problems: { field: string; message: string }[] = []
  const say = (field: string, message: string) => problems.push({ field, message })
  const g = (value: number) => `${value.toFixed(0)} g`
  const beforeG = massGOf(trial.liquid)
  const iceG = iceInG(trial)
  const slackG = LOST_G + LOST_FRACTION * (beforeG + iceG)
  if (beforeG < 5) say('liquidBeforeG', `${g(beforeG)} is no drink; weigh at least 5 g`)
  if (trial.afterG > beforeG + iceG + slackG) {
    say('afterG', `${g(trial.afterG)} came out of ${g(beforeG)} and ${g(iceG)} of ice; at most ${g(beforeG + iceG)}`)
  } else if (trial.afterG < beforeG / 2) {
    say('afterG', `${g(trial.afterG)} came out of ${g(beforeG)}; less than half: was the tin tared?`)
  }
  if (trial.iceLeftG !== undefined && trial.iceLeftG + trial.afterG > beforeG + iceG + slackG) {
    say(
      'iceLeftG',
      `${g(trial.iceLeftG)} of ice and ${g(trial.afterG)} of liquid are more than the ${g(beforeG + iceG)} that went in`,
    )
  }
  const warmestC = Math.max(trial.beforeC.value, trial.roomC.value, trial.vesselC.value) + 3
  if (trial.afterC !== undefined && trial.afterC > warmestC)
    say('afterC', `${trial.afterC} °C is warmer than anything that went in; at most ${warmestC.toFixed(0)} °C`)
  if (trial.iceC.value > 0) say('iceC', `${trial.iceC.value} °C is no ice; at most 0 °C`)
  return problems
}

/** What went in and did not come out, g: on the tin, on the bar, or a wrong weight. Undefined without the ice weighed. */
export function unaccountedG(trial: TrialDocument): number | undefined {
  if (trial.iceLeftG === undefined) return undefined
  return massGOf(trial.liquid) + iceInG(trial) - trial.afterG - trial.iceLeftG
}
