import { nightText } from '@conch/core/calendar'
import type { MeasureName } from '@conch/core/drink'
import { MEASURES } from '@conch/core/drink'
import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useOpened } from '../../app/lastOpened.ts'
import { editionQuery } from '../../app/queries.ts'
import { bareMeasureText } from '../../graphics/format.ts'
import { Failure, Loading } from '../../ui/States.tsx'
import { lockedWell } from './lockedWell.ts'

const COLUMNS: MeasureName[] = [
  'strengthPct',
  'sweetGPer100Ml',
  'sourGPer100Ml',
  'dilutionPct',
  'temperatureC',
  'volumeMl',
]

/** A phone has room for what is tasted; the drink's own page says the rest. */
const columnClass = (m: MeasureName) => (m === 'temperatureC' || m === 'volumeMl' ? 'max-sm:hidden' : '')

/** An edition as it was published: nothing here is computed again. */
export function EditionPage() {
  const number = Number(useParams().number)
  const { well, clock } = useHouse()
  const edition = useQuery(editionQuery(number))
  useOpened(edition.data && `${edition.data.name}, edition ${number}`)
  if (edition.isPending) return <Loading what="the edition" />
  if (!edition.data) return <Failure error={edition.error} onRetry={() => edition.refetch()} />
  const { lock, name, note, publishedAt, publishedBy } = edition.data
  const shown = lockedWell(lock, well.slug)
  return (
    <div className="px-4 pt-4 pb-10">
      <header className="mb-3">
        <p className="caption">Edition {number}</p>
        <h1 className="text-3xl">{name}</h1>
        <p className="text-soft">
          {nightText(publishedAt, clock)}, {publishedBy}
          {note && ` · ${note}`}
        </p>
        <p className="caption">
          Figures as published, at the {shown.name}
          {shown.slug !== well.slug && ` (there was no ${well.name} then)`}.
        </p>
      </header>
      <div className="overflow-x-auto">
        <table className="w-full max-w-5xl">
          {lock.chapters.map((chapter) => (
            <tbody key={chapter.name}>
              <tr className="border-b border-ink">
                <th scope="colgroup" className="pt-4 text-left font-display text-lg font-semibold">
                  {chapter.name}
                </th>
                {COLUMNS.map((m) => (
                  <th
                    key={m}
                    scope="col"
                    className={`caption px-2 pt-4 text-right align-bottom font-normal max-sm:px-1 ${columnClass(m)}`}
                  >
                    {MEASURES[m].label}, {MEASURES[m].unit}
                  </th>
                ))}
              </tr>
              {chapter.drinks.map((d) => {
                const predictions = d.byWell[shown.slug]?.result.predictions
                return (
                  <tr key={d.drink} className="border-b border-hair/60 hover:bg-shoal">
                    <th scope="row" className="py-1.5 text-left font-normal">
                      <Link to={`/editions/${number}/${d.drink}`} className="hover:underline">
                        {d.name}
                      </Link>{' '}
                      <span className="caption">v{d.version}</span>
                    </th>
                    {COLUMNS.map((m) => (
                      <td key={m} className={`px-2 text-right whitespace-nowrap max-sm:px-1 ${columnClass(m)}`}>
                        {predictions?.[m] ? bareMeasureText(m, predictions[m].value) : '—'}
                      </td>
                    ))}
                  </tr>
                )
              })}
            </tbody>
          ))}
        </table>
      </div>
    </div>
  )
}
