import {
  bottleTableReportSchema,
  bottleTableSchema,
  changedManySchema,
  changedSchema,
  changeManySchema,
  changeSchema,
  changeSettingsSchema,
  type Foresee,
  foreseeSchema,
  foresightSchema,
  houseSchema,
  personSchema,
  recipeVersionSchema,
  setUpHouseSchema,
  shelfPartSchema,
  shelfQuery,
  shelfRowsQuery,
  shelfRowsSchema,
  usedInSchema,
} from '@conch/contract'
import { glassSchema, ingredientSchema, slugSchema, wellSchema } from '@conch/core/house/schema'
import { slotSchema } from '@conch/core/schema/palate'
import { z } from 'zod'
import { mayOpen, withoutFormula } from '../../access/seal.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { SHELF } from '../../http/kept.ts'
import { fileRoute, route, writeRoute } from '../../http/route.ts'
import { comeIn, hashOwn } from '../access/index.ts'
import { saveBottleTable, writeBottleTable } from './bottleTable.ts'
import { changeMany } from './changeMany.ts'
import { foresee, foreseenFor } from './foresee.ts'
import { houseOf } from './getHouse.ts'
import { type Change, changeHouse, type ShelfKind, setUpHouse } from './houseUseCases.ts'
import { BOTTLE_ROWS } from './readBottleRows.ts'
import { getRecipes } from './recipes.ts'
import { getShelfPart, listShelf, mixesHolding } from './shelf.ts'

/** Ten thousand long rows. */
const MOST_TABLE_BYTES = 8_000_000

const slugParams = z.object({ slug: slugSchema })

/** Making and changing one of the things that the house keeps by slug. */
function shelfRoute<T extends z.ZodType<{ slug: string }>>(kind: ShelfKind, what: string, schema: T) {
  return writeRoute({
    method: 'put',
    path: `/api/${kind}/{slug}`,
    summary: `Make or change ${what}`,
    act: 'editHouse',
    doing: `change ${what}`,
    params: slugParams,
    body: changeSchema(schema),
    response: changedSchema,
    prepare: ({ body, actor, services }) =>
      foreseenFor({ kind, document: (body as { document: unknown }).document } as Foresee, actor, services),
    handle: ({ body, params, actor, write, prepared }) => {
      const { document, ...change } = body as { document: { slug: string } } & Omit<
        z.output<typeof changeSettingsSchema>,
        'document'
      >
      if (params.slug !== document.slug) {
        const message = `is “${document.slug}” but the address says “${params.slug}”; a slug does not change`
        throw new Refusal('invalid', `document.slug: ${message}`, { fields: [{ field: 'document.slug', message }] })
      }
      return changeHouse({ kind, document } as Change, { ...change, touches: prepared }, actor, write)
    },
  })
}

