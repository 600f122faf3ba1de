import { isAllIn, type Round, type Step } from '@conch/core/service'
import { drinkTonight } from '@conch/core/tonight'
import { useHouse } from '../../app/house.tsx'

/** What ran out while the round is made, in a sentence; undefined: nothing. */
export function useDarkNow(round: Round, steps: readonly Step[]): string | undefined {
  const { book } = useHouse()
  const { loads, well } = round
  const gone = loads.flatMap(({ id, document }) =>
    drinkTonight(document, book, well).missing.flatMap(({ kind, of, name }) => {
      // What is in already is not missed.
      const lines = document.pours.flatMap((p, i) => ((kind === 'slot' ? p.slot : p.ingredient) === of ? [i] : []))
      return isAllIn(steps, round, id, lines)
        ? []
        : [`${name} is out now: ${document.name} goes on with something instead, or not at all`]
    }),
  )
  return gone[0] && `${gone[0]}. Nothing that you ticked is lost.`
}
