import type { Menu } from '@conch/contract'
import type { MenuPlan } from '@conch/core/menu'
import type { QueryClient } from '@tanstack/react-query'
import { api } from '../../app/api.ts'
import { drinksQuery, menuQuery } from '../../app/queries.ts'

/** Saves the plan on the revision it was made from, and tells every page. @throws ApiError */
export async function savePlan(queryClient: QueryClient, menu: Menu, plan: MenuPlan): Promise<void> {
  try {
    const saved = await api.put<Menu>('/api/menu', { plan, revision: menu.revision })
    queryClient.setQueryData(menuQuery.queryKey, saved)
  } finally {
    await queryClient.invalidateQueries({ queryKey: menuQuery.queryKey })
    await queryClient.invalidateQueries({ queryKey: drinksQuery.queryKey })
  }
}
