import { nightText } from '@conch/core/calendar'
import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { editionQuery } from '../../app/queries.ts'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { Margin, SpecSheet } from '../drink/index.ts'
import { lockedWell } from './lockedWell.ts'

/** A drink as an edition froze it: sheet, glass and figures of the day, none computed again. */
export function LockedDrinkPage() {
  const { number: text, drink: slug } = useParams()
  const { well, clock } = useHouse()
  const edition = useQuery(editionQuery(Number(text)))
  if (edition.isPending) return <Loading what="the edition" />
  if (!edition.data) return <Failure error={edition.error} onRetry={() => edition.refetch()} />
  const { lock, name, number, publishedAt } = edition.data
  const locked = lock.chapters.flatMap((c) => c.drinks).find((d) => d.drink === slug)
  if (!locked) return <Empty title="Not on this menu">Edition {number} does not pour it.</Empty>
  const shown = lockedWell(lock, well.slug)
  const at = locked.byWell[shown.slug]
  return (
    <div className="grid gap-x-6 px-4 pt-3 pb-8 lg:grid-cols-[minmax(0,1fr)_23.500rem]">
      <div className="min-w-0">
        <header className="mb-3">
          <p className="mb-1 inline-block border border-standard px-2 py-0.5 text-sm text-standard">
            as published in{' '}
            <Link className="underline" to={`/editions/${number}`}>
              {name}
            </Link>
            , {nightText(publishedAt, clock)}; it does not change
          </p>
          <h1 className="text-3xl break-words">{locked.name}</h1>
          <p className="caption">
            version {locked.version} {locked.versionLabel && `· ${locked.versionLabel}`} ·{' '}
            <Link className="underline" to={`/drinks/${locked.drink}`}>
              today’s page
            </Link>
          </p>
        </header>
        <SpecSheet document={locked.document} book={lock.book} well={shown} result={at?.result} />
      </div>
      <aside aria-label="Figures as published" className="border-hair max-lg:mt-4 lg:border-l lg:pl-5">
        {at && (
          <Margin
            document={locked.document}
            book={lock.book}
            well={shown}
            result={at.result}
            consequences={at.consequences}
          />
        )}
      </aside>
    </div>
  )
}
