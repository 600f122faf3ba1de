import type { Round } from '@conch/core/service'
import { drinkTonight } from '@conch/core/tonight'
import { useHouse } from '../../app/house.tsx'

/** What ran out while the round is made, in a sentence; undefined: nothing. */
export function useDarkNow({ loads, well, ticks }: Round): string | undefined {
  const { book } = useHouse()
  const gone = loads.flatMap(({ id, document }) =>
    drinkTonight(document, book, well).missing.flatMap(({ kind, of, name }) => {
      // What is in the tin already is not missed.
      const lines = document.pours.flatMap((p, i) => ((kind === 'slot' ? p.slot : p.ingredient) === of ? [i] : []))
      const isIn = lines.length > 0 && lines.every((i) => ticks.includes(`pour:${id}:${i}`))
      return isIn ? [] : [`${name} is out now: ${document.name} goes on with something instead, or not at all`]
    }),
  )
  return gone[0] && `${gone[0]}. Nothing that you ticked is lost.`
}
