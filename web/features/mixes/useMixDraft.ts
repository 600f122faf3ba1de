import { changedSchema } from '@conch/contract'
import type { Recipe } from '@conch/core/formula'
import type { Ingredient } from '@conch/core/house'
import { ingredientSchema } from '@conch/core/house/schema'
import { formOf } from '@conch/core/schema'
import { useQueryClient } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { toast } from 'sonner'
import { z } from 'zod'
import { ApiError, api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { refreshHouse } from '../../app/queries.ts'
import { putOnShelf } from '../../app/shelf.ts'
import { readStored, SEALED_KEYS, writeStored } from '../../app/stored.ts'
import type { DraftPlace } from '../../drafts/draftLine.ts'
import { draftQuery, draftTransport } from '../../drafts/queries.ts'
import { type DraftControl, useDraft } from '../../drafts/useDraft.ts'
import { recipesQuery } from './RecipeHistory.tsx'

export interface MixDraft {
  control: DraftControl<Ingredient>
  /** As it stands on the sheet. */
  mix: Ingredient
  recipe: Recipe
  isChanged: boolean
  problem: string | undefined
  /** Why it is changed: kept with the recipe. */
  reason: string
  setReason: (reason: string) => void
  change: (next: Partial<Ingredient>) => void
  changeRecipe: (next: Partial<Recipe>) => void
  save: () => Promise<void>
}

const olderSchema = z.object({ document: formOf(ingredientSchema), revision: z.number().nullable() })

/** What an earlier page kept on this device only. */
function olderKept({ slug, isSealed }: Ingredient) {
  const key = `${isSealed ? SEALED_KEYS : 'conch:'}mix:${slug}`
  const kept = readStored(key, olderSchema)
  writeStored(key, undefined)
  return kept && { document: kept.document, baseVersion: kept.revision, revision: 0 }
}

/** The draft of a mix or a blend, shared by everybody who may write on it, until it is saved or dropped. */
export function useMixDraft(
  saved: Ingredient & { recipe: Recipe },
  server: DraftPlace<Ingredient>['server'],
): MixDraft {
  const { house } = useHouse()
  const queryClient = useQueryClient()
  const { slug } = saved
  const now = house.revisions.ingredients[slug] ?? 0
  const [reason, setReason] = useState('')
  const [problem, setProblem] = useState<string>()
  const transport = useMemo(() => draftTransport('ingredient', slug, queryClient), [slug, queryClient])
  const control = useDraft<Ingredient>({
    ...transport,
    key: `mix:${slug}`,
    isSealed: saved.isSealed === true,
    server,
    beneath: { document: saved, revision: now },
    olderKept: () => olderKept(saved),
  })
  const { draft } = control
  const mix = draft?.document ?? saved
  const recipe = mix.recipe ?? saved.recipe
  const change = (next: Partial<Ingredient>) => {
    setProblem(undefined)
    control.edit({ ...mix, ...next }, draft ? draft.baseVersion : now, saved)
  }
  return {
    control,
    mix,
    recipe,
    isChanged: draft !== undefined,
    problem,
    reason,
    setReason,
    change,
    changeRecipe: (next) => change({ recipe: { ...recipe, ...next } }),
    save: async () => {
      const draftRevision = await control.flush()
      if (!draft || draftRevision === undefined) return
      try {
        const { revision } = await api.put(`/api/ingredients/${slug}`, changedSchema, {
          document: mix,
          revision: draft.baseVersion ?? now,
          draftRevision,
          ...(reason.trim() ? { reason: reason.trim() } : {}),
        })
        // In one go: the draft must not be held against what was made of it.
        putOnShelf(mix, revision)
        control.end({ document: mix, baseVersion: revision })
        setReason('')
        setProblem(undefined)
        toast(`${mix.name} is saved. Lots that are made already stay what they are.`)
        await refreshHouse(queryClient)
        await queryClient.invalidateQueries({ queryKey: recipesQuery(slug).queryKey })
      } catch (error) {
        setProblem(error instanceof Error ? error.message : String(error))
        if (!(error instanceof ApiError) || error.problem?.code !== 'conflict') return
        // Either the mix or its draft is another by now: both are asked for, and compared.
        await refreshHouse(queryClient)
        await queryClient.invalidateQueries({ queryKey: draftQuery('ingredient', slug).queryKey })
        setProblem(undefined)
      }
    },
  }
}
