import {
  drinkPageSchema,
  drinkSchema,
  editionSchema,
  editionSummarySchema,
  houseSchema,
  inTheOpenSchema,
  listedVersionSchema,
  markablesSchema,
  menuSchema,
  modelMovedSchema,
  type NextMenu,
  nextMenuSchema,
  personSchema,
  pouredMenuSchema,
  readySchema,
  shownDrinksSchema,
  signInStateSchema,
  tonightSchema,
} from '@conch/contract'
import { formOf } from '@conch/core/schema'
import { keepPreviousData, QueryClient, queryOptions } from '@tanstack/react-query'
import { z } from 'zod'
import { ApiError, api, onWrite } from './api.ts'
import { withSaidHere } from './saidHere.ts'

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      // Without the network what this device keeps is the answer: it has to be asked for, too.
      networkMode: 'always',
      retry: (count, error) => error instanceof ApiError && error.isAway && count < 2,
    },
  },
})

/** What is computed of the whole house begins with it: after a write it may be another one. */
export const KEPT = 'kept'
onWrite(() => {
  queryClient.removeQueries({ queryKey: [KEPT], type: 'inactive' })
  void queryClient.invalidateQueries({ queryKey: [KEPT] })
})
/** How soon what is being computed again is asked for again. */
export const AGAIN_MS = 600
const AGAIN_WHILE_ALL_IS_COMPUTED_MS = 1500

/** What is asked for as it stands in an address; what is left out is not there. */
export function addressOf(asked: object): string {
  const said = Object.entries(asked).filter(([, value]) => value !== undefined && value !== '')
  return String(new URLSearchParams(said.map(([key, value]) => [key, String(value)])))
}

const tonightForm = formOf(tonightSchema)
const summaries = z.array(editionSummarySchema)
const people = z.array(personSchema)
// What the house keeps was right when it was written: its form is looked at, not today's limits.
const houseForm = formOf(houseSchema)
const drinkForm = formOf(drinkSchema)
const menuForm = formOf(menuSchema)
const editionForm = formOf(editionSchema)
const pouredMenuForm = formOf(pouredMenuSchema)
const nextMenuForm = formOf(nextMenuSchema)
const versionsForm = formOf(z.array(listedVersionSchema))
/** As many as make an answer of less than 100 kB. */
const VERSIONS_AT_ONCE = 40
const shownDrinksForm = formOf(shownDrinksSchema)

export const readyQuery = queryOptions({ queryKey: ['ready'], queryFn: () => api.get('/api/ready', readySchema) })
/** How one signs in at this device: it changes when somebody does, and is asked each time. */
export const signInQuery = queryOptions({
  queryKey: ['signIn'],
  queryFn: () => api.get('/api/sign-in', signInStateSchema),
  staleTime: 0,
})
export const peopleQuery = queryOptions({ queryKey: ['people'], queryFn: () => api.get('/api/people', people) })
export const houseQuery = queryOptions({ queryKey: ['house'], queryFn: () => api.get('/api/house', houseForm) })
/** Everything about drinks begins with it. */
export const DRINKS_KEY = ['drinks'] as const
export interface DrinksAsked {
  words?: string | undefined
  of?: string
  hidden?: 'with' | undefined
  made?: 'yes'
  sort?: string | undefined
  down?: 'yes' | undefined
  from?: number
  limit?: number
}
/** A page of the drinks, or of those that words lead to. */
export const drinkPageQuery = (asked: DrinksAsked) => {
  const search = addressOf(asked)
  return queryOptions({
    queryKey: [...DRINKS_KEY, 'page', search],
    queryFn: () => api.get(`/api/drinks?${search}`, drinkPageSchema),
    placeholderData: keepPreviousData,
  })
}
/** The same, for a list that goes on. */
export const drinkList = (asked: DrinksAsked, rowsAtOnce: number) => ({
  key: [...DRINKS_KEY, 'list', addressOf(asked)],
  ask: (from: number, limit: number) => api.get(`/api/drinks?${addressOf({ ...asked, from, limit })}`, drinkPageSchema),
  rowsAtOnce,
})
export const drinkQuery = (slug: string) =>
  queryOptions({ queryKey: ['drinks', slug], queryFn: () => api.get(`/api/drinks/${slug}`, drinkForm) })
