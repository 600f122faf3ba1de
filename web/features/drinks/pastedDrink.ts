/** From a recipe as it was read, and what a person answered, to a drink document. Plain functions. */

import { METHODS } from '@conch/core/cold'
import type { DrinkDocument, Stage } from '@conch/core/drink'
import type { VersionSource } from '@conch/core/lineage'
import { type FilledIce, scaleServes } from '@conch/core/means'
import { type Amount, type MeasureKit, volumeMlOfAmount } from '@conch/core/measure'
import type { ReadSpec, ServeIce, SpecLine } from '@conch/core/reading'

/** What a person answered about a line. */
export interface Answer {
  /** A bottle or a slot; null: leave the line out. */
  what?: Poured | null
  /** Taken instead of what was read. */
  amount?: Amount
}

/** What a line pours: this bottle, or whatever fills a slot. */
export type Poured = { ingredient: string } | { slot: string }

/** By the line as it is written: an answer stays when other lines are changed. */
export type Answers = Readonly<Record<string, Answer>>

/** What becomes of what is none of the drink: kept as a note, or left out. */
export type Leftovers = Readonly<Record<string, 'note' | 'out'>>

/** A spec for several: all of it in a bowl, or one serve of it. */
export type ForMany = 'bowl' | 'oneServe'

export interface Choices {
  answers: Answers
  leftovers: Leftovers
  forMany?: ForMany | undefined
  /** How many it is for, where that was a range. */
  serves?: number | undefined
  /** In place of the glass that was read, or where none was. */
  glass?: string | undefined
  /** What the source's own measures hold, where not what the house's do. */
  sourceKit?: Partial<MeasureKit> | undefined
}

/** The key of a line: its words, and which of its like. */
export function keyOf(lines: readonly SpecLine[], index: number): string {
  const text = lines[index]?.asWritten ?? ''
  const nth = lines.slice(0, index).filter((l) => l.asWritten === text).length
  return nth === 0 ? text : `${text} #${nth + 1}`
}

/** What a line pours as it stands: undefined while it asks, null when it is left out. */
export function pouredOf(line: SpecLine, answer: Answer | undefined): Poured | null | undefined {
  if (answer?.what !== undefined) return answer.what
  if (line.sure) return { ingredient: line.sure }
  return line.sureSlot ? { slot: line.sureSlot } : undefined
}

export const servesOf = (spec: ReadSpec, { serves }: Choices): number => serves ?? spec.serves

/** What a source says besides its lines: its very words, measures of its own, and for how many it is. */
export function writtenOf(
  text: string,
  serves: number,
  { sourceKit }: Choices,
): Pick<VersionSource, 'asWritten' | 'measures' | 'serves'> {
  return {
    asWritten: text.trim().slice(0, MOST_WRITTEN),
    ...(sourceKit && Object.keys(sourceKit).length > 0 ? { measures: sourceKit } : {}),
    ...(serves > 1 ? { serves } : {}),
  }
}

/** What still asks, in words: what a line is or how much, what becomes of the rest, for how many. */
export function openQuestions(spec: ReadSpec, choices: Choices): string[] {
  const open = spec.lines.flatMap((line, i) => {
    const answer = choices.answers[keyOf(spec.lines, i)]
    const what = pouredOf(line, answer)
    if (what === null) return []
    return what === undefined || !(answer?.amount ?? line.amount) ? [line.asWritten] : []
  })
  const rest = spec.unplaced.filter((text) => choices.leftovers[text] === undefined)
  const many = spec.lines.length > 0 && servesOf(spec, choices) > 1 && !choices.forMany ? ['for how many it is'] : []
  return [...open, ...rest, ...many]
}

/** Units whose size a source may have of its own. */
export const SOURCE_UNITS = {
  oz: 'ounceMl',
  barSpoon: 'barSpoonMl',
  dash: 'dashMl',
  drop: 'dropMl',
  tsp: 'teaspoonMl',
  cup: 'cupMl',
} as const

