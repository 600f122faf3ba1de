import { type LoadToMake, type Round, stepsOf } from '@conch/core/service'
import { useMemo } from 'react'
import { useHouse } from '../../app/house.tsx'
import { useLoads } from '../../workers/round.ts'
import { inTinOf } from './railRound.ts'

/** The loads of a round as they are made, and its steps. They are there at once; what is reckoned of the ice comes to them. */
export function useSteps(round: Round) {
  const { book } = useHouse()
  const made = useLoads(
    useMemo(() => round.loads.map(({ document, glasses }) => ({ document, glasses })), [round.loads]),
    book,
    round.well,
  )
  const { loads, poured } = round
  const toMake = useMemo(
    () =>
      loads.map(
        ({ id, document, glasses }, i): LoadToMake => ({
          id,
          name: document.name,
          document,
          glasses,
          made: made?.[i],
          inTin: inTinOf({ poured } as Round, id),
        }),
      ),
    [loads, poured, made],
  )
  const steps = useMemo(() => stepsOf(toMake, book, round.well), [toMake, book, round.well])
  return { toMake, steps, isReckoned: made !== undefined }
}
