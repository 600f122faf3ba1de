import { changedSchema } from '@conch/contract'
import type { Recipe } from '@conch/core/formula'
import { type Ingredient, toSlug } from '@conch/core/house'
import type { QueryClient } from '@tanstack/react-query'
import { api } from '../../app/api.ts'
import { refreshHouse } from '../../app/queries.ts'

/** A new blend of the house. @returns its slug @throws Error naming what is wrong */
export async function makeBlend(
  name: string,
  recipe: Recipe,
  queryClient: QueryClient,
  more: Partial<Ingredient> = {},
): Promise<string> {
  const slug = toSlug(name)
  if (slug === '') throw new Error('Give it a name.')
  const unknown = { value: 0, basis: 'assumed' as const }
  await api.put(`/api/ingredients/${slug}`, changedSchema, {
    document: {
      slug,
      name: name.trim(),
      kind: 'blend',
      figures: { abvPct: unknown, sugarGPer100Ml: unknown, acidGPer100Ml: unknown },
      storedIn: 'shelf',
      recipe: { keepsDays: 365, ...recipe },
      ...more,
    },
    revision: 0,
  })
  await refreshHouse(queryClient)
  return slug
}
