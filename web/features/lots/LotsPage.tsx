import { shortDayText } from '@conch/core/calendar'
import { endOf, measuredOf, staleOfLot, standingOfLot } from '@conch/core/formula'
import { useInfiniteQuery } from '@tanstack/react-query'
import { Link, useSearchParams } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { MoreRows } from '../../ui/MoreRows.tsx'
import { SearchField } from '../../ui/SearchField.tsx'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { lotListQuery } from './useLots.ts'

const TONES = { fresh: '', due: 'text-mind', expired: 'text-stop font-semibold', gone: 'text-soft' }

const TYPING_MS = 150
const ORDERS = { newest: 'newest first', useBy: 'what is to be used first' } as const

/** The lots, gone ones too: what was made, what came of it. What is looked for stands in the address. */
export function LotsPage() {
  const { today } = useHouse()
  const [search, setSearch] = useSearchParams()
  const wanted = search.get('words') ?? ''
  const sort = search.get('sort') === 'useBy' ? 'useBy' : 'newest'
  const isOpenOnly = search.get('open') === 'yes'
  const list = useInfiniteQuery(
    lotListQuery({
      words: wanted,
      sort: sort === 'newest' ? undefined : sort,
      open: isOpenOnly ? 'yes' : undefined,
    }),
  )
  const put = (key: string, value: string | undefined) =>
    setSearch(
      (before) => {
        const next = new URLSearchParams(before)
        if (value) next.set(key, value)
        else next.delete(key)
        return next
      },
      { replace: true },
    )
  if (list.isPending) return <Loading what="the lots" />
  if (!list.data) return <Failure error={list.error} onRetry={() => list.refetch()} />
  const [first] = list.data.pages
  const found = list.data.pages.flatMap((p) => p.rows)
  const isAll = wanted === '' && !isOpenOnly
  return (
    <div className="px-4 pt-4 pb-10">
      <header className="mb-3 flex flex-wrap items-center gap-3">
        <div className="mr-auto">
          <h1 className="text-3xl">Lots</h1>
          <p className="caption" role="status">
            {first?.total ?? 0} {isAll ? 'ever made' : 'found'} · {first?.open ?? 0} there now
          </p>
        </div>
        <label className="flex min-h-8 items-center gap-2 text-sm max-sm:min-h-11">
          <input
            type="checkbox"
            checked={isOpenOnly}
            onChange={(e) => put('open', e.target.checked ? 'yes' : undefined)}
          />
          only what is there
        </label>
        <select
          aria-label="Order"
          className="field w-auto"
          value={sort}
          onChange={(e) => put('sort', e.target.value === 'newest' ? undefined : e.target.value)}
        >
          {Object.entries(ORDERS).map(([key, label]) => (
            <option key={key} value={key}>
              {label}
            </option>
          ))}
        </select>
        <SearchField label="Find a lot" value={wanted} waitMs={TYPING_MS} onChange={(words) => put('words', words)} />
        <Link to="/mixes" className="act">
          House mixes
        </Link>
      </header>
      {found.length === 0 && isAll && (
        <Empty title="No lot is written down yet">Make one from a mix, or press a juice.</Empty>
      )}
      {found.length === 0 && !isAll && (
        <p className="text-soft">{wanted ? `No lot is called “${wanted}”.` : 'Nothing is there.'}</p>
      )}
      <table className="w-full max-w-5xl">
        <tbody>
          {found.map((lot) => {
            const own = standingOfLot(lot, today)
            const hasStale = own !== 'gone' && own !== 'expired' && staleOfLot(lot, today).length > 0
            const standing = hasStale ? 'expired' : own
            const end = endOf(lot)
            const m = measuredOf(lot)?.measured
            const read = [
              m?.brix !== undefined && `${m.brix} °Bx`,
              m?.massG !== undefined && `${m.massG} g`,
              m?.volumeMl !== undefined && `${m.volumeMl} ml`,
            ]
            const ended = end === 'discarded' ? 'discarded' : 'used up'
            const until = lot.useBy ? `by ${shortDayText(lot.useBy, today)}` : 'no use-by'
            return (
              <tr key={lot.id} className={`border-b border-hair/60 hover:bg-shoal ${TONES[standing]}`}>
                <td className="w-12 text-right text-soft">{lot.id}</td>
                <th scope="row" className="pl-3 text-left font-normal">
                  <Link to={`/lots/${lot.id}`} className="flex min-h-9 items-center hover:underline max-sm:min-h-11">
                    {lot.name}
                  </Link>
                </th>
                <td className="text-sm">
                  {shortDayText(lot.madeOn, today)}, {lot.madeBy}
                </td>
                <td className="text-sm max-sm:hidden">{read.filter(Boolean).join(', ')}</td>
                <td className="text-right text-sm">
                  {end
                    ? ended
                    : hasStale
                      ? 'something in it is expired'
                      : standing === 'fresh'
                        ? until
                        : `${until}: ${standing}`}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {list.hasNextPage && (
        <MoreRows
          left={(first?.total ?? 0) - found.length}
          isBusy={list.isFetchingNextPage}
          onMore={() => void list.fetchNextPage()}
        />
      )}
    </div>
  )
}
