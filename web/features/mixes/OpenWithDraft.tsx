import { mayDo } from '@conch/contract'
import type { Recipe } from '@conch/core/formula'
import type { Ingredient } from '@conch/core/house'
import { useQuery } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { useWho } from '../../app/who.ts'
import type { DraftPlace } from '../../drafts/draftLine.ts'
import { draftQuery } from '../../drafts/queries.ts'
import { Failure, Loading } from '../../ui/States.tsx'

/** A mix or a blend on its sheet, with the draft of it that the server had when it was opened. */
export interface Opened {
  saved: Ingredient & { recipe: Recipe }
  server: DraftPlace<Ingredient>['server']
  mayEdit: boolean
}

/** What a draft is made of, by slug. */
export const partsOfDraft = (server: Opened['server']): string[] =>
  server?.document.recipe?.components.map((c) => c.ingredient) ?? []

interface OpenWithDraftProps {
  saved: Opened['saved']
  children: (server: Opened['server'], mayEdit: Opened['mayEdit']) => ReactNode
}

/** Fetches the draft that others may have begun of a mix or a blend before its sheet is opened. */
export function OpenWithDraft({ saved, children }: OpenWithDraftProps) {
  const { role } = useWho()
  const mayEdit = mayDo(role, 'editHouse') && (!saved.isSealed || mayDo(role, 'openSealed'))
  const draft = useQuery({ ...draftQuery('ingredient', saved.slug), enabled: mayEdit })
  if (!mayEdit) return children(null, false)
  if (draft.isPending) return <Loading what="its draft" />
  if (draft.data === undefined) return <Failure error={draft.error} onRetry={() => draft.refetch()} />
  return children(draft.data, true)
}
