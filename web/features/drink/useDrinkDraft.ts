import type { Drink } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import { useQueryClient } from '@tanstack/react-query'
import { useMemo } from 'react'
import { drinkQuery, drinksQuery } from '../../app/queries.ts'
import { draftTransport } from '../../drafts/queries.ts'
import { type DraftControl, useDraft } from '../../drafts/useDraft.ts'

export type DrinkDraft = DraftControl<DrinkDocument>

/** The draft of a drink, shared by everybody who writes on it. */
export function useDrinkDraft(drink: Drink): DrinkDraft {
  const { slug } = drink
  const queryClient = useQueryClient()
  const transport = useMemo(() => draftTransport('drink', slug, queryClient), [slug, queryClient])
  return useDraft({
    ...transport,
    key: slug,
    server: drink.draft,
    heard: (draft) => {
      queryClient.setQueryData(drinkQuery(slug).queryKey, (old) => old && { ...old, draft })
      if (!draft) void queryClient.invalidateQueries({ queryKey: drinksQuery.queryKey })
    },
  })
}
