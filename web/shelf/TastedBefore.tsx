import { dayText } from '@conch/core/calendar'
import type { Ingredient } from '@conch/core/house'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { useHouse } from '../app/house.tsx'
import { flightsQuery } from '../app/shelf.ts'
import { StyleLines } from '../graphics/StyleLines.tsx'

/** Flights that are named one by one. */
const MOST_FLIGHTS = 5

/** Where the house's tasters put it, who they were, and the way to the glass. */
export function TastedBefore({ ingredient, onLeave }: { ingredient: Ingredient; onLeave: () => void }) {
  const { book } = useHouse()
  const flights = useQuery(flightsQuery(ingredient.slug)).data
  const profile = book.profiles?.[ingredient.slug]
  const shown = flights?.flights.slice(0, MOST_FLIGHTS) ?? []
  const more = (flights?.total ?? 0) - shown.length
  const words = [...shown.map((f) => `${f.by}, ${dayText(f.on)}`), ...(more > 0 ? [`and ${more} times before`] : [])]
  return (
    <section aria-label="What it tastes like" className="mb-3 border-t border-hair pt-2">
      {profile && <StyleLines series={[{ label: ingredient.name, profile }]} />}
      <p className="mt-1 flex flex-wrap items-baseline gap-x-3 text-sm text-soft">
        <span>{words.length > 0 ? `tasted by ${words.join('; ')}` : 'nobody has tasted it side by side yet'}</span>
        <Link className="underline" to={`/flight?with=${ingredient.slug}`} onClick={onLeave}>
          taste it beside another
        </Link>
      </p>
    </section>
  )
}
