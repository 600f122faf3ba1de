import { shortDayText } from '@conch/core/calendar'
import { endOf, measuredOf, staleOfLot, standingOfLot } from '@conch/core/formula'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { hasAllWords } from '../../ui/hasAllWords.ts'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { lotsQuery } from './useLots.ts'

const TONES = { fresh: '', due: 'text-mind', expired: 'text-stop font-semibold', gone: 'text-soft' }

/** The newest lots, gone ones too: what was made, what came of it. */
export function LotsPage() {
  const lots = useQuery(lotsQuery)
  const { today } = useHouse()
  const [wanted, setWanted] = useState('')
  if (lots.isPending) return <Loading what="the lots" />
  if (!lots.data) return <Failure error={lots.error} onRetry={() => lots.refetch()} />
  const found = lots.data.filter((l) => hasAllWords(`${l.name} lot ${l.id} ${l.madeBy}`, wanted))
  return (
    <div className="px-4 pt-4 pb-10">
      <header className="mb-3 flex flex-wrap items-center gap-3">
        <h1 className="mr-auto text-3xl">Lots</h1>
        <input
          type="search"
          aria-label="Find a lot"
          placeholder="Find a lot"
          className="field max-w-60"
          value={wanted}
          onChange={(e) => setWanted(e.target.value)}
        />
        <Link to="/mixes" className="act">
          House mixes
        </Link>
      </header>
      {lots.data.length === 0 && (
        <Empty title="No lot is written down yet">Make one from a mix, or press a juice.</Empty>
      )}
      {lots.data.length > 0 && found.length === 0 && <p className="text-soft">No lot is called “{wanted}”.</p>}
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
    </div>
  )
}
