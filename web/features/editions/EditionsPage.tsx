import type { EditionSummary } from '@conch/contract'
import { nightText } from '@conch/core/calendar'
import { hasAllWords } from '@conch/core/text'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { editionsQuery } from '../../app/queries.ts'
import { useAddress } from '../../app/useAddress.ts'
import { Seal } from '../../graphics/Seal.tsx'
import type { ListColumn } from '../../list/columns.ts'
import { ListPage, type ListSort, useListSort } from '../../list/ListPage.tsx'
import { rowsOf } from '../../list/useRows.ts'
import { Empty, Failure, Loading } from '../../ui/States.tsx'

const ROW_PX = 54
const ORDERS: Record<string, (a: EditionSummary, b: EditionSummary) => number> = {
  number: (a, b) => a.number - b.number,
  name: (a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }),
  drinks: (a, b) => a.drinkCount - b.drinkCount,
}

/** Every edition ever published, newest first. */
export function EditionsPage() {
  const { clock } = useHouse()
  const { search } = useAddress()
  const words = search.get('words') ?? ''
  const editions = useQuery(editionsQuery)
  const newest = editions.data?.[0]?.number
  const columns = useMemo<readonly ListColumn<EditionSummary>[]>(
    () => [
      {
        id: 'name',
        label: 'edition',
        sort: 'name',
        width: 'minmax(0, 1fr)',
        cell: (e) => (
          <span className="min-w-0 py-1">
            <span className="text-lg">{e.name}</span> {e.number === newest && <Seal title="poured today" />}
            {e.note && <span className="block truncate text-sm text-soft">{e.note}</span>}
          </span>
        ),
        csv: (e) => e.name,
      },
      {
        id: 'number',
        label: 'number',
        sort: 'number',
        isDownFirst: true,
        width: '4rem',
        isRight: true,
        cell: (e) => <span className="font-display text-lg">{e.number}</span>,
        csv: (e) => e.number,
      },
      {
        id: 'published',
        label: 'published',
        width: 'minmax(6.500rem, 0.400fr)',
        cell: (e) => (
          <span className="text-sm">
            {nightText(e.publishedAt, clock)}, {e.publishedBy}
          </span>
        ),
        csv: (e) => `${e.publishedAt}, ${e.publishedBy}`,
      },
      {
        id: 'drinks',
        label: 'drinks',
        sort: 'drinks',
        isDownFirst: true,
        from: 'sm',
        width: '4rem',
        isRight: true,
        cell: (e) => e.drinkCount,
        csv: (e) => e.drinkCount,
      },
      {
        id: 'note',
        label: 'note',
        isExtra: true,
        width: 'minmax(0, 0.700fr)',
        cell: (e) => <span className="block truncate text-sm">{e.note}</span>,
        csv: (e) => e.note,
      },
    ],
    [clock, newest],
  )
  const { sort } = useListSort('editions', columns, { by: 'number', isDown: true })
  if (editions.isPending) return <Loading what="the editions" />
  if (!editions.data) return <Failure error={editions.error} onRetry={() => editions.refetch()} />
  const found = editions.data.filter((e) => hasAllWords(`${e.number} ${e.name} ${e.note} ${e.publishedBy}`, words))
  return (
    <ListPage
      list="editions"
      title="Editions"
      noun="published edition"
      said={words === '' ? `${found.length} published` : `${found.length} found`}
      rows={rowsOf(inOrder(found, sort), `${words} ${sort.by} ${sort.isDown}`)}
      columns={columns}
      sort={sort}
      rowPx={ROW_PX}
      idOf={(e) => String(e.number)}
      nameOf={(e) => e.name}
      opens={(e) => `/editions/${e.number}`}
      whatToDo={() => null}
      empty={
        <Empty title="Nothing is published yet">
          An edition freezes the menu with all its figures. Plan the first one under{' '}
          <Link className="underline" to="/next">
            Next edition
          </Link>
          .
        </Empty>
      }
    />
  )
}

function inOrder(editions: readonly EditionSummary[], { by, isDown }: ListSort): EditionSummary[] {
  const sorted = editions.toSorted(ORDERS[by] ?? ORDERS.number)
  return isDown ? sorted.reverse() : sorted
}
