import type { ShownDrink } from '@conch/contract'
import { partsOf } from '@conch/core/formula'
import type { Ingredient } from '@conch/core/house'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { usedInQuery } from '../../app/shelf.ts'
import { useDrinksOn } from '../../shelf/useShownDrinks.ts'

/** "makes about 26": how many of a drink a batch as written pours. */
function makesWords({ pours, serves }: ShownDrink, slug: string, yieldMl: number | undefined): string {
  const ml = pours.filter((p) => p.slug === slug).reduce((sum, p) => sum + p.volumeMl, 0)
  const count = yieldMl === undefined || ml === 0 ? 0 : Math.floor((yieldMl * serves) / ml)
  return count > 0 ? ` (makes about ${count})` : ''
}

/** What breaks if this is changed: the mixes and drinks above it. */
export function WhereUsed({
  mix,
  shelf,
  yieldMl,
}: {
  mix: Ingredient
  shelf: Ingredient[]
  /** Of the recipe as written; undefined where it does not compute. */
  yieldMl: number | undefined
}) {
  const holding = useQuery(usedInQuery(mix.slug)).data
  const mixes = holding?.mixes ?? []
  // What the sheet beside does not show: what the mixes in it are made of.
  const deep = partsOf(mix.slug, shelf).filter((p) => p.level > 1)
  const slugs = new Set([mix.slug, ...mixes.map((m) => m.slug)])
  const used = useDrinksOn({ on: [mix.slug] }) ?? []
  /** What of it a drink pours itself. */
  const throughOf = (drink: ShownDrink) => [
    ...new Set(drink.pours.flatMap((p) => (p.slug && slugs.has(p.slug) ? [p.slug] : []))),
  ]
  const nameOf = (slug: string) => mixes.find((m) => m.slug === slug)?.name ?? slug
  return (
    <section aria-label="Where it is used" className="mt-3 border-t border-hair pt-2 text-sm">
      {holding && mixes.length === 0 && used.length === 0 && <p className="text-soft">No mix and no drink uses it.</p>}
      {deep.length > 0 && (
        <p>
          <span className="text-soft">made in the end of </span>
          {deep.map((p) => p.name).join(', ')}
        </p>
      )}
      {mixes.length > 0 && (
        <p>
          <span className="text-soft">in the mixes </span>
          {mixes.map((m, i) => (
            <span key={m.slug}>
              {i > 0 && ', '}
              <Link
                className="underline decoration-hair underline-offset-4"
                to={m.isBlend ? `/blends/${m.slug}` : `/mixes/${m.slug}`}
              >
                {m.name}
              </Link>
            </span>
          ))}
          {holding && holding.total > mixes.length && ` and ${holding.total - mixes.length} more`}
        </p>
      )}
      {used.length > 0 && (
        <p>
          <span className="text-soft">in the drinks </span>
          {used.map((drink, i) => {
            const through = throughOf(drink)
            return (
              <span key={drink.drink}>
                {i > 0 && ', '}
                <Link className="underline decoration-hair underline-offset-4" to={`/drinks/${drink.drink}`}>
                  {drink.name}
                </Link>
                {makesWords(drink, mix.slug, yieldMl)}
                {!through.includes(mix.slug) && (
                  <span className="text-soft">
                    {' '}
                    ({through.length > 0 ? `through ${through.map(nameOf).join(', ')}` : 'may stand in a slot of it'})
                  </span>
                )}
              </span>
            )
          })}
        </p>
      )}
    </section>
  )
}
