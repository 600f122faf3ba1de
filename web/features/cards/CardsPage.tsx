import { ownVersionOf } from '@conch/core/lineage'
import { useQuery } from '@tanstack/react-query'
import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { useCommands } from '../../app/commands.tsx'
import { useHouse } from '../../app/house.tsx'
import { drinkQuery, editionsQuery } from '../../app/queries.ts'
import { NeedShelfFor } from '../../shelf/NeedShelf.tsx'
import type { RailDrink } from '../rail/index.ts'
import { InHand, type Light, RailFoot, useInHand, useRailMenu } from '../rail/index.ts'
import { Card } from './Card.tsx'
import { FindCard } from './FindCard.tsx'
import { type CardFilter, isIn } from './findCards.ts'

/** How far a finger goes before it is a swipe, px. */
const SWIPE_PX = 60

/** Every drink of the poured edition as a card that is read from two metres. */
export function CardsPage() {
  const { well } = useHouse()
  const menu = useRailMenu()
  const light = useInHand(`Cards · ${well.name}`)
  return (
    <InHand menu={menu}>
      {() => (
        <NeedShelfFor what="what they pour" documents={menu.drinks.map((d) => d.document)}>
          {() => <Cards drinks={menu.drinks} {...light} />}
        </NeedShelfFor>
      )}
    </InHand>
  )
}

type Known = RailDrink & { document: NonNullable<RailDrink['document']> }
const isKnown = (d: RailDrink): d is Known => d.document !== undefined

function Cards({ drinks, isLight, onLight }: Light & { drinks: readonly RailDrink[] }) {
  const { book, well, clock } = useHouse()
  const edition = useQuery(editionsQuery).data?.[0]
  const [search, setSearch] = useSearchParams()
  const [isFinding, setFinding] = useState(false)
  const [filter, setFilter] = useState<CardFilter>()
  const known = useMemo(() => drinks.filter(isKnown), [drinks])
  const cards = useMemo(
    () => (filter ? known.filter((d) => isIn(d, filter, book, well.slug)) : known),
    [known, filter, book, well.slug],
  )
  const [drink, show] = useState(search.get('drink'))
  const placeOf = (of: string | null) =>
    Math.max(
      0,
      cards.findIndex((c) => c.drink === of),
    )
  const at = placeOf(drink)
  const card = cards[at]
  const other = useOther(drink, known)
  const place = `${cards.length > 0 ? at + 1 : 0} of ${cards.length}`
  const of = filter
    ? `with ${filter.name}`
    : edition && `${edition.name}, since ${dayOf(edition.publishedAt, clock.timeZone)}`
  const head = [place, of].filter(Boolean).join(' · ')
  // Two taps in a row are two cards on, however slowly an address follows.
  const go = (by: number) => show((now) => cards[(placeOf(now) + by + cards.length) % cards.length]?.drink ?? now)
  useEffect(() => {
    if (drink && search.get('drink') !== drink) setSearch({ drink }, { replace: true })
  }, [drink, search, setSearch])
  useCommands(
    () => [
      { id: 'next-card', label: 'The next card', group: 'do', keys: 'ArrowRight', perform: () => go(1) },
      { id: 'card-before', label: 'The card before', group: 'do', keys: 'ArrowLeft', perform: () => go(-1) },
      { id: 'find-card', label: 'Find a card', group: 'do', keys: '/', perform: () => setFinding(true) },
    ],
    [cards],
  )
  const from = useRef<number>(undefined)
  const swipe = {
    onPointerDown: (e: PointerEvent) => {
      from.current = e.clientX
    },
    onPointerUp: (e: PointerEvent) => {
      const by = from.current === undefined ? 0 : e.clientX - from.current
      from.current = undefined
      if (Math.abs(by) > SWIPE_PX) go(by < 0 ? 1 : -1)
    },
  }
  if (isFinding)
    return (
      <FindCard
        drinks={known}
        onDrink={(found) => {
          setFilter(undefined)
          setFinding(false)
          show(found)
        }}
        onFilter={(next) => {
          setFilter(next)
          setFinding(false)
        }}
        onClose={() => setFinding(false)}
      />
    )
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-0 flex-1 touch-pan-y" {...swipe}>
        {other ? (
          <NeedShelfFor what="what it pours" documents={[other.document]}>
            {() => <Card key={other.drink} card={other} head="not on the menu" />}
          </NeedShelfFor>
        ) : card ? (
          <Card key={card.drink} card={card} head={head} />
        ) : (
          <p className="p-6 text-2xl text-soft">No card has that.</p>
        )}
      </div>
      <div className="grid shrink-0 grid-cols-[1fr_1.2fr_1.2fr_1fr] gap-2 px-3 pb-2">
        <button type="button" className="rail-act text-3xl" aria-label="The card before" onClick={() => go(-1)}>
          ‹
        </button>
        <button type="button" className="rail-act px-2 whitespace-nowrap" onClick={() => setFinding(true)}>
          Find …
        </button>
        {!other && card && card.state !== 'dark' && card.state !== 'off' ? (
          <Link className="rail-act px-2 whitespace-nowrap" to={`/rail?ask=${card.drink}`}>
            Make it
          </Link>
        ) : (
          <span className="rail-act text-soft">{other ? 'not poured' : 'dark tonight'}</span>
        )}
        <button type="button" className="rail-act text-3xl" aria-label="The next card" onClick={() => go(1)}>
          ›
        </button>
      </div>
      <RailFoot light={{ isLight, onLight }}>
        {filter && (
          <button type="button" className="rail-quiet text-ink underline" onClick={() => setFilter(undefined)}>
            all cards
          </button>
        )}
        <Link className="rail-quiet" to="/rail">
          Rail
        </Link>
      </RailFoot>
    </main>
  )
}

/** Any other drink of the book, as the house has it now. */
function useOther(drink: string | null, known: readonly Known[]): Known | undefined {
  const isOther = drink !== null && !known.some((k) => k.drink === drink)
  const found = useQuery({ ...drinkQuery(drink ?? ''), enabled: isOther }).data
  const version = isOther && found ? ownVersionOf(found.versions) : undefined
  if (!drink || !found || !version) return undefined
  const { document, number } = version
  return { drink, version: number, name: found.name, chapter: '', document, state: 'made', words: undefined }
}

const dayOf = (at: string, timeZone: string) =>
  new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone }).format(new Date(at))
