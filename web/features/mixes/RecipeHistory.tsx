import { recipeVersionSchema } from '@conch/contract'
import { nightText } from '@conch/core/calendar'
import type { Recipe } from '@conch/core/formula'
import type { Ingredient } from '@conch/core/house'
import { formOf } from '@conch/core/schema'
import { queryOptions, useQuery } from '@tanstack/react-query'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'

const recipeVersions = z.array(formOf(recipeVersionSchema))

export const recipesQuery = (slug: string) =>
  queryOptions({
    queryKey: ['recipes', slug],
    queryFn: () => api.get(`/api/ingredients/${slug}/recipes`, recipeVersions),
  })

/** What two recipes say differently, in a few words. */
function differenceWords(before: Recipe | undefined, after: Recipe, nameOf: (slug: string) => string): string {
  if (!before) return 'as it began'
  const was = new Map(before.components.map((c) => [c.ingredient, c.amount]))
  const words = after.components.flatMap((c) => {
    const from = was.get(c.ingredient)
    was.delete(c.ingredient)
    if (from === c.amount && before.by === after.by) return []
    return [
      from === undefined ? `${nameOf(c.ingredient)} ${c.amount}` : `${nameOf(c.ingredient)} ${from} → ${c.amount}`,
    ]
  })
  const gone = [...was.keys()].map((slug) => `without ${nameOf(slug)}`)
  return [...words, ...gone].join(', ') || 'steps, losses or days'
}

/** Every recipe that it had: who changed it, when and why; an earlier one can be put back on the sheet. */
export function RecipeHistory({
  slug,
  shelf,
  onRestore,
}: {
  slug: string
  shelf: readonly Ingredient[]
  onRestore?: ((recipe: Recipe) => void) | undefined
}) {
  const { clock } = useHouse()
  const versions = useQuery(recipesQuery(slug)).data ?? []
  if (versions.length < 2) return null
  const nameOf = (s: string) => shelf.find((i) => i.slug === s)?.name ?? s
  return (
    <section aria-label="Earlier recipes" className="mt-3 border-t border-hair pt-2 text-sm">
      <ol>
        {versions.map((v, i) => (
          <li key={v.number} className="flex items-baseline gap-2 py-0.5">
            <span className="w-5 text-right font-semibold">{v.number}</span>
            <span className="min-w-0 flex-1">
              {differenceWords(versions[i + 1]?.recipe, v.recipe, nameOf)}
              <span className="text-soft">
                {' '}
                · {v.reason && `${v.reason}, `}
                {v.savedBy}, {nightText(v.savedAt, clock)}
              </span>
            </span>
            {onRestore && i > 0 && (
              <button type="button" className="act act-quiet text-sm text-soft" onClick={() => onRestore(v.recipe)}>
                put it back
              </button>
            )}
          </li>
        ))}
      </ol>
    </section>
  )
}
