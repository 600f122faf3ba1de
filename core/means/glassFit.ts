import { ICE_KINDS, type IceFill, type IceKind, iceGOf } from '../cold/index.ts'
import {
  type DrinkDocument,
  finishDrink,
  outsideModel,
  type ResolvedDrink,
  resolveDrink,
  startDrink,
} from '../drink/index.ts'
import type { HouseBook, Well } from '../house/index.ts'
import { densityGPerMlOf, ICE_G_PER_ML, volumeMlOf } from '../liquid/index.ts'
import { brimMlOf, type IceForWashLine, iceForWashLine } from '../vessel/index.ts'

/** Where a drink stands when nobody has said it, % of the glass's height. */
export const USUAL_WASH_LINE_PCT = 85

/** A drink in a glass at a well. */
export interface Fit {
  well: string
  glass: string
  washLinePct: number
  overflowMl: number
  foamAboveBrimMl: number
  iceG: number
  /** Ice to add so that it stands where it should; or why none does it. */
  ice: IceForWashLine
  iceKind: IceKind
  /** Scoops of the well that hold that ice. */
  scoops: string | undefined
  isOwn: boolean
}

export type FitRow = { ok: true; fits: Fit[]; washLinePct: number } | { ok: false; problem: string }

/** The loose ice that tops a glass at a well. */
export function toppingAt(well: Well | undefined): IceKind {
  const kinds: IceKind[] = ['crushed', 'pebble', 'cracked']
  return kinds.find((k) => well?.ice[k]) ?? 'crushed'
}

/** Grams of an ice in scoops of a well: halves, of the scoop that needs the fewest. */
export function inScoops(well: Well | undefined, kind: IceKind, massG: number): string | undefined {
  const fitting = (well?.scoops ?? [])
    .filter((s) => s.kind === kind)
    .map((s) => ({ ...s, count: Math.round((2 * massG) / s.massG) / 2 }))
    .filter((s) => s.count > 0)
    .sort((a, b) => Math.abs(a.count * a.massG - massG) - Math.abs(b.count * b.massG - massG) || a.count - b.count)
  const best = fitting[0]
  if (!best) return undefined
  const count = best.count === 0.5 ? '½' : `${Math.floor(best.count)}${best.count % 1 ? '½' : ''}`
  return `${count} × ${best.name}`
}

/** Where a drink should stand, % of the glass's height. */
export function wantedWashLinePct({ standard }: Pick<DrinkDocument, 'standard'>): number {
  const band = standard.washLinePct
  return band ? (band.low + band.high) / 2 : USUAL_WASH_LINE_PCT
}

/** Ice of a kind that brings a drink, poured with what other ice is in the glass, to its line; undefined where it has no glass to stand in. */
function iceToLine(drink: ResolvedDrink, kind: IceKind, washLinePct: number): IceForWashLine | undefined {
  const start = startDrink(drink)
  const without = finishDrink(
    { ...drink, serveIce: drink.serveIce.filter((p) => p.kind !== kind) },
    start,
    start,
    0,
    10,
  )
  const bare = without.ok ? without.served : undefined
  if (!bare || !drink.glass) return undefined
  const density = densityGPerMlOf(bare.everything)
  return iceForWashLine(
    drink.glass.profile,
    {
      liquidMl: volumeMlOf(bare.everything) + iceGOf(bare.body) / density,
      liquidDensityGPerMl: density,
      packedSolidFraction: ICE_KINDS[kind].packedSolidFraction,
    },
    (washLinePct / 100) * bare.fill.heightMm,
  )
}

/** Ice in the glass as a hand fills it, in grams; or why there is no such ice. */
export type FilledIce = { ok: true; massG: number } | { ok: false; reason: string }

/**
 * What "to the line" and "half the glass first" are in grams, for a drink at a well: to where it should stand
 * ({@link wantedWashLinePct}), or half of the glass full of that ice before anything is poured.
 */
export function fillWithIce(
  document: DrinkDocument,
  book: HouseBook,
  well: string,
  kind: IceKind,
  fill: IceFill,
): FilledIce {
  const resolution = resolveDrink(document, book, well)
  if (!resolution.ok) return { ok: false, reason: resolution.problems[0]?.message ?? 'cannot be computed' }
  const { drink } = resolution
  if (!drink.glass) return { ok: false, reason: 'choose the glass first: ice is filled into one' }
  if (fill === 'halfGlass') {
    const bulkMl = brimMlOf(drink.glass.profile) / 2
    return { ok: true, massG: Math.round(bulkMl * ICE_KINDS[kind].packedSolidFraction * ICE_G_PER_ML) }
  }
  const pct = wantedWashLinePct(document)
  const ice = iceToLine(drink, kind, pct)
  if (!ice) return { ok: false, reason: 'it cannot be computed without ice in the glass' }
  switch (ice.outcome) {
    case 'found':
      return { ok: true, massG: Math.max(5, Math.round(ice.iceG)) }
    case 'alreadyAbove':
      return { ok: false, reason: `it stands above ${Math.round(pct)} % of the glass without any ice` }
    case 'cannotReach':
      return { ok: false, reason: `no ice brings it to ${Math.round(pct)} % of this glass: there is too little in it` }
  }
}

/** One drink in every glass of the house at every well. */
export function fitRow(document: DrinkDocument, book: HouseBook): FitRow {
  const washLinePct = wantedWashLinePct(document)
  const fits: Fit[] = []
  for (const well of book.wells) {
    const ownGlass = document.glassByWell?.[well.slug] ?? document.glass
    for (const glass of book.glasses) {
      const { glassProfile: _, glassByWell: __, ...rest } = document
      const resolution = resolveDrink({ ...rest, glass: glass.slug }, book, well.slug)
      if (!resolution.ok) {
        const first = resolution.problems[0]
        return { ok: false, problem: first ? `${first.path.join('.')}: ${first.message}` : 'cannot be computed' }
      }
      const { drink } = resolution
      const start = startDrink(drink)
      const made = finishDrink(drink, start, start, 0, 10)
      if (!made.ok) return { ok: false, problem: outsideModel(made) }
      const { served } = made
      if (!served) return { ok: false, problem: 'has no glass' }
      const { fill } = served
      const kind = drink.serveIce[0]?.kind ?? toppingAt(well)
      const ice = iceToLine(drink, kind, washLinePct) ?? {
        outcome: 'alreadyAbove' as const,
        washLineMm: fill.washLineMm,
      }
      fits.push({
        well: well.slug,
        glass: glass.slug,
        washLinePct: fill.washLinePct,
        overflowMl: fill.overflowMl,
        foamAboveBrimMl: fill.foamAboveBrimMl ?? 0,
        iceG: iceGOf(served.body),
        ice,
        iceKind: kind,
        scoops: ice.outcome === 'found' ? inScoops(well, kind, ice.iceG) : undefined,
        isOwn: ownGlass === glass.slug,
      })
    }
  }
  return { ok: true, fits, washLinePct }
}
