import type { House } from '@conch/contract'
import type { QueryClient } from '@tanstack/react-query'
import { houseQuery } from './queries.ts'

type Kind = 'ingredients' | 'slots'

/** What was saved stands in the house at once; the rest follows when the house is asked for again. */
export function putInHouse<K extends Kind>(
  queryClient: QueryClient,
  kind: K,
  document: House[K][number],
  revision: number,
): void {
  queryClient.setQueryData(houseQuery.queryKey, (house) => {
    if (!house) return house
    const list: { slug: string }[] = house[kind]
    const isThere = list.some((x) => x.slug === document.slug)
    const next = isThere ? list.map((x) => (x.slug === document.slug ? document : x)) : [...list, document]
    const revisions = { ...house.revisions, [kind]: { ...house.revisions[kind], [document.slug]: revision } }
    return { ...house, [kind]: next, revisions }
  })
}