/** What is out, and what that does to the menu. */
export const tonightQuery = queryOptions({
  queryKey: ['tonight'],
  queryFn: async () => withSaidHere(await api.get('/api/tonight', tonightForm)),
})
/** What one may mark out: what the menu wants, or what words lead to. */
export const markablesQuery = (words: string) =>
  queryOptions({
    queryKey: ['markables', words],
    queryFn: () => api.get(`/api/tonight/markables${words ? `?${addressOf({ words })}` : ''}`, markablesSchema),
  })
export const menuQuery = queryOptions({ queryKey: ['menu'], queryFn: () => api.get('/api/menu', menuForm) })
export const editionsQuery = queryOptions({
  queryKey: ['editions'],
  queryFn: () => api.get('/api/editions', summaries),
})
export const modelQuery = queryOptions({
  queryKey: ['model'],
  queryFn: () => api.get('/api/model', modelMovedSchema),
  staleTime: 60_000,
})
/** The house and the parts of its shelf are asked for again. */
export const refreshHouse = (client: QueryClient) =>
  Promise.all([
    client.invalidateQueries({ queryKey: houseQuery.queryKey }),
    client.invalidateQueries({ queryKey: [KEPT] }),
  ])

const isOld = (one: { isOld: boolean } | undefined) => one === undefined || one.isOld
/** What is poured at a well: asked again by itself while some of it is being computed. */
export const pouredMenuQuery = (well: string) =>
  queryOptions({
    queryKey: [KEPT, 'poured', well],
    queryFn: () => api.get(`/api/menu/poured?well=${well}`, pouredMenuForm),
    refetchInterval: ({ state }) =>
      state.data?.chapters.some((c) => c.drinks.some((d) => isOld(d.now))) ? AGAIN_MS : false,
  })
/** What is planned is the same at every well; the glasses are not, and are waited for. */
const withoutGlasses = (next: NextMenu | undefined): NextMenu | undefined =>
  next && {
    ...next,
    poured: next.poured.map(({ locked: _, ...drink }) => drink),
    planned: next.planned.map(({ now: _, ...drink }) => drink),
  }
export const nextMenuQuery = (well: string) =>
  queryOptions({
    queryKey: [KEPT, 'next', well],
    queryFn: () => api.get(`/api/menu/next?well=${well}`, nextMenuForm),
    refetchInterval: ({ state }) => (state.data?.planned.some((d) => isOld(d.now)) ? AGAIN_MS : false),
    placeholderData: withoutGlasses,
  })
/** Drinks as they are shown: on the menu, or those that stand on something. */
export const shownDrinksQuery = (well: string, of: { on?: string; slot?: string; menu?: 'yes' }) => {
  const asked = addressOf({ well, ...of })
  return queryOptions({
    queryKey: [KEPT, 'shown', asked],
    queryFn: () => api.get(`/api/shown-drinks?${asked}`, shownDrinksForm),
    refetchInterval: ({ state }) =>
      state.data?.drinks.some(isOld) ? AGAIN_MS : state.data?.waiting ? AGAIN_WHILE_ALL_IS_COMPUTED_MS : false,
  })
}
/** Some versions, in the order of their keys `drink@number`; in parts, as many as one answer holds. */
export const versionsQuery = (keys: readonly string[]) =>
  queryOptions({
    queryKey: [...DRINKS_KEY, 'versions', ...keys],
    queryFn: async () => {
      const parts = Array.from({ length: Math.ceil(keys.length / VERSIONS_AT_ONCE) }, (_, i) =>
        keys.slice(i * VERSIONS_AT_ONCE, (i + 1) * VERSIONS_AT_ONCE),
      )
      return (await Promise.all(parts.map((p) => api.get(`/api/versions?of=${p.join(',')}`, versionsForm)))).flat()
    },
    // A version never changes.
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
  })
export const inTheOpenQuery = (slug: string) =>
  queryOptions({
    queryKey: [KEPT, 'open', slug],
    queryFn: () => api.get(`/api/ingredients/${slug}/in-the-open`, inTheOpenSchema),
  })
/** An edition never changes: fetched once. */
export const editionQuery = (number: number) =>
  queryOptions({
    queryKey: ['editions', number],
    queryFn: () => api.get(`/api/editions/${number}`, editionForm),
    staleTime: Number.POSITIVE_INFINITY,
  })
