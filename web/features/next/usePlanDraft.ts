import { type Draft, type Menu, menuSchema } from '@conch/contract'
import type { MenuPlan } from '@conch/core/menu'
import { menuPlanSchema } from '@conch/core/menu/schema'
import { formOf } from '@conch/core/schema'
import { useQueryClient } from '@tanstack/react-query'
import { useMemo } from 'react'
import { api } from '../../app/api.ts'
import { DRINKS_KEY, menuQuery } from '../../app/queries.ts'
import { type DraftControl, useDraft } from '../../drafts/useDraft.ts'

const menuForm = formOf(menuSchema)
const planForm = formOf(menuPlanSchema)

/** The plan of the next edition is a draft by itself: shared, saved with every change. */
const toDraft = ({ plan, ...menu }: Menu): Draft<MenuPlan> => ({
  ...menu,
  subject: 'next',
  baseVersion: null,
  document: plan,
})

export type PlanDraft = DraftControl<MenuPlan>

export function usePlanDraft(menu: Menu): PlanDraft {
  const queryClient = useQueryClient()
  const server = useMemo(() => toDraft(menu), [menu])
  return useDraft<MenuPlan>({
    key: 'plan',
    schema: planForm,
    server,
    send: async ({ document, revision }) => toDraft(await api.put('/api/menu', menuForm, { plan: document, revision })),
    readCurrent: (current) => {
      const menu = menuForm.safeParse(current).data
      return menu ? toDraft(menu) : null
    },
    // There is always a plan: nothing of it is dropped as a whole.
    drop: async () => undefined,
    heard: (draft) => {
      if (!draft) return
      const { document: plan, revision, savedBy, savedAt } = draft
      queryClient.setQueryData(menuQuery.queryKey, { plan, revision, savedBy, savedAt })
      void queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
    },
  })
}
