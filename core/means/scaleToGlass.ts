import { METHODS } from '../cold/index.ts'
import {
  type DrinkDocument,
  finishDrink,
  MOST_POUR_ML,
  outsideModel,
  type PourLine,
  resolveDrink,
  startDrink,
  withSeconds,
} from '../drink/index.ts'
import type { HouseBook } from '../house/index.ts'
import { amountLike, isCounted, nearestOnGrid, pourGrid, usualMeasures, volumeMlOfAmount } from '../measure/index.ts'
import { bisect } from '../solve/index.ts'
import { scoopedTimes } from './change.ts'
import { wantedWashLinePct } from './glassFit.ts'
import { solveMeans } from './solveMeans.ts'

export type ScaledSpec =
  | {
      outcome: 'scaled'
      /** Times every pour and all ice, before the jiggers. */
      factor: number
      document: DrinkDocument
      washLinePct: number
      /** How far the worst pour is from its exact size, because a jigger pours it, %. */
      offGridPct: number
      /** Seconds that hold its concentrations in the larger or smaller batch; undefined where none do. */
      durationS: number | undefined
    }
  | { outcome: 'cannotBeReached'; lowestPct: number; highestPct: number }
  | { outcome: 'problem'; problem: string }

const LEAST_TIMES = 0.1
const MOST_TIMES = 3
const COARSENESS = 10

/**
 * A spec made to fit another glass: every pour and all ice times one factor, so that strength, sweet
 * and sour stay, each pour then taken to what the house's jiggers pour, and the seconds solved anew at
 * this well: another size chills at another pace. Volume and wash line leave the standard: they are what changed.
 */
export function scaleToGlass(document: DrinkDocument, book: HouseBook, well: string, glass: string): ScaledSpec {
  const { kit } = book.settings
  const volumeMlOf = ({ volumeMl, amount }: PourLine) =>
    volumeMl ?? (amount && volumeMlOfAmount(amount, kit, document.partMl)) ?? 0
  const wantedPct = wantedWashLinePct(document)
  const lineOf = (d: DrinkDocument): { ok: true; pct: number } | { ok: false; problem: string } => {
    const resolution = resolveDrink(d, book, well)
    if (!resolution.ok) return { ok: false, problem: resolution.problems[0]?.message ?? 'cannot be computed' }
    const start = startDrink(resolution.drink)
    const made = finishDrink(resolution.drink, start, start, 0, COARSENESS)
    if (!made.ok) return { ok: false, problem: outsideModel(made) }
    const fill = made.served?.fill
    if (!fill) return { ok: false, problem: 'has no glass' }
    // Above the brim it goes on rising, so that a root is found beyond it, too.
    return { ok: true, pct: fill.washLinePct + (100 * fill.overflowMl) / fill.brimMl }
  }
  const exactly = (factor: number) =>
    scaled(document, factor, glass, (line) => ({ unit: 'ml', value: volumeMlOf(line) * factor }))
  const first = lineOf(exactly(1))
  if (!first.ok) return { outcome: 'problem', problem: first.problem }
  const off = (factor: number) => {
    const line = lineOf(exactly(factor))
    return line.ok ? line.pct - wantedPct : Number.NaN
  }
  const largestMl = Math.max(...document.pours.map(volumeMlOf))
  const mostTimes = Math.min(MOST_TIMES, MOST_POUR_ML / largestMl)
  const found = bisect(off, LEAST_TIMES, mostTimes, { tolerance: 1e-3 })
  if (found.outcome === 'noBracket' && Number.isNaN(found.atLow + found.atHigh))
    return { outcome: 'problem', problem: 'cannot be computed much smaller or larger' }
  if (found.outcome === 'noBracket')
    return { outcome: 'cannotBeReached', lowestPct: found.atLow + wantedPct, highestPct: found.atHigh + wantedPct }
  const factor = found.value

  const grid = pourGrid(book.settings.measures ?? usualMeasures(kit))
  const smallestMl = grid[0]?.volumeMl ?? 0
  let offGridPct = 0
  const poured = scaled(document, factor, glass, (line) => {
    const exactMl = volumeMlOf(line) * factor
    // Less than any measure holds is counted in drops or poured by eye: it stays exact.
    const onGridMl = exactMl < smallestMl ? exactMl : (nearestOnGrid(exactMl, grid)?.volumeMl ?? exactMl)
    offGridPct = Math.max(offGridPct, 100 * Math.abs(onGridMl / exactMl - 1))
    return amountLike(line.amount, onGridMl, kit.ounceMl)
  })
  const line = lineOf(poured)
  if (!line.ok) return { outcome: 'problem', problem: line.problem }
  const { volumeMl: _, washLinePct: __, ...standard } = poured.standard
  const spec = { ...poured, standard }
  const resolution = resolveDrink(spec, book, well)
  const solved = resolution.ok
    ? solveMeans(resolution.drink, standard, book.settings, { looksForHelp: false })
    : undefined
  // Its ice has just been scaled with it: seconds that want other ice are no answer here.
  const durationS = solved?.outcome === 'reached' && !solved.isOtherIce ? solved.durationS : undefined
  return {
    outcome: 'scaled',
    factor,
    document: durationS === undefined ? spec : withSeconds(spec, well, durationS),
    washLinePct: line.pct,
    offGridPct,
    durationS,
  }
}

/** A spec in another glass: dashes and drops by the count, everything else as it is told, all ice as a hand scoops. */
function scaled(
  document: DrinkDocument,
  factor: number,
  glass: string,
  amountOf: (line: PourLine) => NonNullable<PourLine['amount']>,
): DrinkDocument {
  const { glassProfile: _, glassByWell: __, ...rest } = document
  const byWell = <T, U>(record: Record<string, T> | undefined, change: (value: T) => U) =>
    record && Object.fromEntries(Object.entries(record).map(([well, value]) => [well, change(value)]))
  return {
    ...rest,
    glass,
    pours: document.pours.map(({ volumeMl, ...line }) => {
      const { amount } = line
      const counts = amount !== undefined && isCounted(amount.unit)
      const value = counts ? Math.max(1, Math.round(amount.value * factor)) : 0
      return { ...line, amount: counts ? { unit: amount.unit, value } : amountOf({ ...line, volumeMl }) }
    }),
    stages: document.stages.map((stage) => {
      const ice = stage.ice ?? (stage.method && METHODS[stage.method].usual.ice)
      return {
        ...stage,
        ...(ice ? { ice: scoopedTimes(ice, factor) } : {}),
        byWell: byWell(stage.byWell, (here) => (here.ice ? { ...here, ice: scoopedTimes(here.ice, factor) } : here)),
      }
    }),
    serveIce: scoopedTimes(document.serveIce, factor),
    serveIceByWell: byWell(document.serveIceByWell, (ice) => scoopedTimes(ice, factor)),
  }
}
