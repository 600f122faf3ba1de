import type { ShownDrink } from '@conch/contract'
import type { Slot } from '@conch/core/palate'
import { Link } from 'react-router'
import { useDrinksOn } from '../../shelf/useShownDrinks.ts'

/** Drinks that name a slot, and drinks that insist on one of its bottles. */
export function UsedIn({ slot }: { slot: Slot }) {
  const drinks = useDrinksOn({ slot: slot.slug }) ?? []
  const candidates = slot.candidates.map((c) => c.ingredient)
  const insists = (d: ShownDrink) => d.pours.some((p) => !p.slot && p.slug !== undefined && candidates.includes(p.slug))
  const byBottle = (useDrinksOn({ on: candidates }) ?? []).filter(
    (d) => insists(d) && !drinks.some((o) => o.drink === d.drink),
  )
  return (
    <section aria-label="Where it is used" className="mt-3 border-t border-hair pt-2 text-sm">
      <p>
        <span className="text-soft">named by </span>
        {drinks.length === 0 ? 'no drink yet' : drinks.map((d, i) => <Name key={d.drink} d={d} isFirst={i === 0} />)}
      </p>
      {byBottle.length > 0 && (
        <p>
          <span className="text-soft">its bottles insisted on by </span>
          {byBottle.map((d, i) => (
            <Name key={d.drink} d={d} isFirst={i === 0} />
          ))}
        </p>
      )}
    </section>
  )
}

function Name({ d, isFirst }: { d: { drink: string; name: string }; isFirst: boolean }) {
  return (
    <>
      {!isFirst && ', '}
      <Link className="underline decoration-hair underline-offset-4" to={`/drinks/${d.drink}`}>
        {d.name}
      </Link>
    </>
  )
}
