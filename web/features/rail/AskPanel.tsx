import { MOST_GLASSES } from '@conch/core/service'
import { beginsWith } from '@conch/core/text'
import { useMemo, useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { toast } from 'sonner'
import { useHouse } from '../../app/house.tsx'
import { usePlan } from '../../workers/round.ts'
import { type Asked, addTo, askedFor, fromRound, glassesOf } from './asked.ts'
import { DrinkTile } from './DrinkTile.tsx'
import { OrdersStrip, useOrders } from './OrdersStrip.tsx'
import { RailFoot } from './RailFoot.tsx'
import { beginRound, newRound, takeNotBegun } from './railRound.ts'
import { ThisRound } from './ThisRound.tsx'
import type { Light } from './useInHand.ts'
import type { RailDrink } from './useRailMenu.ts'

interface AskPanelProps extends Light {
  drinks: readonly RailDrink[]
}

/** What is asked for: tapped on the menu, or taken from the orders; and what is put aside. */
export function AskPanel({ drinks, isLight, onLight }: AskPanelProps) {
  const { book, well } = useHouse()
  const [search] = useSearchParams()
  const [asked, setAsked] = useState<Asked[]>(() => {
    const left = takeNotBegun()
    if (left) return fromRound({ round: left }, drinks)
    // Begun from a card.
    const from = drinks.find((d) => d.drink === search.get('ask'))
    return from && from.state !== 'dark' && from.state !== 'off' ? addTo([], from) : []
  })
  const [tables, setTables] = useState<{ id: string; table: string }[]>([])
  const [letters, setLetters] = useState('')
  const orders = useOrders(drinks)
  const wanted = useMemo(() => asked.map(askedFor), [asked])
  const planned = usePlan(wanted, undefined, book, well.slug, JSON.stringify(wanted))
  const count = glassesOf(asked)
  const add = (drink: RailDrink) => {
    if (count >= MOST_GLASSES) {
      toast(`A round has at most ${MOST_GLASSES} glasses: make these first.`)
      return
    }
    setAsked((now) => addTo(now, drink))
  }
  const make = () => {
    const outcome = planned?.outcome
    const loads = outcome?.ok
      ? outcome.plan.loads.flatMap(({ of, made }) => {
          const a = asked[of]
          return a ? [{ ...a.load, glasses: made.glasses }] : []
        })
      : // Not reckoned yet: each by itself until it is.
        asked.flatMap((a) => Array.from({ length: a.glasses }, () => ({ ...a.load, glasses: 1 })))
    if (loads.length === 0) return
    const ids = tables.map((t) => t.id)
    orders.take(ids)
    beginRound(
      newRound(well.slug, loads, {
        words: [...new Set(tables.map((t) => t.table))].join(', ') || undefined,
        isOrdered: outcome?.ok === true,
      }),
      ids,
    )
  }
  const problem = planned && !planned.outcome.ok ? planned.outcome : undefined
  const shown = letters.trim() === '' ? drinks : drinks.filter((d) => beginsWith(d.name, letters))
  const chapters = [...new Set(shown.map((d) => d.chapter))]
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <h1 className="sr-only">The rail at the {well.name}</h1>
      <OrdersStrip
        orders={orders}
        drinks={drinks}
        chosen={tables.map((t) => t.id)}
        room={MOST_GLASSES - count}
        onTake={(order) => {
          setTables((now) => [...now, { id: order.id, table: order.table }])
          setAsked((now) =>
            order.drinks.reduce((sum, { drink, count: many }) => {
              const found = drinks.find((d) => d.drink === drink)
              return found ? Array.from({ length: many }).reduce<Asked[]>((s) => addTo(s, found), sum) : sum
            }, now),
          )
        }}
      />
      <div className="flex min-h-0 flex-1 max-md:flex-col">
        <section aria-label="What is poured" className="min-h-0 flex-1 overflow-y-auto px-3 py-2">
          <input
            type="search"
            aria-label="Find by first letters"
            placeholder="first letters"
            value={letters}
            onChange={(e) => setLetters(e.target.value)}
            className="field mb-2 h-14 w-full px-3 text-xl"
          />
          {shown.length === 0 && <p className="p-3 text-xl text-soft">Nothing on the menu begins with that.</p>}
          {chapters.map((chapter) => (
            <section key={chapter} aria-label={chapter} className="mb-3">
              <h2 className="caption mb-1">{chapter}</h2>
              <ul className="grid grid-cols-2 gap-2 lg:grid-cols-3">
                {shown
                  .filter((d) => d.chapter === chapter)
                  .map((drink) => (
                    <li key={drink.drink}>
                      <DrinkTile
                        drink={drink}
                        count={asked.filter((a) => a.load.drink === drink.drink).reduce((s, a) => s + a.glasses, 0)}
                        onTap={() => add(drink)}
                      />
                    </li>
                  ))}
              </ul>
            </section>
          ))}
        </section>
        <ThisRound
          {...{ asked, setAsked, drinks }}
          tables={tables.map((t) => t.table)}
          problem={problem}
          onMake={make}
        />
      </div>
      <RailFoot light={{ isLight, onLight }}>
        <Link className="rail-quiet" to="/cards">
          Cards
        </Link>
        <Link className="rail-quiet" to="/learn">
          Learn
        </Link>
      </RailFoot>
    </main>
  )
}
