import { type LoadToMake, type Round, stepsOf } from '@conch/core/service'
import { useMemo } from 'react'
import { useHouse } from '../../app/house.tsx'
import { useLoads } from '../../workers/round.ts'
import { inTinOf } from './railRound.ts'

/** The loads of a round as they are made, and its steps. They are there at once; what is reckoned of the ice comes to them. */
export function useSteps(round: Round) {
  const { book } = useHouse()
  const { loads, poured } = round
  const asked = useMemo(
    () =>
      loads.map(({ id, document, glasses }) => {
        const inTin = inTinOf({ poured }, id)
        return { document, glasses, ...(Object.keys(inTin).length > 0 ? { inTin } : {}) }
      }),
    [loads, poured],
  )
  const made = useLoads(asked, book, round.well)
  const toMake = useMemo(
    () =>
      loads.map(
        ({ id, document, glasses }, i): LoadToMake => ({
          id,
          name: document.name,
          document,
          glasses,
          made: made?.[i],
          inTin: inTinOf({ poured }, id),
        }),
      ),
    [loads, poured, made],
  )
  const steps = useMemo(() => stepsOf(toMake, book, round.well), [toMake, book, round.well])
  return { toMake, steps, isReckoned: made !== undefined }
}