export const houseRoutes = [
  route({
    method: 'post',
    path: '/api/foresight',
    summary: 'What a change of the shelf, a well or the settings will do, before it is saved',
    act: 'editHouse',
    doing: 'change the house',
    body: foreseeSchema,
    response: foresightSchema,
    handle: ({ body, actor, services }) => foresee(body, actor, services),
  }),
  route({
    method: 'get',
    path: '/api/house',
    summary: 'Settings, wells with stations, glasses, slots, and what trials and fruit gave',
    act: 'read',
    response: houseSchema,
    keep: { reads: ['settings', 'well', 'glass', 'slot', 'station', 'trial', 'lot', ...SHELF] },
    handle: async ({ services }) => houseOf(await services.held.now()),
  }),
  writeRoute({
    method: 'post',
    path: '/api/house',
    summary: 'Set up a new house',
    act: 'setUpHouse',
    doing: 'set up the house',
    isSecret: true,
    body: setUpHouseSchema,
    response: houseSchema.extend({ you: personSchema }),
    status: 201,
    prepare: ({ body }) => hashOwn(body.secret, { role: 'manager', name: body.manager }),
    handle: async ({ body, prepared, actor, context, services, write }) => {
      const made = await setUpHouse(body, actor, write)
      await comeIn(made.you, prepared, context, services.now(), write)
      return made
    },
  }),
  writeRoute({
    method: 'put',
    path: '/api/house/settings',
    summary: 'Change the settings',
    act: 'editHouse',
    doing: 'change the settings',
    body: changeSettingsSchema,
    response: changedSchema,
    prepare: ({ body, actor, services }) => foreseenFor({ kind: 'settings', document: body.document }, actor, services),
    handle: ({ body, actor, write, prepared }) =>
      changeHouse({ kind: 'settings', document: body.document }, { ...body, touches: prepared }, actor, write),
  }),
  fileRoute({
    path: '/api/ingredients.csv',
    summary: 'The back bar as a table',
    act: 'read',
    contentType: 'text/csv; charset=utf-8',
    handle: async ({ actor, services }) => {
      const all = (await services.held.now()).allIngredients()
      const seen = mayOpen(actor.role) ? all : all.map((i) => (i.isSealed ? withoutFormula(i) : i))
      return { name: 'back-bar.csv', content: writeBottleTable(seen) }
    },
  }),
  writeRoute({
    method: 'post',
    path: '/api/ingredients.csv',
    summary: 'Look at a table of bottles, or bring it in',
    act: 'editHouse',
    doing: 'bring bottles in',
    body: bottleTableSchema,
    mostBodyBytes: MOST_TABLE_BYTES,
    response: bottleTableReportSchema,
    prepare: async ({ body, actor, services }) => {
      const ingredients = [...(await services.held.now()).allIngredients()]
      const { csv, firstLine } = body
      return services.work.run(actor.name, BOTTLE_ROWS, { csv, firstLine, ingredients })
    },
    handle: ({ body, prepared, write }) => saveBottleTable(prepared, body.mode, write),
  }),
  route({
    method: 'get',
    path: '/api/shelf',
    summary:
      'A part of the shelf with what it is made of, its lots and what tasters say: by slugs, by words, by kind, by nearness',
    act: 'read',
    query: shelfQuery,
    response: shelfPartSchema,
    keep: { reads: [...SHELF, 'slot', 'settings', 'lot', 'flight'], until: 'night' },
    handle: async ({ query, actor, services }) => getShelfPart(query, actor, await services.held.now(), services.now()),
  }),
  route({
    method: 'get',
    path: '/api/shelf/rows',
    summary: 'A page of the shelf with the figures of today, searched and sorted',
    act: 'read',
    query: shelfRowsQuery,
    response: shelfRowsSchema,
    keep: { reads: [...SHELF, 'settings', 'lot'], until: 'night' },
    handle: async ({ query, actor, services }) => listShelf(query, actor, await services.held.now(), services.now()),
  }),
  writeRoute({
    method: 'put',
    path: '/api/ingredients',
    summary: 'Set stock or place of many things of the shelf at once',
    act: 'editHouse',
    doing: 'change what is picked',
    body: changeManySchema,
    response: changedManySchema,
    handle: ({ body, actor, write }) => changeMany(body, actor, write),
  }),
  shelfRoute('wells', 'a well with its stations', wellSchema),
  shelfRoute('glasses', 'a glass', glassSchema),
  shelfRoute('ingredients', 'an ingredient', ingredientSchema),
  shelfRoute('slots', 'a slot', slotSchema),
  route({
    method: 'get',
    path: '/api/ingredients/{slug}/mixes',
    summary: 'The mixes that hold something, at any depth, nearest first',
    act: 'read',
    params: slugParams,
    response: usedInSchema,
    keep: { reads: SHELF },
    handle: async ({ params, actor, services }) => mixesHolding(params.slug, actor, await services.held.now()),
  }),
  route({
    method: 'get',
    path: '/api/ingredients/{slug}/recipes',
    summary: 'Every recipe that a mix or a blend had, newest first',
    act: 'read',
    params: slugParams,
    response: z.array(recipeVersionSchema),
    keep: { reads: SHELF },
    handle: ({ params, actor, services }) => getRecipes(services.database.db, params.slug, actor),
  }),
]
