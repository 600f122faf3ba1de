/**
 * What is asked for, as a till would send it. The feed that ships with the product is made up by a seed; a real one is
 * another object of this shape, put in its place.
 */

import { keysOf } from '@conch/core/schema/keysOf'
import { HALF_HOUR_S, ORDER_PACES, type Order, type OrderPace, ordersBy } from '@conch/core/service'
import { z } from 'zod'
import { readStored, writeStored } from '../app/stored.ts'
import { followed } from '../ui/followed.ts'

export interface OrderFeed {
  /** Asked for and not taken yet, the oldest first. */
  open: (nowMs: number) => Order[]
  /** Somebody makes them now. */
  take: (ids: readonly string[]) => void
  /** Not made after all: they are open again. */
  giveBack: (ids: readonly string[]) => void
}

const simulatedSchema = z.object({
  seed: z.number().int(),
  pace: z.enum(keysOf(ORDER_PACES)),
  /** When its half hour began, ms. */
  startedAt: z.number(),
  taken: z.array(z.string()),
})
export type Simulated = z.infer<typeof simulatedSchema>

const STORE = 'conch:orders'
/** The half hour that is running; undefined: no orders come. */
export const simulated = followed<Simulated | undefined>(readStored(STORE, simulatedSchema))

function set(next: Simulated | undefined): void {
  writeStored(STORE, next)
  simulated.set(next)
}

export const startOrders = (seed: number, pace: OrderPace, nowMs: number): void =>
  set({ seed, pace, startedAt: nowMs, taken: [] })
/** Not made after all: they are open again. */
export function giveBackOrders(ids: readonly string[]): void {
  const state = simulated.now()
  if (state) set({ ...state, taken: state.taken.filter((t) => !ids.includes(t)) })
}
export const stopOrders = (): void => set(undefined)

/** The simulated feed for what is poured. @param menu slugs */
export function simulatedOrders(
  state: Simulated,
  menu: readonly string[],
): OrderFeed & { leftS: (nowMs: number) => number } {
  const all = ordersBy(state.seed, state.pace, menu)
  const elapsedS = (nowMs: number) => (nowMs - state.startedAt) / 1000
  return {
    open: (nowMs) => all.filter((o) => o.atS <= elapsedS(nowMs) && !state.taken.includes(o.id)),
    leftS: (nowMs) => Math.max(0, HALF_HOUR_S - elapsedS(nowMs)),
    take: (ids) => set({ ...state, taken: [...state.taken, ...ids] }),
    giveBack: giveBackOrders,
  }
}
