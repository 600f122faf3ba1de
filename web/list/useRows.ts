import { keepPreviousData, useQueries, useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useState } from 'react'

export interface PageOfRows<R> {
  total: number
  from: number
  rows: R[]
  /** Nothing has the words that were asked for; these are near. */
  isNear?: boolean
}

/** A list that is asked for a page at a time. */
export interface AskedList<P> {
  /** Tells one question from another. */
  key: readonly unknown[]
  ask: (from: number, limit: number) => Promise<P>
  rowsAtOnce: number
}

/** The rows of a list, as far as somebody looks at them. */
export interface Rows<R> {
  /** Another one for another question. */
  id: string
  total: number
  isNear: boolean
  /** Undefined until it has come. */
  at: (index: number) => R | undefined
  /** Those that have come. */
  known: readonly R[]
  onRange: (first: number, last: number) => void
  /** Every row there is, fetched for this. @throws ApiError */
  all: () => Promise<R[]>
}

/** Pages that are fetched at the same time where all are wanted. */
const PAGES_AT_ONCE = 3

/** @returns the first page with what else it says, and the rows */
export function useRows<R, P extends PageOfRows<R>>({ key, ask, rowsAtOnce }: AskedList<P>) {
  const client = useQueryClient()
  const [pages, setPages] = useState<readonly number[]>([0])
  const pageQuery = (page: number) => ({
    queryKey: [...key, page],
    queryFn: () => ask(page * rowsAtOnce, rowsAtOnce),
  })
  const first = useQuery({ ...pageQuery(0), placeholderData: keepPreviousData })
  const more = useQueries({
    queries: pages.filter((page) => page > 0).map(pageQuery),
    combine: (all) => all.flatMap((query) => query.data ?? []),
  })
  const onRange = useCallback(
    (from: number, to: number) => {
      const [least, most] = [Math.floor(from / rowsAtOnce), Math.floor(to / rowsAtOnce)]
      const wanted = Array.from({ length: most - least + 1 }, (_, i) => least + i)
      setPages((before) => (before.join() === wanted.join() ? before : wanted))
    },
    [rowsAtOnce],
  )
  const known: P[] = [...(first.data ? [first.data] : []), ...more]
  const total = first.data?.total ?? 0
  const rows: Rows<R> = {
    id: JSON.stringify(key),
    total,
    isNear: first.data?.isNear ?? false,
    at: (index) => known.flatMap((page) => page.rows[index - page.from] ?? []).at(0),
    known: known.flatMap((page) => page.rows),
    onRange,
    all: async () => {
      const count = Math.ceil(total / rowsAtOnce)
      const all: R[] = []
      for (let page = 0; page < count; page += PAGES_AT_ONCE) {
        const some = Array.from({ length: Math.min(PAGES_AT_ONCE, count - page) }, (_, i) => pageQuery(page + i))
        const found = await Promise.all(some.map((query) => client.fetchQuery(query)))
        all.push(...found.flatMap((p) => p.rows))
      }
      return all
    },
  }
  return { first, rows }
}

/** Rows that are all there already. */
export const rowsOf = <R>(all: readonly R[], id: string): Rows<R> => ({
  id,
  total: all.length,
  isNear: false,
  at: (index) => all[index],
  known: all,
  onRange: () => {},
  all: async () => [...all],
})
