import { nightText } from '@conch/core/calendar'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { editionsQuery } from '../../app/queries.ts'
import { Seal } from '../../graphics/Seal.tsx'
import { Empty, Failure, Loading } from '../../ui/States.tsx'

/** Every edition ever published, newest first. */
export function EditionsPage() {
  const { clock } = useHouse()
  const editions = useQuery(editionsQuery)
  if (editions.isPending) return <Loading what="the editions" />
  if (!editions.data) return <Failure error={editions.error} onRetry={() => editions.refetch()} />
  if (editions.data.length === 0)
    return (
      <Empty title="Nothing is published yet">
        An edition freezes the menu with all its figures. Plan the first one under “Next edition”.
      </Empty>
    )
  return (
    <div className="px-4 pt-4 pb-10">
      <h1 className="mb-3 text-3xl">Editions</h1>
      <ol className="max-w-3xl">
        {editions.data.map((e, i) => (
          <li key={e.number} className="border-b border-hair/60">
            <Link
              to={`/editions/${e.number}`}
              className="grid grid-cols-[2.500rem_1fr_auto] items-baseline gap-x-2 py-2 hover:bg-shoal"
            >
              <span className="font-display text-xl">{e.number}</span>
              <span>
                <span className="text-lg">{e.name}</span> {i === 0 && <Seal title="poured today" />}
                {e.note && <span className="block text-sm text-soft">{e.note}</span>}
              </span>
              <span className="caption text-right">
                {nightText(e.publishedAt, clock)}
                <br />
                {e.drinkCount} drinks, {e.publishedBy}
              </span>
            </Link>
          </li>
        ))}
      </ol>
    </div>
  )
}
