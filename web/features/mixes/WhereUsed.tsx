import type { DrinkDocument } from '@conch/core/drink'
import { drinksWith, mixesWith, partsOf } from '@conch/core/formula'
import type { Ingredient } from '@conch/core/house'
import { type MeasureKit, volumeMlOfAmount } from '@conch/core/measure'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { placeOfSlug } from '../../shelf/placeOf.ts'
import { useShownDrinks } from '../../shelf/useShownDrinks.ts'

/** "makes about 26": how many of a drink a batch as written pours. */
function makesWords(document: DrinkDocument, slug: string, yieldMl: number | undefined, kit: MeasureKit): string {
  const ml = document.pours
    .filter((p) => p.ingredient === slug)
    .reduce((sum, p) => sum + (p.volumeMl ?? (p.amount && volumeMlOfAmount(p.amount, kit, document.partMl)) ?? 0), 0)
  const count = yieldMl === undefined || ml === 0 ? 0 : Math.floor((yieldMl * document.serves) / ml)
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
  const { book } = useHouse()
  const mixes = mixesWith(mix.slug, shelf)
  // What the sheet beside does not show: what the mixes in it are made of.
  const deep = partsOf(mix.slug, shelf).filter((p) => p.level > 1)
  const slugs = new Set([mix.slug, ...mixes.map((m) => m.slug)])
  const shown = useShownDrinks()
  const used = drinksWith(slugs, shown, book.slots)
  const nameOf = (slug: string) => shelf.find((i) => i.slug === slug)?.name ?? slug
  return (
    <section aria-label="Where it is used" className="mt-3 border-t border-hair pt-2 text-sm">
      {mixes.length === 0 && used.length === 0 && <p className="text-soft">No mix and no drink uses it.</p>}
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
              <Link className="underline decoration-hair underline-offset-4" to={placeOfSlug(m.slug, shelf)}>
                {m.name}
              </Link>
            </span>
          ))}
        </p>
      )}
      {used.length > 0 && (
        <p>
          <span className="text-soft">in the drinks </span>
          {used.map(({ drink, through }, i) => (
            <span key={drink.slug}>
              {i > 0 && ', '}
              <Link className="underline decoration-hair underline-offset-4" to={`/drinks/${drink.slug}`}>
                {drink.name}
              </Link>
              {makesWords(drink.document, mix.slug, yieldMl, book.settings.kit)}
              {!through.includes(mix.slug) && (
                <span className="text-soft"> (through {through.map(nameOf).join(', ')})</span>
              )}
            </span>
          ))}
        </p>
      )}
    </section>
  )
}
