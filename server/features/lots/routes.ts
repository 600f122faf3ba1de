import { addLotEventSchema, makeLotSchema } from '@conch/contract'
import { lotSchema } from '@conch/core/formula/lotSchema'
import { bySlug } from '@conch/core/house'
import { z } from 'zod'
import type { Actor } from '../../access/actor.ts'
import { Refusal } from '../../http/Refusal.ts'
import { fileRoute, route, type Services } from '../../http/route.ts'
import { getHouse } from '../house/houseUseCases.ts'
import { drawLabels, type Label } from './drawLabels.ts'
import { addLotEvent, listLots, makeLot, showLot } from './lotUseCases.ts'

const idParams = z.object({ id: z.coerce.number().int().min(1).max(2_147_483_647) })

const MOST_LABELS = 240

/** The lots of `?lots=1,2,3`, each as often as it is named. */
async function labelsFor(ids: readonly number[], origin: string, actor: Actor, services: Services): Promise<Label[]> {
  const { db } = services.database
  const house = await getHouse(db)
  return Promise.all(
    ids.map(async (id) => {
      const lot = await showLot(db, id, actor)
      const storedIn = bySlug(house.ingredients, lot.ingredient)?.storedIn ?? 'fridge'
      return { lot, house: house.settings.name, storedIn, url: `${origin}/lots/${id}` }
    }),
  )
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
    handle: async ({ params, actor, services, context }) => ({
      name: `lot-${params.id}.pdf`,
      content: await drawLabels(await labelsFor([params.id], new URL(context.req.url).origin, actor, services), {
        isSheet: false,
      }),
    }),
  }),
  fileRoute({
    path: '/api/labels.pdf',
    summary: 'A sheet of labels, A4 with 24: ?lots=3,4,4',
    act: 'read',
    contentType: 'application/pdf',
    handle: async ({ actor, services, context }) => ({
      name: 'labels.pdf',
      content: await drawLabels(
        await labelsFor(readIds(context.req.query('lots')), new URL(context.req.url).origin, actor, services),
        { isSheet: true },
      ),
    }),
  }),
  route({
    method: 'get',
    path: '/api/lots',
    summary: 'The newest lots, gone ones too',
    act: 'read',
    response: z.array(lotSchema),
    handle: ({ actor, services }) => listLots(services.database.db, actor),
  }),
  route({
    method: 'get',
    path: '/api/lots/{id}',
    summary: 'One lot with everything that happened to it',
    act: 'read',
    params: idParams,
    response: lotSchema,
    handle: ({ params, actor, services }) => showLot(services.database.db, params.id, actor),
  }),
  route({
    method: 'post',
    path: '/api/lots',
    summary: 'Write down a lot that was made or pressed',
    act: 'makeLot',
    doing: 'make a lot',
    body: makeLotSchema,
    response: lotSchema,
    status: 201,
    handle: ({ body, actor, services }) => makeLot(body, actor, services),
  }),
  route({
    method: 'post',
    path: '/api/lots/{id}/events',
    summary: 'Measured, labelled, used up or discarded',
    act: 'makeLot',
    doing: 'change a lot',
    params: idParams,
    body: addLotEventSchema,
    response: lotSchema,
    status: 201,
    handle: ({ params, body, actor, services }) => addLotEvent(params.id, body, actor, services),
  }),
]
