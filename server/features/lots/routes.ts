import { addLotEventSchema, lotPageSchema, lotsQuery, makeLotSchema } from '@conch/contract'
import { isAllergenUnsure } from '@conch/core/formula'
import { lotSchema } from '@conch/core/lots/lotSchema'
import type { Context } from 'hono'
import { z } from 'zod'
import type { Actor } from '../../access/actor.ts'
import { mayOpen } from '../../access/seal.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { baseOf, heldHouse } from '../../held/index.ts'
import { SHELF } from '../../http/kept.ts'
import { fileRoute, route, type Services, writeRoute } from '../../http/route.ts'
import type { Label } from './drawLabels.ts'
import { LABELS } from './labelsJob.ts'
import { addLotEvent, listLots, makeLot, showLot, showLots } from './lotUseCases.ts'

const idParams = z.object({ id: z.coerce.number().int().min(1).max(2_147_483_647) })

const MOST_LABELS = 240

/** The labels of lots, each as often as it is named; what is printed is read once. */
async function labelsFor(
  ids: readonly number[],
  { actor, services, context }: { actor: Actor; services: Services; context: Context },
): Promise<Label[]> {
  const { host, isSecure } = context.get('visitor')
  const origin = `${isSecure ? 'https' : 'http'}://${host}`
  const held = await heldHouse(services.database.db)
  const { settings } = baseOf(held)
  const lots = await showLots(services.database.db, [...new Set(ids)], actor)
  return ids.map((id) => {
    const lot = lots.get(id)
    if (!lot) throw new Refusal('notFound', `there is no lot ${id}`)
    const { storedIn = 'fridge', sealedAs } = held.ingredient(lot.ingredient) ?? {}
    // What others may know of its allergens is of the day when a manager saved it.
    const isUnsure = !mayOpen(actor.role) && sealedAs !== undefined && isAllergenUnsure(sealedAs, held.onShelf())
    return { lot, house: settings.name, storedIn, isAllergenUnsure: isUnsure, url: `${origin}/lots/${id}` }
  })
}

/** The newest lots that are there, as many as there are labels. @throws Refusal where there is none */
async function openLots({ held }: Services): Promise<number[]> {
  const ids = (await held.now()).allOpenLots().map((l) => l.id)
  if (ids.length === 0) throw new Refusal('notFound', 'no lot is open; there is nothing to label')
  return ids.slice(-MOST_LABELS)
}

function readIds(text: string | undefined): number[] {
  const ids = (text ?? '').split(',').filter(Boolean).map(Number)
  const isGood = ids.length > 0 && ids.length <= MOST_LABELS && ids.every((id) => Number.isInteger(id) && id > 0)
  if (isGood) return ids
  const message = `“${(text ?? '').slice(0, 40)}” names no lots; write 1 to ${MOST_LABELS} numbers like 3,4,4`
  throw new Refusal('invalid', `lots: ${message}`, { fields: [{ field: 'lots', message }] })
}

export const lotRoutes = [
  fileRoute({
    path: '/api/lots/{id}/label.pdf',
    summary: 'The label of a lot, 70 × 37 mm',
    act: 'read',
    params: idParams,
    contentType: 'application/pdf',
    handle: async ({ params, ...call }) => {
      const labels = await labelsFor([params.id], call)
      const content = await call.services.work.run(call.actor.name, LABELS, { labels, isSheet: false })
      return { name: `lot-${params.id}.pdf`, content }
    },
  }),
  fileRoute({
    path: '/api/labels.pdf',
    summary: 'A sheet of labels, A4 with 24: ?lots=3,4,4, or ?lots=open for all that are there',
    act: 'read',
    contentType: 'application/pdf',
    handle: async (call) => {
      const asked = call.context.req.query('lots')
      const ids = asked === 'open' ? await openLots(call.services) : readIds(asked)
      const labels = await labelsFor(ids, call)
      const content = await call.services.work.run(call.actor.name, LABELS, { labels, isSheet: true })
      return { name: 'labels.pdf', content }
    },
  }),
  route({
    method: 'get',
    path: '/api/lots',
    summary: 'A page of the lots, gone ones too: newest first, or those first that are to be used first',
    act: 'read',
    query: lotsQuery,
    response: lotPageSchema,
    keep: { reads: ['lot', ...SHELF] },
    handle: ({ query, actor, services }) => listLots(query, actor, services.database.db),
  }),
  route({
    method: 'get',
    path: '/api/lots/{id}',
    summary: 'One lot with everything that happened to it',
    act: 'read',
    params: idParams,
    response: lotSchema,
    keep: { reads: ({ id }) => [`lot/${id}`, ...SHELF] },
    handle: ({ params, actor, services }) => showLot(services.database.db, params.id, actor),
  }),
  writeRoute({
    method: 'post',
    path: '/api/lots',
    summary: 'Write down a lot that was made or pressed',
    act: 'makeLot',
    doing: 'make a lot',
    body: makeLotSchema,
    response: lotSchema,
    status: 201,
    handle: ({ body, actor, write }) => makeLot(body, actor, write),
  }),
  writeRoute({
    method: 'post',
    path: '/api/lots/{id}/events',
    summary: 'Measured, labelled, used up or discarded',
    mayBeLate: true,
    act: 'makeLot',
    doing: 'change a lot',
    params: idParams,
    body: addLotEventSchema,
    response: lotSchema,
    status: 201,
    handle: ({ params, body, actor, write }) => addLotEvent(params.id, body, actor, write),
  }),
]
