import { mayDo, type PouredMenu } from '@conch/contract'
import { MEASURES } from '@conch/core/drink'
import { bySlug } from '@conch/core/house'
import { useQueries, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { menuQuery, pouredMenuQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { measureText } from '../../graphics/format.ts'
import { Window } from '../../graphics/Window.tsx'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { type Adrift, adriftOn } from './driftOf.ts'
import { TuneAll } from './TuneAll.tsx'
import { WhyAdrift } from './WhyAdrift.tsx'

/** Everything on the menu that is not what it promises, at every well, and what moved it. */
export function DriftPage() {
  const { book } = useHouse()
  const who = useWho()
  const [isTuning, setTuning] = useState(false)
  const menus = useQueries({ queries: book.wells.map((w) => pouredMenuQuery(w.slug)) })
  const plan = useQuery(menuQuery).data?.plan
  const failed = menus.find((m) => m.error && !m.data)
  if (failed) return <Failure error={failed.error} onRetry={() => failed.refetch()} />
  const known = book.wells.flatMap((w, i) => {
    const menu = menus[i]?.data
    return menu ? [{ well: w.slug, menu }] : []
  })
  if (known.length < book.wells.length) return <Loading what="what is poured at every well" />
  const edition = known[0]?.menu.edition
  if (!edition)
    return (
      <Empty title="No menu has been published yet">
        From the first edition on, every drink is held against its standard here, at every well.
      </Empty>
    )
  const adrift = adriftOn(known)
  const waiting = known.reduce((sum, k) => sum + waitingIn(k.menu), 0)
  const mayTune = mayDo(who.role, 'saveVersion') && adrift.length > 0 && waiting === 0
  return (
    <div className="max-w-5xl px-4 pt-4 pb-10">
      <header className="mb-3 flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-3xl">Adrift</h1>
        <p className="caption mr-auto" role="status">
          {waiting > 0
            ? `${waiting} being computed again …`
            : `${countText(adrift)}, held against “${edition.name}” at ${book.wells.length === 1 ? 'the one well' : `all ${book.wells.length} wells`}; the furthest off first`}
        </p>
        {mayTune && !isTuning && (
          <button type="button" className="act act-main" onClick={() => setTuning(true)}>
            All of them at once
          </button>
        )}
      </header>
      {isTuning && mayTune && <TuneAll adrift={adrift} onDone={() => setTuning(false)} />}
      {adrift.length === 0 && waiting === 0 && (
        <Empty title="Every drink holds its standard">At every well. Nothing has to be done.</Empty>
      )}
      <ul>
        {adrift.map((a) => (
          <AdriftLine
            key={`${a.drink} ${a.well}`}
            adrift={a}
            edition={edition.number}
            planned={plan?.chapters.flatMap((c) => c.entries).find((e) => e.drink === a.drink)?.version}
          />
        ))}
      </ul>
    </div>
  )
}

const countText = (adrift: readonly Adrift[]) => {
  const drinks = new Set(adrift.map((a) => a.drink)).size
  return `${drinks} ${drinks === 1 ? 'drink' : 'drinks'} outside`
}

const waitingIn = ({ chapters }: PouredMenu) =>
  chapters.flatMap((c) => c.drinks).filter((d) => !d.now || d.now.isOld).length

function AdriftLine({
  adrift,
  edition,
  planned,
}: {
  adrift: Adrift
  edition: number
  /** The version that the next edition would pour. */
  planned: number | undefined
}) {
  const { book } = useHouse()
  const [isOpen, setOpen] = useState(false)
  const well = bySlug(book.wells, adrift.well)?.name ?? adrift.well
  return (
    <li className="border-b border-hair py-2" aria-label={`${adrift.name} at the ${well}`}>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <p className="mr-auto min-w-0">
          <Link to={`/drinks/${adrift.drink}?v=${adrift.version}`} className="text-lg font-semibold hover:underline">
            {adrift.name}
          </Link>{' '}
          <span className="text-soft">at the {well}</span>
          {planned !== undefined && planned !== adrift.version && (
            <Link to={`/drinks/${adrift.drink}?v=${planned}`} className="caption block underline">
              version {planned} is planned for the next edition
            </Link>
          )}
        </p>
        {adrift.off.map((o) => (
          <span key={o.measure} className="flex items-center gap-2 text-sm">
            <span className="text-soft">{MEASURES[o.measure].label}</span>
            <Window
              measure={o.measure}
              predicted={o.predicted}
              band={o.band}
              ghost={o.locked === undefined ? undefined : { value: o.locked, low: o.locked, high: o.locked }}
              width={90}
              isAlone
            />
            <span className="font-semibold text-stop">{measureText(o.measure, o.predicted.value)}</span>
          </span>
        ))}
        <button type="button" className="act" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          What moved it
        </button>
        <Link className="act" to={`/drinks/${adrift.drink}/tune?v=${adrift.version}`}>
          Make it meet its standard
        </Link>
      </div>
      {isOpen && (
        <div className="mt-2 bg-shoal p-3">
          <WhyAdrift adrift={adrift} edition={edition} />
        </div>
      )}
    </li>
  )
}