/** An amount in the source's measures as the house has it: the same, or in ml where the source's are others. */
function inHouse(amount: Amount, kit: MeasureKit, source: Partial<MeasureKit> = {}): Amount {
  const key = SOURCE_UNITS[amount.unit as keyof typeof SOURCE_UNITS]
  if (!key || source[key] === undefined || source[key] === kit[key]) return amount
  const ml = volumeMlOfAmount(amount, { ...kit, ...source })
  return ml === undefined ? amount : { ...amount, value: Number(ml.toFixed(2)), unit: 'ml' }
}

/** Characters of a spec that are kept to the letter. */
const MOST_WRITTEN = 8000
const MOST_ICE_G = 2000

/**
 * A stage with its ice: what nobody wrote the weight of is the usual of one tin, so many times; what is written that many
 * times as much.
 */
function withOurIce(stage: Stage, tins: number, times = 1): Stage {
  const g = (massG: number, factor: number) => Math.min(MOST_ICE_G, Math.round(massG * factor))
  if (stage.ice)
    return {
      ...stage,
      ice: stage.ice.map((p) =>
        p.asWritten === undefined
          ? { ...p, massG: g(p.massG, tins) }
          : times === 1
            ? p
            : { kind: p.kind, massG: g(p.massG, times) },
      ),
    }
  if (tins === 1 || !stage.method) return stage
  return { ...stage, ice: METHODS[stage.method].usual.ice.map((p) => ({ ...p, massG: g(p.massG, tins) })) }
}

/** Loose ice on top where nothing says how much, g. */
const SOME_ICE_G = 60

/**
 * The drink that begins as this, or undefined when nothing of it is poured. Every line keeps its words.
 * @param fill solves "to the line" for the document as it is so far
 */
export function toDocument(
  spec: ReadSpec,
  name: string,
  choices: Choices,
  kit: MeasureKit,
  fill: (document: DrinkDocument, ice: ServeIce) => FilledIce,
): DrinkDocument | undefined {
  const pours = spec.lines.flatMap((line, i): DrinkDocument['pours'] => {
    const answer = choices.answers[keyOf(spec.lines, i)]
    const what = pouredOf(line, answer)
    const amount = answer?.amount ?? line.amount
    if (!what || !amount) return []
    const measured = inHouse(amount, kit, choices.sourceKit)
    return [{ ...what, amount: { ...measured, asWritten: line.asWritten.slice(0, 60) }, into: line.into ?? 'tin' }]
  })
  if (pours.length === 0) return undefined
  const glass = choices.glass ?? spec.glass
  const note = spec.unplaced
    .filter((text) => choices.leftovers[text] === 'note')
    .join('\n')
    .slice(0, 2000)
  const whole: DrinkDocument = {
    format: 'lazy-conch/drink',
    formatVersion: 1,
    name,
    serves: servesOf(spec, choices),
    pours,
    stages: spec.stages.map((s) => withOurIce(s, 1)),
    ...(glass ? { glass } : {}),
    serveIce: [],
    garnish: spec.garnish.slice(0, 12).map((text) => ({ text: text.slice(0, 120), isFood: true })),
    hasFlame: spec.hasFlame,
    ...(note ? { note } : {}),
    standard: {},
  }
  const written = spec.serveIce.filter((s, i, all) => all.findIndex((o) => o.kind === s.kind) === i).slice(0, 4)
  const measured = written.filter((s) => s.massG !== undefined)
  const withIce: DrinkDocument = {
    ...whole,
    serveIce: measured.map(({ kind, massG = 0, asWritten }) => ({ kind, massG, asWritten: asWritten.slice(0, 60) })),
  }
  // Ice that is written is for everybody; ours is what one tin takes, as often as tins are filled.
  const scaled =
    choices.forMany === 'oneServe'
      ? { ...scaleServes(withIce, 1), stages: spec.stages.map((s) => withOurIce(s, 1, 1 / withIce.serves)) }
      : { ...withIce, stages: spec.stages.map((s) => withOurIce(s, withIce.serves)) }
  // Filled up when it is as large as it will be.
  const serveIce = [...scaled.serveIce]
  for (const ice of written.filter((s) => s.fill)) {
    const filled = fill(scaled, ice)
    serveIce.push({
      kind: ice.kind,
      massG: filled.ok ? filled.massG : SOME_ICE_G,
      asWritten: ice.asWritten.slice(0, 60),
      fill: ice.fill,
    })
  }
  return { ...scaled, serveIce }
}
