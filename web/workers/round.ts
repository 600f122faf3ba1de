import type { DrinkDocument } from '@conch/core/drink'
import type { HouseBook } from '@conch/core/house'
import type { AskedFor, ChillClock, InTin, MadeLoad, Poured, Rescue, WorkedOtherwise } from '@conch/core/service'
import { bookId, computerWith, useComputed } from './compute.ts'
import type { Planned } from './compute.worker.ts'

/**
 * A round planned beside the page.
 * @param keptFor as long as that is the same, the last plan stays while the next is made
 */
export function usePlan(
  asked: readonly AskedFor[],
  byHand: readonly { of: number; glasses: number; goes?: number }[] | undefined,
  book: HouseBook,
  well: string,
  keptFor: string,
): Planned | undefined {
  const key = asked.length > 0 ? `plan ${bookId(book)} ${well} ${JSON.stringify([asked, byHand])}` : undefined
  const ask =
    key === undefined ? undefined : async () => computerWith(book).plan(asked, byHand, well) as Promise<Planned>
  return useComputed<Planned>(key, ask, keptFor)
}

/**
 * How each load of a round is made; of one that is not known yet nothing.
 * @param loads inTin: what was poured otherwise than asked for, as `leftSo` reads it
 */
export function useLoads(
  loads: readonly { document: DrinkDocument; glasses: number; goes?: number; inTin?: Poured }[],
  book: HouseBook,
  well: string,
): (MadeLoad | undefined)[] | undefined {
  const key = loads.length > 0 ? `loads ${bookId(book)} ${well} ${JSON.stringify(loads)}` : undefined
  const ask =
    key === undefined
      ? undefined
      : async () => computerWith(book).loads(loads, well) as Promise<(MadeLoad | undefined)[]>
  // Of what is only begun, or poured otherwise, the last stays while it is reckoned anew: nothing jumps.
  const same = JSON.stringify(loads.map(({ document, glasses }) => [document, glasses]))
  return useComputed(key, ask, `${well} ${same}`)
}

/** The clock of a load. */
export function useChillClock(
  document: DrinkDocument | undefined,
  made: MadeLoad | undefined,
  book: HouseBook,
  well: string,
): ChillClock | undefined {
  const isReady = document && made
  const asked = made && {
    glasses: made.glasses,
    goes: made.goes,
    iceTimes: made.iceTimes,
    durationS: made.durationS,
    window: made.window,
    inTin: made.inTin,
  }
  const key = isReady ? `clock ${bookId(book)} ${well} ${JSON.stringify([document, asked])}` : undefined
  const ask =
    document && asked
      ? async () => computerWith(book).clock(document, asked, well) as Promise<ChillClock | undefined>
      : undefined
  return useComputed<ChillClock | undefined>(key, ask)
}

/** What a glass is after so many seconds; undefined: not asked, or being computed. */
export function useWorked(
  document: DrinkDocument,
  made: MadeLoad | undefined,
  workedS: number | undefined,
  book: HouseBook,
  well: string,
): WorkedOtherwise | undefined {
  const isReady = made && workedS !== undefined && workedS > 0
  const key = isReady
    ? `worked ${bookId(book)} ${well} ${workedS} ${made.glasses} ${made.goes} ${made.iceTimes} ${JSON.stringify([document, made.inTin])}`
    : undefined
  const ask = isReady
    ? async () =>
        computerWith(book).worked(
          document,
          {
            glasses: made.glasses,
            goes: made.goes,
            iceTimes: made.iceTimes,
            standard: made.standard,
            inTin: made.inTin,
          },
          workedS,
          well,
        ) as Promise<WorkedOtherwise | undefined>
    : undefined
  return useComputed<WorkedOtherwise | undefined>(key, ask)
}

/** What can be done with a tin that has a wrong amount in it. */
export function useRescue(
  { document, glasses, goes }: { document: DrinkDocument; glasses: number; goes?: number },
  inTin: InTin | undefined,
  book: HouseBook,
  well: string,
): Rescue | undefined {
  const key = inTin && `rescue ${bookId(book)} ${well} ${glasses} ${goes} ${JSON.stringify([document, inTin])}`
  const ask =
    inTin &&
    (async () => computerWith(book).rescue(document, glasses, goes, inTin, well) as Promise<Rescue | undefined>)
  return useComputed<Rescue | undefined>(key, ask)
}
