/** Changes to a drink document, as plain functions: each gives a new document. */

import { ICE_KINDS, type IcePortion, METHODS, type Method } from '@conch/core/cold'
import type { DrinkDocument, PourLine, Stage } from '@conch/core/drink'
import { keysOf } from '@conch/core/schema/keysOf'

export function changePour(document: DrinkDocument, index: number, change: Partial<PourLine>): DrinkDocument {
  return { ...document, pours: document.pours.map((p, i) => (i === index ? { ...p, ...change } : p)) }
}

export function addPour(document: DrinkDocument, what: { ingredient: string } | { slot: string }): DrinkDocument {
  const amount = { value: 0.5, unit: 'oz', asWritten: '½ oz' } as const
  return { ...document, pours: [...document.pours, { ...what, amount, into: 'tin' }] }
}

/** The same amount of something else: a bottle insisted on, or whatever fills a slot. */
export function pourInstead(
  document: DrinkDocument,
  index: number,
  what: { ingredient: string } | { slot: string },
): DrinkDocument {
  const pours = document.pours.map((p, i) => {
    if (i !== index) return p
    const { ingredient: _, slot: __, figures: ___, ...rest } = p
    return { ...rest, ...what }
  })
  return { ...document, pours }
}

/** Some lines in place of one, or one in place of some: the first of them marks the place. */
export function replacePours(document: DrinkDocument, indexes: readonly number[], lines: PourLine[]): DrinkDocument {
  const first = Math.min(...indexes)
  const pours = document.pours.flatMap((p, i) => (i === first ? lines : indexes.includes(i) ? [] : [p]))
  return { ...document, pours }
}

export function removePour(document: DrinkDocument, index: number): DrinkDocument {
  return { ...document, pours: document.pours.filter((_, i) => i !== index) }
}

export function changeStage(document: DrinkDocument, index: number, change: Partial<Stage>): DrinkDocument {
  return { ...document, stages: document.stages.map((s, i) => (i === index ? { ...s, ...change } : s)) }
}

/** Another method brings its usual ice, seconds and pour: the old ones were meant for other gear. */
export function changeMethod(document: DrinkDocument, index: number, method: Method): DrinkDocument {
  const { ice, durationS, pour } = METHODS[method].usual
  const stage: Stage = { method, ice: ice.map((p) => ({ ...p })), durationS, pour }
  return { ...document, stages: document.stages.map((s, i) => (i === index ? stage : s)) }
}

/** Seconds or ice of its own: the speed of its own machine does not make a well's stage another. */
function hasOwn(stage: Stage, well: string): boolean {
  const own = stage.byWell?.[well]
  return own?.durationS !== undefined || own?.ice !== undefined
}

/** What a stage does at a well: the well's own where it has, else everybody's. */
export function stageAt(stage: Stage, well: string): { durationS: number; ice: IcePortion[]; isOwn: boolean } {
  const own = stage.byWell?.[well]
  const usual = stage.method && METHODS[stage.method].usual
  return {
    durationS: own?.durationS ?? stage.durationS ?? usual?.durationS ?? 0,
    ice: [...(own?.ice ?? stage.ice ?? usual?.ice ?? [])],
    isOwn: hasOwn(stage, well),
  }
}

/** Changes seconds or ice of a stage: the well's own when it has its own, else everybody's. */
export function changeStageAt(
  document: DrinkDocument,
  index: number,
  well: string,
  change: { durationS?: number; ice?: IcePortion[] },
): DrinkDocument {
  const stage = document.stages[index]
  if (!stage) return document
  if (!hasOwn(stage, well)) return changeStage(document, index, change)
  return changeStage(document, index, { byWell: { ...stage.byWell, [well]: { ...stage.byWell?.[well], ...change } } })
}

/** Gives a well seconds and ice of its own, or takes them away again. */
export function setOwnAtWell(document: DrinkDocument, index: number, well: string, isOwn: boolean): DrinkDocument {
  const stage = document.stages[index]
  if (!stage) return document
  const { durationS, ice } = stageAt(stage, well)
  const speed = stage.byWell?.[well]?.speed
  return withWell(document, index, well, { ...(isOwn ? { durationS, ice } : {}), ...(speed ? { speed } : {}) })
}

/** The speed of the machine at a well; undefined for its usual one. Every well's machines have their own. */
export function changeSpeedAt(
  document: DrinkDocument,
  index: number,
  well: string,
  speed: string | undefined,
): DrinkDocument {
  const { speed: _, ...own } = document.stages[index]?.byWell?.[well] ?? {}
  return withWell(document, index, well, { ...own, ...(speed ? { speed } : {}) })
}

/** What differs at a well; nothing at all leaves no trace of it. */
function withWell(
  document: DrinkDocument,
  index: number,
  well: string,
  own: NonNullable<Stage['byWell']>[string],
): DrinkDocument {
  const { [well]: _, ...others } = document.stages[index]?.byWell ?? {}
  const byWell = Object.keys(own).length > 0 ? { ...others, [well]: own } : others
  return changeStage(document, index, { byWell: Object.keys(byWell).length > 0 ? byWell : undefined })
}

export const addPortion = (ice: IcePortion[]): IcePortion[] => {
  const unused = keysOf(ICE_KINDS).find((kind) => !ice.some((p) => p.kind === kind))
  return [...ice, { kind: unused ?? 'crushed', massG: 50 }]
}

/** Serving ice at a well: its own where it has, else everybody's. */
export const serveIceAt = (document: DrinkDocument, well: string): IcePortion[] => [
  ...(document.serveIceByWell?.[well] ?? document.serveIce),
]

export function changeServeIceAt(document: DrinkDocument, well: string, ice: IcePortion[]): DrinkDocument {
  if (!document.serveIceByWell?.[well]) return { ...document, serveIce: ice }
  return { ...document, serveIceByWell: { ...document.serveIceByWell, [well]: ice } }
}

export const glassAt = (document: DrinkDocument, well: string): string | undefined =>
  document.glassByWell?.[well] ?? document.glass

/** The glass at a well: of everybody from the house's first well, of a well's own from another. */
export function changeGlassAt(
  document: DrinkDocument,
  well: string,
  isFirstWell: boolean,
  glass: string,
): DrinkDocument {
  const { [well]: _, ...others } = document.glassByWell ?? {}
  const byWell = isFirstWell || glass === document.glass ? others : { ...others, [well]: glass }
  const glassByWell = Object.keys(byWell).length > 0 ? byWell : undefined
  return isFirstWell ? { ...document, glass, glassByWell } : { ...document, glassByWell }
}
