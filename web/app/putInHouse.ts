import type { Slot } from '@conch/core/palate'
import type { QueryClient } from '@tanstack/react-query'
import { houseQuery } from './queries.ts'

/** A slot that was saved stands in the house at once; the rest follows when the house is asked for again. */
export function putSlotInHouse(queryClient: QueryClient, slot: Slot, revision: number): void {
  queryClient.setQueryData(houseQuery.queryKey, (house) => {
    if (!house) return house
    const isThere = house.slots.some((s) => s.slug === slot.slug)
    const slots = isThere ? house.slots.map((s) => (s.slug === slot.slug ? slot : s)) : [...house.slots, slot]
    const revisions = { ...house.revisions, slots: { ...house.revisions.slots, [slot.slug]: revision } }
    return { ...house, slots, revisions }
  })
}
