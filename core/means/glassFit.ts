import { ICE_KINDS, type IceKind, iceGOf, METHODS } from '../cold/index.ts'
import { type DrinkDocument, finishDrink, resolveDrink, startDrink } from '../drink/index.ts'
import type { HouseBook, Well } from '../house/index.ts'
import { densityGPerMlOf, volumeMlOf } from '../liquid/index.ts'
import { nearestOnGrid, type OwnedMeasure, pourGrid, usualMeasures, volumeMlOfAmount } from '../measure/index.ts'
import { bisect } from '../solve/index.ts'
import { type IceForWashLine, iceForWashLine } from '../vessel/index.ts'

/** Where a drink stands when nobody has said it, % of the glass. */
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

/** One drink in every glass of the house at every well. */
export function fitRow(document: DrinkDocument, book: HouseBook): FitRow {
  const band = document.standard.washLinePct
  const washLinePct = band ? (band.low + band.high) / 2 : USUAL_WASH_LINE_PCT
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
      const { served } = finishDrink(drink, start, start, 0, 10)
      if (!served) return { ok: false, problem: 'has no glass' }
      const { fill } = served
      const kind = drink.serveIce[0]?.kind ?? toppingAt(well)
      const bare = finishDrink({ ...drink, serveIce: [] }, start, start, 0, 10).served
      const ice = bare
        ? iceForWashLine(
            glass.profile,
            {
              liquidMl: volumeMlOf(bare.everything) + iceGOf(bare.body) / densityGPerMlOf(bare.everything),
              liquidDensityGPerMl: densityGPerMlOf(bare.everything),
              packedSolidFraction: ICE_KINDS[kind].packedSolidFraction,
            },
            (washLinePct / 100) * fill.heightMm,
          )
        : ({ outcome: 'alreadyAbove', washLineMm: fill.washLineMm } as const)
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

export type ScaledSpec =
  | { outcome: 'scaled'; factor: number; document: DrinkDocument; washLinePct: number; offGridPct: number }
  | { outcome: 'cannotBeReached'; lowestPct: number; highestPct: number }
  | { outcome: 'problem'; problem: string }

const LEAST_TIMES = 0.1
const MOST_TIMES = 3

/**
 * A spec made to fit another glass: every pour and all ice times one factor, so that strength, sweet
 * and sour stay, then each pour taken to what the house's jiggers pour.
 * @returns the spec in that glass; its seconds are to be solved again, the larger batch chills slower
 */
export function scaleToGlass(document: DrinkDocument, book: HouseBook, well: string, glass: string): ScaledSpec {
  const band = document.standard.washLinePct
  const wanted = band ? (band.low + band.high) / 2 : USUAL_WASH_LINE_PCT
  const { kit } = book.settings
  const scaled = (factor: number): DrinkDocument =>
    scaleSpec(document, factor, glass, (line) => {
      const volumeMl = line.volumeMl ?? (line.amount && volumeMlOfAmount(line.amount, kit, document.partMl)) ?? 0
      return volumeMl * factor
    })
  const lineOf = (d: DrinkDocument): number | string => {
    const resolution = resolveDrink(d, book, well)
    if (!resolution.ok) return resolution.problems[0]?.message ?? 'cannot be computed'
    const start = startDrink(resolution.drink)
    const fill = finishDrink(resolution.drink, start, start, 0, 10).served?.fill
    if (!fill) return 'has no glass'
    // Above the brim it goes on rising, so that a root is found beyond it, too.
    return fill.washLinePct + (100 * fill.overflowMl) / fill.brimMl
  }
  const first = lineOf(scaled(1))
  if (typeof first === 'string') return { outcome: 'problem', problem: first }
  const found = bisect((f) => (lineOf(scaled(f)) as number) - wanted, LEAST_TIMES, MOST_TIMES, { tolerance: 1e-3 })
  if (found.outcome === 'noBracket')
    return { outcome: 'cannotBeReached', lowestPct: found.atLow + wanted, highestPct: found.atHigh + wanted }
  const factor = found.value
  const measures: readonly OwnedMeasure[] = book.settings.measures ?? usualMeasures(kit)
  const grid = pourGrid(measures)
  let offGrid = 0
  const document2 = scaleSpec(document, factor, glass, (line) => {
    const exact = (line.volumeMl ?? (line.amount && volumeMlOfAmount(line.amount, kit, document.partMl)) ?? 0) * factor
    const smallest = grid[0]?.volumeMl ?? 1
    // Dashes and drops stay what they are times the factor.
    const onGrid = exact < smallest ? exact : (nearestOnGrid(exact, grid)?.volumeMl ?? exact)
    offGrid = Math.max(offGrid, Math.abs(onGrid / exact - 1))
    return onGrid
  })
  const washLinePct = lineOf(document2)
  if (typeof washLinePct === 'string') return { outcome: 'problem', problem: washLinePct }
  return { outcome: 'scaled', factor, document: document2, washLinePct, offGridPct: 100 * offGrid }
}

function scaleSpec(
  document: DrinkDocument,
  factor: number,
  glass: string,
  volumeOf: (line: DrinkDocument['pours'][number]) => number,
): DrinkDocument {
  const ice = (portions: readonly { kind: IceKind; massG: number }[]) =>
    portions.map((p) => ({ ...p, massG: Math.max(5, Math.round((p.massG * factor) / 5) * 5) }))
  const { glassProfile: _, glassByWell: __, ...rest } = document
  const ounceLike = document.pours.every((p) => p.amount?.unit !== 'ml' && p.amount?.unit !== 'cl')
  return {
    ...rest,
    glass,
    pours: document.pours.map((line) => {
      const { amount, volumeMl: ___, ...others } = line
      const volumeMl = volumeOf(line)
      if (amount && (amount.unit === 'dash' || amount.unit === 'drop'))
        return { ...others, amount: { unit: amount.unit, value: Math.max(1, Math.round(amount.value * factor)) } }
      return { ...others, amount: { value: Number(volumeMl.toFixed(ounceLike ? 2 : 1)), unit: 'ml' as const } }
    }),
    stages: document.stages.map((stage) => ({
      ...stage,
      ...(stage.ice || stage.method
        ? { ice: ice(stage.ice ?? (stage.method ? METHODS[stage.method].usual.ice : [])) }
        : {}),
      ...(stage.byWell
        ? {
            byWell: Object.fromEntries(
              Object.entries(stage.byWell).map(([w, here]) => [w, here.ice ? { ...here, ice: ice(here.ice) } : here]),
            ),
          }
        : {}),
    })),
    serveIce: ice(document.serveIce),
    ...(document.serveIceByWell
      ? {
          serveIceByWell: Object.fromEntries(
            Object.entries(document.serveIceByWell).map(([w, portions]) => [w, ice(portions)]),
          ),
        }
      : {}),
  }
}
