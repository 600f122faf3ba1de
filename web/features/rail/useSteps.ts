import { goName, type LoadToMake, MOST_GOES, type Poured, type Round, stepsOf } from '@conch/core/service'
import { useMemo } from 'react'
import { useHouse } from '../../app/house.tsx'
import { useLoads } from '../../workers/round.ts'
import { BEFORE, inTinOf } from './railRound.ts'

/** What was poured otherwise of a load, go by go; undefined: all as it was asked for. */
function pouredOf(poured: Round['poured'], load: string): Poured | undefined {
  const goes = Array.from({ length: MOST_GOES }, (_, i) => inTinOf({ poured }, goName(load, i + 1)))
  return goes.some((go) => Object.keys(go).length > 0) ? goes : undefined
}

/** The loads of a round as they are made, and its steps. They are there at once; what is reckoned of the ice comes to them. */
export function useSteps(round: Round) {
  const { book } = useHouse()
  const isBegun = round.ticks.includes(BEFORE)
  // Begun by pages that knew no goes, it is made all at once.
  const loads = useMemo(
    () => round.loads.map((load) => (isBegun ? { ...load, goes: load.goes ?? 1 } : load)),
    [round.loads, isBegun],
  )
  const poured = useMemo(() => loads.map(({ id }) => pouredOf(round.poured, id)), [loads, round.poured])
  const asked = useMemo(
    () =>
      loads.map(({ document, glasses, goes }, i) => ({
        document,
        glasses,
        ...(goes && { goes }),
        ...(poured[i] && { inTin: poured[i] }),
      })),
    [loads, poured],
  )
  const made = useLoads(asked, book, round.well)
  const toMake = useMemo(
    () =>
      loads.map(
        ({ id, document, glasses, goes }, i): LoadToMake => ({
          id,
          name: document.name,
          document,
          glasses,
          made: made?.[i],
          ...(goes && { goes }),
          ...(poured[i] && { inTin: poured[i] }),
        }),
      ),
    [loads, poured, made],
  )
  const steps = useMemo(() => stepsOf(toMake, book, round.well), [toMake, book, round.well])
  return { toMake, steps, isReckoned: made !== undefined }
}
