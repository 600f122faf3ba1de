import type { Drink } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import { followFill } from '@conch/core/means'
import { useQueryClient } from '@tanstack/react-query'
import { useMemo } from 'react'
import { useHouse } from '../../app/house.tsx'
import { DRINKS_KEY, drinkQuery } from '../../app/queries.ts'
import { draftTransport } from '../../drafts/queries.ts'
import { type DraftControl, useDraft } from '../../drafts/useDraft.ts'
import { askEarly } from '../../workers/compute.ts'

export type DrinkDraft = DraftControl<DrinkDocument>

/**
 * The draft of a drink, shared by everybody who writes on it. Whatever changes it, ice that fills the glass follows; and its
 * figures are asked for at once.
 */
export function useDrinkDraft(drink: Drink): DrinkDraft {
  const { slug } = drink
  const { book, well } = useHouse()
  const queryClient = useQueryClient()
  const transport = useMemo(() => draftTransport('drink', slug, queryClient), [slug, queryClient])
  const control = useDraft<DrinkDocument>({
    ...transport,
    key: slug,
    server: drink.draft,
    heard: (draft) => {
      queryClient.setQueryData(drinkQuery(slug).queryKey, (old) => old && { ...old, draft })
      if (!draft) void queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
    },
  })
  return useMemo(() => {
    const followed = (document: DrinkDocument) => {
      const next = followFill(document, book)
      askEarly(next, book, well.slug)
      return next
    }
    return {
      ...control,
      edit: (document, baseVersion, from) => control.edit(followed(document), baseVersion, from),
      settle: (document) => control.settle(followed(document)),
    }
  }, [control, book, well.slug])
}
