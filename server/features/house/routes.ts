import {
  bottleTableReportSchema,
  bottleTableSchema,
  changedSchema,
  changeSchema,
  changeSettingsSchema,
  healthSchema,
  houseSchema,
  recipeVersionSchema,
  setUpHouseSchema,
} from '@conch/contract'
import { glassSchema, ingredientSchema, slugSchema, wellSchema } from '@conch/core/house/schema'
import { slotSchema } from '@conch/core/style/schema'
import { z } from 'zod'
import { Refusal } from '../../http/Refusal.ts'
import { fileRoute, route } from '../../http/route.ts'
import { readBottleTable, writeBottleTable } from './bottleTable.ts'
import { type Change, changeHouse, getHouse, getHouseFor, type ShelfKind, setUpHouse } from './houseUseCases.ts'
import { getRecipes } from './recipes.ts'
import { loadHouse } from './store.ts'

/** Ten thousand long rows. */
const MOST_TABLE_BYTES = 8_000_000

const slugParams = z.object({ slug: slugSchema })

/** Making and changing one of the things that the house keeps by slug. */
function shelfRoute<T extends z.ZodType<{ slug: string }>>(kind: ShelfKind, what: string, schema: T) {
  return route({
    method: 'put',
    path: `/api/${kind}/{slug}`,
    summary: `Make or change ${what}`,
    act: 'editHouse',
    doing: `change ${what}`,
    params: slugParams,
    body: changeSchema(schema),
    response: changedSchema,
    handle: ({ body, params, actor, services }) => {
      const { document, ...change } = body as { document: { slug: string }; revision: number; reason?: string }
      if (params.slug !== document.slug) {
        const message = `is “${document.slug}” but the address says “${params.slug}”; a slug does not change`
        throw new Refusal('invalid', `document.slug: ${message}`, { fields: [{ field: 'document.slug', message }] })
      }
      return changeHouse({ kind, document } as Change, change, actor, services)
    },
  })
}

export const houseRoutes = [
  route({
    method: 'get',
    path: '/api/health',
    summary: 'Whether the server is ready',
    act: 'read',
    response: healthSchema,
    handle: async ({ services: { database } }) => ({
      ready: true,
      isSetUp: (await loadHouse(database.db)) !== undefined,
      database: database.kind,
    }),
  }),
  route({
    method: 'get',
    path: '/api/house',
    summary: 'Settings, wells with stations, glasses, ingredients, slots, open lots and flights',
    act: 'read',
    response: houseSchema,
    handle: ({ actor, services }) => getHouseFor(actor, services),
  }),
  route({
    method: 'post',
    path: '/api/house',
    summary: 'Set up a new house',
    act: 'setUpHouse',
    doing: 'set up the house',
    body: setUpHouseSchema,
    response: houseSchema,
    status: 201,
    handle: ({ body, actor, services }) => setUpHouse(body, actor, services),
  }),
  route({
    method: 'put',
    path: '/api/house/settings',
    summary: 'Change the settings',
    act: 'editHouse',
    doing: 'change the settings',
    body: changeSettingsSchema,
    response: changedSchema,
    handle: ({ body, actor, services }) =>
      changeHouse({ kind: 'settings', document: body.document }, body, actor, services),
  }),
  fileRoute({
    path: '/api/ingredients.csv',
    summary: 'The back bar as a table',
    act: 'read',
    contentType: 'text/csv; charset=utf-8',
    handle: async ({ services }) => ({
      name: 'back-bar.csv',
      content: writeBottleTable((await getHouse(services.database.db)).ingredients),
    }),
  }),
  route({
    method: 'post',
    path: '/api/ingredients.csv',
    summary: 'Look at a table of bottles, or bring it in',
    act: 'editHouse',
    doing: 'bring bottles in',
    body: bottleTableSchema,
    mostBodyBytes: MOST_TABLE_BYTES,
    response: bottleTableReportSchema,
    handle: ({ body, actor, services }) => readBottleTable(body, actor, services),
  }),
  shelfRoute('wells', 'a well with its stations', wellSchema),
  shelfRoute('glasses', 'a glass', glassSchema),
  shelfRoute('ingredients', 'an ingredient', ingredientSchema),
  shelfRoute('slots', 'a slot', slotSchema),
  route({
    method: 'get',
    path: '/api/ingredients/{slug}/recipes',
    summary: 'Every recipe that a mix or a blend had, newest first',
    act: 'read',
    params: slugParams,
    response: z.array(recipeVersionSchema),
    handle: ({ params, actor, services }) => getRecipes(services.database.db, params.slug, actor),
  }),
]
