import { DRAFT_SCHEMAS, type Draft, type DraftDocuments, type DraftKind, draftOf } from '@conch/contract'
import { formOf } from '@conch/core/schema'
import { type QueryClient, queryOptions } from '@tanstack/react-query'
import { z } from 'zod'
import { api } from '../app/api.ts'

const FOLDERS: Record<DraftKind, string> = { drink: 'drinks', ingredient: 'ingredients', slot: 'slots' }
const dropped = z.object({ dropped: z.literal(true) })

/** The draft schema of a kind of thing: its form, for what is not finished. */
const schemaOf = <K extends DraftKind>(kind: K) =>
  draftOf(formOf<DraftDocuments[K]>(DRAFT_SCHEMAS[kind])) as unknown as z.ZodType<Draft<DraftDocuments[K]>>

const pathOf = (kind: DraftKind, subject: string) => `/api/${FOLDERS[kind]}/${subject}/draft`

export const draftQuery = <K extends DraftKind>(kind: K, subject: string) =>
  queryOptions({
    queryKey: ['drafts', kind, subject],
    queryFn: () => api.get<Draft<DraftDocuments[K]> | null>(pathOf(kind, subject), schemaOf(kind).nullable()),
  })

/** How the draft of a thing goes to the server and comes back. */
export const draftTransport = <K extends DraftKind>(kind: K, subject: string, queryClient: QueryClient) => ({
  schema: formOf<DraftDocuments[K]>(DRAFT_SCHEMAS[kind]),
  send: (draft: { document: DraftDocuments[K]; baseVersion: number | null; revision: number }) =>
    api.put(pathOf(kind, subject), schemaOf(kind), draft),
  readCurrent: (current: unknown) => schemaOf(kind).nullable().safeParse(current).data ?? null,
  ask: () => queryClient.fetchQuery({ ...draftQuery(kind, subject), staleTime: 0 }),
  drop: (revision: number) => api.delete(`${pathOf(kind, subject)}/${revision}`, dropped),
  heard: (draft: Draft<DraftDocuments[K]> | null) => {
    const { queryKey } = draftQuery(kind, subject)
    // An answer from before, still on its way, says nothing of now.
    void queryClient.cancelQueries({ queryKey })
    queryClient.setQueryData(queryKey, draft)
  },
})
