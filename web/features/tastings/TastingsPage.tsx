import { mayDo } from '@conch/contract'
import { nightText } from '@conch/core/calendar'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useAddress } from '../../app/useAddress.ts'
import { useWho } from '../../app/who.ts'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { NewTasting, type Subject } from './NewTasting.tsx'
import { tastingsQuery } from './queries.ts'

/** `slug@3~Name v3` for each: what is to be tasted, as an address has it. */
function readSubjects(text: string | null): Subject[] {
  return (text ?? '').split('|').flatMap((part) => {
    const found = /^([a-z0-9-]+)@([1-9]\d*)~(.{1,140})$/.exec(part)
    return found ? [{ key: { drink: found[1] ?? '', version: Number(found[2]) }, words: found[3] ?? '' }] : []
  })
}

/** Every blind tasting, and a new one. */
export function TastingsPage() {
  const { clock } = useHouse()
  const who = useWho()
  const { search, put } = useAddress()
  const tastings = useQuery(tastingsQuery)
  const [isNew, setNew] = useState(search.has('new'))
  if (tastings.isPending) return <Loading what="the tastings" />
  if (!tastings.data) return <Failure error={tastings.error} onRetry={() => tastings.refetch()} />
  const mayDraw = mayDo(who.role, 'planMenu')
  return (
    <div className="max-w-3xl px-4 pt-4 pb-10">
      <header className="mb-3 flex flex-wrap items-baseline gap-3">
        <h1 className="mr-auto text-3xl">Blind tastings</h1>
        {mayDraw && (
          <button type="button" className="act act-main" onClick={() => setNew(true)}>
            New tasting
          </button>
        )}
      </header>
      {tastings.data.length === 0 && (
        <Empty title="Nothing was tasted blind yet">
          Two versions, a few people, one who makes the drinks: the house decides on what was tasted, not on who wrote
          it.
        </Empty>
      )}
      <ul>
        {tastings.data.map((t) => (
          <li key={t.id} className="border-b border-hair">
            <Link to={`/tastings/${t.id}`} className="block py-2 hover:bg-shoal max-sm:py-3">
              <span className="flex flex-wrap items-baseline gap-x-3">
                <b className="font-semibold">{t.question}</b>
                <span className={t.end ? 'caption' : 'text-sm text-mind'}>{t.end ?? 'open'}</span>
              </span>
              <span className="caption block">
                {t.names.join(' · ')} · {t.tasters} tasters · made by {t.maker}, {nightText(t.savedAt, clock)}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {isNew && mayDraw && (
        <NewTasting
          start={readSubjects(search.get('new'))}
          onClose={() => {
            setNew(false)
            put({ new: undefined })
          }}
        />
      )}
    </div>
  )
}
