import { type Act, DRAFT_SCHEMAS, type DraftDocuments, type DraftKind, draftOf, saveDraftOf } from '@conch/contract'
import { slugSchema } from '@conch/core/house/schema'
import { formOf } from '@conch/core/schema'
import { z } from 'zod'
import { route, writeRoute } from '../../http/route.ts'
import { dropDraft, getDraft, saveDraft } from './draftUseCases.ts'

const slugParams = z.object({ slug: slugSchema })
const revisionParams = slugParams.extend({ revision: z.coerce.number().int().min(1).max(2_147_483_647) })

/** Where the drafts of each kind are, who may, and by what they are checked: what is not finished need not pass all. */
const PLACES: { kind: DraftKind; path: string; what: string; act: Act; isFormOnly: boolean }[] = [
  { kind: 'drink', path: '/api/drinks/{slug}/draft', what: 'a drink', act: 'saveDraft', isFormOnly: false },
  { kind: 'ingredient', path: '/api/ingredients/{slug}/draft', what: 'a mix', act: 'editHouse', isFormOnly: true },
  { kind: 'slot', path: '/api/slots/{slug}/draft', what: 'a slot', act: 'editHouse', isFormOnly: true },
]

export const draftRoutes = PLACES.flatMap(({ kind, path, what, act, isFormOnly }) => {
  const schema: z.ZodType = DRAFT_SCHEMAS[kind]
  const document = isFormOnly ? formOf(schema) : schema
  return [
    route({
      method: 'get',
      path,
      summary: `The open draft of ${what}, or null`,
      act,
      doing: `read the draft of ${what}`,
      params: slugParams,
      response: draftOf(formOf(schema)).nullable(),
      handle: ({ params, actor, services }) => getDraft(services.database.db, kind, params.slug, actor),
    }),
    writeRoute({
      method: 'put',
      path,
      summary: `Save the draft of ${what}`,
      act,
      doing: 'change a draft',
      params: slugParams,
      body: saveDraftOf(document),
      response: draftOf(document),
      handle: ({ params, body, actor, write }) =>
        saveDraft(
          kind,
          params.slug,
          body as { document: DraftDocuments[typeof kind]; baseVersion: number | null; revision: number },
          actor,
          write,
        ),
    }),
    writeRoute({
      method: 'delete',
      path: `${path}/{revision}`,
      summary: `Drop the draft of ${what}`,
      act,
      doing: 'drop a draft',
      params: revisionParams,
      response: z.object({ dropped: z.literal(true) }),
      handle: ({ params, actor, write }) => dropDraft(kind, params.slug, params.revision, actor, write),
    }),
  ]
})
