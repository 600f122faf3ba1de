import { type Decision, decisionSchema } from '@conch/contract'
import { formOf } from '@conch/core/schema'
import { type QueryClient, queryOptions } from '@tanstack/react-query'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { DRINKS_KEY, menuQuery } from '../../app/queries.ts'

const decisionsForm = formOf(z.array(decisionSchema))
/** The newest decision about every drink. */
export const decisionsQuery = queryOptions({
  queryKey: [...DRINKS_KEY, 'decisions'],
  queryFn: () => api.get('/api/decisions', decisionsForm),
})

/** Decides which version of a drink is poured: it goes onto the next edition, and every page is told. */
export async function decide(
  queryClient: QueryClient,
  drink: string,
  asked: { version: number; reason: string; tasting?: number | undefined },
): Promise<Decision> {
  try {
    return await api.post(`/api/drinks/${drink}/decisions`, formOf(decisionSchema), asked)
  } finally {
    await queryClient.invalidateQueries({ queryKey: menuQuery.queryKey })
    await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
  }
}
