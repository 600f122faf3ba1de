import { MEASURES } from '@conch/core/drink'
import { useQuery } from '@tanstack/react-query'
import { useHouse } from '../../app/house.tsx'
import { editionQuery } from '../../app/queries.ts'
import { useShelfFor } from '../../app/shelf.ts'
import { measureText } from '../../graphics/format.ts'
import { Computing } from '../../workers/Computing.tsx'
import { useCauses } from '../../workers/compute.ts'
import { causeText, sharesOf, shareText } from './causeWords.ts'
import type { Adrift } from './driftOf.ts'

/** What moved a drink since its edition, shared out among what changed: computed when somebody asks. */
export function WhyAdrift({ adrift, edition }: { adrift: Adrift; edition: number }) {
  const { book } = useHouse()
  const lock = useQuery(editionQuery(edition)).data?.lock
  const locked = lock?.chapters.flatMap((c) => c.drinks).find((d) => d.drink === adrift.drink)
  const { isReady } = useShelfFor([locked?.document])
  const then = locked?.byWell[adrift.well]?.result.predictions
  const found = useCauses(
    isReady && lock && locked && then
      ? { document: locked.document, locked: lock.book, lockedPredictions: then, today: book, well: adrift.well }
      : undefined,
  )
  if (lock && !then) return <p className="text-sm text-soft">This well was not there when the edition was published.</p>
  if (!found) return <Computing what="what moved it" />
  if (!found.ok) return <p className="text-sm text-mind">What moved it is not known: {found.reason}.</p>
  const { moved } = found
  return (
    <ul className="space-y-1">
      {adrift.off.map(({ measure }) => {
        const m = moved.measures[measure]
        const shares = sharesOf(moved, measure)
        if (!m) return null
        return (
          <li key={measure}>
            <p>
              <b className="font-semibold">
                {MEASURES[measure].label} {shareText(measure, m.now - m.was)}
              </b>{' '}
              <span className="text-soft">
                since the edition: {measureText(measure, m.was)} → {measureText(measure, m.now)}
              </span>
            </p>
            {shares.length === 0 ? (
              <p className="pl-4 text-sm text-soft">
                It was outside when it was published; nothing has moved it since.
              </p>
            ) : (
              <ul className="pl-4 text-sm">
                {shares.map(({ cause, share }) => (
                  <li key={causeText(cause)} className="grid grid-cols-[4rem_minmax(0,1fr)] gap-x-2">
                    <span className="text-right tabular-nums">{shareText(measure, share)}</span>
                    <span>{causeText(cause)}</span>
                  </li>
                ))}
              </ul>
            )}
          </li>
        )
      })}
    </ul>
  )
}
