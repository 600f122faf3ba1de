import { drinksWith } from '@conch/core/formula'
import type { Slot } from '@conch/core/style'
import { Link } from 'react-router'
import { useShownDrinks } from '../../shelf/useShownDrinks.ts'

/** Drinks that name a slot, and drinks that insist on one of its bottles. */
export function UsedIn({ slot }: { slot: Slot }) {
  const shown = useShownDrinks()
  const drinks = shown.filter((d) => d.document.pours.some((p) => p.slot === slot.slug))
  const byBottle = drinksWith(new Set(slot.candidates.map((c) => c.ingredient)), shown).filter(
    ({ drink }) => !drinks.includes(drink),
  )
  return (
    <section aria-label="Where it is used" className="mt-3 border-t border-hair pt-2 text-sm">
      <p>
        <span className="text-soft">named by </span>
        {drinks.length === 0 ? 'no drink yet' : drinks.map((d, i) => <Name key={d.slug} d={d} isFirst={i === 0} />)}
      </p>
      {byBottle.length > 0 && (
        <p>
          <span className="text-soft">its bottles insisted on by </span>
          {byBottle.map(({ drink }, i) => (
            <Name key={drink.slug} d={drink} isFirst={i === 0} />
          ))}
        </p>
      )}
    </section>
  )
}

function Name({ d, isFirst }: { d: { slug: string; name: string }; isFirst: boolean }) {
  return (
    <>
      {!isFirst && ', '}
      <Link className="underline decoration-hair underline-offset-4" to={`/drinks/${d.slug}`}>
        {d.name}
      </Link>
    </>
  )
}
