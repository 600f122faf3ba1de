import { lineageSchema, toResearchSchema } from '@conch/contract'
import { formOf } from '@conch/core/schema'
import { queryOptions } from '@tanstack/react-query'
import { api } from '../../app/api.ts'
import { DRINKS_KEY } from '../../app/queries.ts'

const lineageForm = formOf(lineageSchema)
const toResearchForm = formOf(toResearchSchema)

export const lineageQuery = (slug: string) =>
  queryOptions({
    queryKey: [...DRINKS_KEY, slug, 'lineage'],
    queryFn: () => api.get(`/api/drinks/${slug}/lineage`, lineageForm),
  })

export const toResearchQuery = queryOptions({
  queryKey: [...DRINKS_KEY, 'research'],
  queryFn: () => api.get('/api/research', toResearchForm),
})
