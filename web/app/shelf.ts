/** The part of the house's shelf that this device knows: what its pages have asked for, kept in step. */

import {
  flightPageSchema,
  type ShelfAsked,
  type ShelfPart,
  shelfPartSchema,
  shelfRowsSchema,
  usedInSchema,
} from '@conch/contract'
import { type DrinkDocument, pouredIn } from '@conch/core/drink'
import type { Ingredient, ShelfShown, ShelfSort } from '@conch/core/house'
import { formOf } from '@conch/core/schema'
import { type Query, queryOptions, useQueries, useQueryClient } from '@tanstack/react-query'
import { useCallback, useMemo, useSyncExternalStore } from 'react'
import { api } from './api.ts'
import { addressOf, houseQuery, KEPT, queryClient } from './queries.ts'

const SHELF_KEY = [KEPT, 'shelf'] as const
const partForm = formOf(shelfPartSchema)
const rowsForm = formOf(shelfRowsSchema)
const flightsForm = formOf(flightPageSchema)
/** As many as fit into an address, and an answer of less than 100 kB. */
const SLUGS_AT_ONCE = 80

export const shelfQuery = (asked: ShelfAsked) => {
  const search = addressOf(asked)
  return queryOptions({
    queryKey: [...SHELF_KEY, search],
    queryFn: () => api.get(`/api/shelf?${search}`, partForm),
  })
}

/** Rows that are fetched together. */
const ROWS_AT_ONCE = 100
export interface RowsAsked {
  words?: string | undefined
  shown?: ShelfShown | undefined
  sort?: ShelfSort | undefined
  down?: 'yes' | undefined
}
/** A list of the shelf, page after page. */
export const shelfRowList = (asked: RowsAsked) => ({
  key: [KEPT, 'rows', addressOf(asked)],
  ask: (from: number, limit: number) => api.get(`/api/shelf/rows?${addressOf({ ...asked, from, limit })}`, rowsForm),
  rowsAtOnce: ROWS_AT_ONCE,
})
/** The mixes that hold something. */
export const usedInQuery = (slug: string) =>
  queryOptions({
    queryKey: [KEPT, 'holding', slug],
    queryFn: () => api.get(`/api/ingredients/${slug}/mixes`, usedInSchema),
  })
/** The last flights, or those with one bottle. */
export const flightsQuery = (of?: string) =>
  queryOptions({
    queryKey: [KEPT, 'flights', of ?? ''],
    queryFn: () => api.get(`/api/flights?${addressOf({ of })}`, flightsForm),
  })

/** What is known, of all parts together. */
export interface KnownShelf {
  ingredients: Ingredient[]
  revisions: Record<string, number>
  lots: ShelfPart['lots']
  tasted: ShelfPart['tasted']
  fruitYields: ShelfPart['fruitYields']
}

/** Of several parts that hold the same thing the newest counts. */
function together(parts: readonly ShelfPart[]): KnownShelf {
  const newest = new Map<string, { part: ShelfPart; ingredient: Ingredient }>()
  for (const part of [...parts].sort((a, b) => a.sequence - b.sequence))
    for (const ingredient of part.ingredients) newest.set(ingredient.slug, { part, ingredient })
  const placeOf = ({ part, ingredient }: { part: ShelfPart; ingredient: Ingredient }) =>
    part.positions[ingredient.slug] ?? 0
  const known = [...newest.values()].sort((a, b) => placeOf(a) - placeOf(b))
  const of = <T>(pick: (part: ShelfPart, slug: string) => T | undefined): Record<string, T> =>
    Object.fromEntries(
      known.flatMap(({ part, ingredient }) => {
        const value = pick(part, ingredient.slug)
        return value === undefined ? [] : [[ingredient.slug, value]]
      }),
    )
  return {
    ingredients: known.map((k) => k.ingredient),
    revisions: of((part, slug) => part.revisions[slug]),
    lots: Object.values(of((part, slug) => part.lots.find((l) => l.ingredient === slug))),
    tasted: of((part, slug) => part.tasted[slug]),
    fruitYields: of((part, slug) => part.fruitYields[slug]),
  }
}

const isPart = (query: Pick<Query, 'queryKey'>) => SHELF_KEY.every((key, i) => query.queryKey[i] === key)

let known = together([])
let isStale = false
const listeners = new Set<() => void>()

// Always, not only while a page listens: another person may come meanwhile, who may see less.
queryClient.getQueryCache().subscribe((event) => {
  if (!isPart(event.query)) return
  const hasNews = event.type === 'removed' || (event.type === 'updated' && event.action.type === 'success')
  if (!hasNews) return
  isStale = true
  for (const changed of listeners) changed()
})

