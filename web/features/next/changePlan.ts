import { menuSchema } from '@conch/contract'
import type { MenuPlan } from '@conch/core/menu'
import { formOf } from '@conch/core/schema'
import type { QueryClient } from '@tanstack/react-query'
import { ApiError, api } from '../../app/api.ts'
import { DRINKS_KEY, menuQuery } from '../../app/queries.ts'

const MOST_TRIES = 3
const menuForm = formOf(menuSchema)
let last: Promise<unknown> = Promise.resolve()

/**
 * Changes the plan of the next edition and tells every page. Changes of one page wait for each
 * other; when somebody else changed the plan in between, the change is made once more, on theirs.
 * @throws ApiError
 */
export function changePlan(queryClient: QueryClient, change: (plan: MenuPlan) => MenuPlan): Promise<void> {
  const next = last.then(() => save(queryClient, change))
  last = next.catch(() => undefined)
  return next
}

async function save(queryClient: QueryClient, change: (plan: MenuPlan) => MenuPlan): Promise<void> {
  try {
    for (let tries = 1; ; tries++) {
      const { plan, revision } = await queryClient.fetchQuery({ ...menuQuery, staleTime: 0 })
      try {
        queryClient.setQueryData(
          menuQuery.queryKey,
          await api.put('/api/menu', menuForm, { plan: change(plan), revision }),
        )
        return
      } catch (error) {
        const isStale = error instanceof ApiError && error.problem?.code === 'conflict'
        if (!isStale || tries === MOST_TRIES) throw error
      }
    }
  } finally {
    await queryClient.invalidateQueries({ queryKey: menuQuery.queryKey })
    await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
  }
}
