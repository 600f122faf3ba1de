import { METHODS } from '../cold/index.ts'
import type { DrinkDocument, PourLine } from '../drink/index.ts'
import { isCounted } from '../measure/index.ts'
import { scoopedTimes } from './change.ts'

/** Half a dash can be poured, a tenth of one not. */
const COUNT_STEP = 0.5
const MOST_VALUE = 1000

function poured(line: PourLine, factor: number): PourLine {
  const { volumeMl, amount, ...rest } = line
  if (volumeMl !== undefined) return { ...rest, volumeMl: Math.min(MOST_VALUE, volumeMl * factor) }
  if (!amount) return line
  const value = amount.value * factor
  const counted = Math.max(COUNT_STEP, Math.round(value / COUNT_STEP) * COUNT_STEP)
  return {
    ...rest,
    amount: {
      unit: amount.unit,
      value: Math.min(MOST_VALUE, isCounted(amount.unit) ? counted : Number(value.toFixed(4))),
    },
  }
}

/**
 * A spec for another number of guests, in one vessel: a bowl for n, or one serve out of a bowl. Pours and ice by the same
 * factor, counted things by halves. Volume and wash line leave the standard: they are what changed; what is in every
 * 100 ml stays promised.
 * @param serves 1 to 12
 */
export function scaleServes(document: DrinkDocument, serves: number): DrinkDocument {
  const factor = serves / document.serves
  if (factor === 1) return document
  const byWell = <T, U>(record: Record<string, T> | undefined, change: (value: T) => U) =>
    record && Object.fromEntries(Object.entries(record).map(([well, value]) => [well, change(value)]))
  const { volumeMl: _, washLinePct: __, ...standard } = document.standard
  return {
    ...document,
    serves,
    standard,
    pours: document.pours.map((line) => poured(line, factor)),
    stages: document.stages.map((stage) => {
      const ice = stage.ice ?? (stage.method && METHODS[stage.method].usual.ice)
      return {
        ...stage,
        ...(ice ? { ice: scoopedTimes(ice, factor) } : {}),
        ...(stage.byWell
          ? {
              byWell: byWell(stage.byWell, (here) =>
                here.ice ? { ...here, ice: scoopedTimes(here.ice, factor) } : here,
              ),
            }
          : {}),
      }
    }),
    serveIce: scoopedTimes(document.serveIce, factor),
    ...(document.serveIceByWell
      ? { serveIceByWell: byWell(document.serveIceByWell, (ice) => scoopedTimes(ice, factor)) }
      : {}),
  }
}