/** What is known now. */
export function knownShelf(): KnownShelf {
  if (isStale) {
    isStale = false
    const parts = queryClient.getQueryCache().findAll({ queryKey: SHELF_KEY })
    known = together(parts.flatMap((q) => (q.state.data as ShelfPart | undefined) ?? []))
  }
  return known
}

function subscribe(changed: () => void): () => void {
  listeners.add(changed)
  return () => void listeners.delete(changed)
}

export const useKnownShelf = (): KnownShelf => useSyncExternalStore(subscribe, knownShelf)

/** A part that a page needs, and whether it is there. */
export interface ShelfNeed {
  isReady: boolean
  error: Error | null
  /** What was asked for, best or first of all, by slug. */
  picked: string[]
  total: number
  isNear: boolean
}

/** In which parts so many slugs are asked for. */
export function asksOf(all: Iterable<string>): ShelfAsked[] {
  const slugs = [...new Set(all)].filter(Boolean).sort()
  return Array.from({ length: Math.ceil(slugs.length / SLUGS_AT_ONCE) }, (_, i) => ({
    of: slugs.slice(i * SLUGS_AT_ONCE, (i + 1) * SLUGS_AT_ONCE).join(','),
  }))
}

/** Asks for a part of the shelf and keeps it in step as long as the page is there. Nothing asked: nothing needed. */
export function useShelf(asked: ShelfAsked | undefined): ShelfNeed {
  const of = asked?.of
  const asks = useMemo((): ShelfAsked[] => {
    if (asked === undefined) return []
    if (of === undefined) return [asked]
    return asksOf(of.split(','))
  }, [asked, of])
  const queries = useQueries({ queries: asks.map((a) => shelfQuery(a)) })
  const { ingredients } = useKnownShelf()
  const missing = of?.split(',').filter((slug) => slug && !ingredients.some((i) => i.slug === slug)) ?? []
  const isAnswered = queries.every((q) => q.data !== undefined)
  return {
    // What is known from elsewhere already need not be waited for.
    isReady: isAnswered || (of !== undefined && missing.length === 0),
    error: queries.find((q) => q.error)?.error ?? null,
    picked: queries.flatMap((q) => q.data?.picked ?? []),
    total: queries.reduce((sum, q) => sum + (q.data?.total ?? 0), 0),
    isNear: queries.some((q) => q.data?.isNear),
  }
}

/** Everything that these slugs need. */
export function useShelfOf(slugs: Iterable<string | undefined>): ShelfNeed {
  const of = [...new Set([...slugs].flatMap((slug) => slug ?? []))].sort().join(',')
  return useShelf(useMemo(() => (of === '' ? undefined : { of }), [of]))
}

/** Everything that these documents pour. */
export function useShelfFor(documents: readonly (DrinkDocument | undefined)[]): ShelfNeed {
  const slots = useQueryClient().getQueryData(houseQuery.queryKey)?.slots ?? []
  return useShelfOf(
    pouredIn(
      documents.flatMap((d) => d ?? []),
      slots,
    ),
  )
}

/** Things of the shelf that are looked at for each of some lines. */
const MOST_FOR_A_LINE = 20

/** Asks for whatever some lines may mean. @returns whether all of it is known */
export function useShelfForWords(lines: readonly string[]): boolean {
  const wanted = [...new Set(lines.map((words) => words.trim()).filter(Boolean))]
  const queries = useQueries({ queries: wanted.map((meant) => shelfQuery({ meant, limit: MOST_FOR_A_LINE })) })
  return queries.every((q) => q.data !== undefined || q.isError)
}

/** Gets to know something before it is put anywhere: then its name and figures are there with it. */
export function useKnow(): (slug: string) => Promise<void> {
  const client = useQueryClient()
  return useCallback(
    async (slug) => {
      if (knownShelf().ingredients.some((i) => i.slug === slug)) return
      await client.fetchQuery(shelfQuery({ of: slug }))
    },
    [client],
  )
}

/** The slugs of the first of some parts of the shelf that has anything. */
export function useFirstThings(...asked: ShelfAsked[]): () => Promise<string[]> {
  const client = useQueryClient()
  return async () => {
    for (const ask of asked) {
      const { picked } = await client.fetchQuery(shelfQuery(ask))
      if (picked.length > 0) return picked
    }
    return []
  }
}

/** What was saved stands on the shelf at once; the rest follows when it is asked for again. */
export function putOnShelf(document: Ingredient, revision: number): void {
  const { slug } = document
  queryClient.setQueriesData<ShelfPart>({ queryKey: SHELF_KEY }, (part) => {
    if (!part?.ingredients.some((i) => i.slug === slug)) return part
    return {
      ...part,
      ingredients: part.ingredients.map((i) => (i.slug === slug ? document : i)),
      revisions: { ...part.revisions, [slug]: revision },
    }
  })
}
