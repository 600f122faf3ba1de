import { keysOf } from '@conch/core/schema/keysOf'
import { HALF_HOUR_S, ORDER_PACES, type Order, type OrderPace } from '@conch/core/service'
import { useEffect, useMemo, useState } from 'react'
import { barClock, clockSpeed, setClockSpeed } from '../../devices/clock.ts'
import { simulated, simulatedOrders, startOrders, stopOrders } from '../../devices/orders.ts'
import type { RailDrink } from './useRailMenu.ts'

/** To practise, the clock may run so many times as fast: orders and chills alike. */
const FASTER = 5
/** The demo's half hour: the same every time. */
const SEED = 7

export interface Orders {
  isOn: boolean
  open: Order[]
  /** Since it was asked for, s. */
  ageS: (order: Order) => number
  leftS: number
  take: (ids: readonly string[]) => void
}

/** The feed of orders for what is poured, looked at every second. */
export function useOrders(drinks: readonly RailDrink[]): Orders {
  const state = simulated.use()
  const [nowMs, setNow] = useState(barClock.nowMs)
  const isOn = state !== undefined
  useEffect(() => {
    if (!isOn) return undefined
    const timer = setInterval(() => setNow(barClock.nowMs()), 1000)
    setNow(barClock.nowMs())
    return () => clearInterval(timer)
  }, [isOn])
  const menu = drinks.map((d) => d.drink).join()
  const feed = useMemo(() => (state && menu ? simulatedOrders(state, menu.split(',')) : undefined), [state, menu])
  return {
    isOn,
    open: feed?.open(nowMs) ?? [],
    ageS: (order) => (state ? (nowMs - state.startedAt) / 1000 - order.atS : 0),
    leftS: feed?.leftS(nowMs) ?? 0,
    take: (ids) => feed?.take(ids),
  }
}

const clockText = (s: number) => `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`

interface OrdersStripProps {
  orders: Orders
  drinks: readonly RailDrink[]
  chosen: readonly string[]
  /** Glasses that the round still has room for. */
  room: number
  onTake: (order: Order) => void
}

/** What is asked for, left to right, the oldest first; or a half hour that is made up to practise with. */
export function OrdersStrip({ orders, drinks, chosen, room, onTake }: OrdersStripProps) {
  const [isChoosing, setChoosing] = useState(false)
  const speed = clockSpeed.use()
  const nameOf = (slug: string) => drinks.find((d) => d.drink === slug)?.name ?? slug
  const isDark = (slug: string) => ['dark', 'off'].includes(drinks.find((d) => d.drink === slug)?.state ?? 'dark')
  if (!orders.isOn)
    return (
      <div className="flex min-h-14 flex-wrap items-center gap-x-2 border-b border-hair px-3">
        {!isChoosing ? (
          <button type="button" className="rail-quiet" onClick={() => setChoosing(true)}>
            Practise with made-up orders …
          </button>
        ) : (
          <>
            {keysOf(ORDER_PACES).map((pace: OrderPace) => (
              <button
                key={pace}
                type="button"
                className="rail-quiet text-ink underline"
                onClick={() => {
                  startOrders(SEED, pace, barClock.nowMs())
                  setChoosing(false)
                }}
              >
                {ORDER_PACES[pace].label}
              </button>
            ))}
            <button type="button" className="rail-quiet" onClick={() => setChoosing(false)}>
              none
            </button>
          </>
        )}
      </div>
    )
  const open = orders.open.filter((o) => !chosen.includes(o.id))
  return (
    <section aria-label="Orders, made up" className="flex min-h-24 items-stretch border-b border-hair">
      <ol className="flex min-w-0 flex-1 gap-2 overflow-x-auto px-3 py-2">
        {open.length === 0 && (
          <li className="self-center text-lg text-soft">
            {orders.leftS > 0 ? 'Nothing is asked for just now.' : 'The half hour is over.'}
          </li>
        )}
        {open.map((order) => {
          const glasses = order.drinks.reduce((sum, d) => sum + d.count, 0)
          const dark = order.drinks.filter((d) => isDark(d.drink))
          return (
            <li key={order.id}>
              <button
                type="button"
                className="rail-act h-full min-h-18 w-56 flex-col items-start px-3 py-1 text-left text-base"
                disabled={glasses > room || dark.length === order.drinks.length}
                onClick={() => onTake({ ...order, drinks: order.drinks.filter((d) => !isDark(d.drink)) })}
              >
                <span className="flex w-full justify-between text-soft">
                  <span>{order.table}</span>
                  <span className={orders.ageS(order) > 300 ? 'font-semibold text-stop' : ''}>
                    {clockText(orders.ageS(order))}
                  </span>
                </span>
                {order.drinks.map((d) => (
                  <span key={d.drink} className={isDark(d.drink) ? 'text-stop line-through' : ''}>
                    {d.count > 1 && `${d.count} × `}
                    {nameOf(d.drink)}
                  </span>
                ))}
              </button>
            </li>
          )
        })}
      </ol>
      <button
        type="button"
        className="rail-quiet shrink-0"
        aria-pressed={speed > 1}
        onClick={() => setClockSpeed(speed > 1 ? 1 : FASTER)}
      >
        {speed > 1 ? `${FASTER} × as fast` : 'time of day'}
      </button>
      <button
        type="button"
        className="rail-quiet shrink-0"
        onClick={() => {
          setClockSpeed(1)
          stopOrders()
        }}
      >
        made up · {clockText(Math.min(HALF_HOUR_S, orders.leftS))} · end
      </button>
    </section>
  )
}
