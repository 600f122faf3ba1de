import type { Tasting } from '@conch/contract'
import { nightText } from '@conch/core/calendar'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { Failure, Loading } from '../../ui/States.tsx'
import { MakersSheet } from './MakersSheet.tsx'
import { tastingQuery } from './queries.ts'
import { TastersSheet } from './TastersSheet.tsx'
import { TastingResults } from './TastingResults.tsx'

/** One blind tasting: the sheet of a taster, of the maker, or what came out. */
export function TastingPage() {
  const id = Number(useParams().id)
  const { clock } = useHouse()
  const tasting = useQuery(tastingQuery(id))
  if (tasting.isPending) return <Loading what="the tasting" />
  if (!tasting.data) return <Failure error={tasting.error} onRetry={() => tasting.refetch()} />
  const { document, end, names, savedAt } = tasting.data
  return (
    <div className="max-w-3xl px-4 pt-4 pb-10">
      <h1 className="text-3xl break-words">{document.question}</h1>
      <p className="caption mb-3">
        {[...names].sort().join(' · ')} · made by {document.maker}, {nightText(savedAt, clock)}
      </p>
      {end?.event.kind === 'closed' && <TastingResults tasting={tasting.data} codes={end.event.key.codes} />}
      {end?.event.kind === 'abandoned' && (
        <p>
          It was given up by {end.by}: “{end.event.why}”. Nobody learned which glass was which.
        </p>
      )}
      {!end && <Open tasting={tasting.data} />}
    </div>
  )
}

function Open({ tasting }: { tasting: Tasting }) {
  const who = useWho()
  const [taster, setTaster] = useState<string>()
  const { document, judged } = tasting
  if (who.id === document.makerId) return <MakersSheet tasting={tasting} />
  if (taster) return <TastersSheet tasting={tasting} taster={taster} onDone={() => setTaster(undefined)} />
  return (
    <section aria-label="Who tastes">
      <h2 className="mb-2 text-lg">Who are you?</h2>
      <ul className="grid gap-2 sm:grid-cols-2">
        {document.tasters.map((name) => (
          <li key={name}>
            <button type="button" className="act min-h-14 w-full justify-between" onClick={() => setTaster(name)}>
              <span>{name}</span>
              <span className="caption">
                {judged[name] ?? 0} of {document.subjects.length}
              </span>
            </button>
          </li>
        ))}
      </ul>
      <p className="caption mt-3">
        Nobody but {document.maker} sees which glass is which until it is closed. What others write is seen then, too.
      </p>
    </section>
  )
}
