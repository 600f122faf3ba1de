/** A feed of orders that does not exist: by a seed, slow or in a rush, so that an evening can be practised and looked at. */

import { seededRandom } from '../solve/index.ts'

export interface Order {
  id: string
  /** From the beginning of the half hour, s. */
  atS: number
  table: string
  drinks: { drink: string; count: number }[]
}

/** How far apart orders come, s, and how many glasses one has, at most. */
export const ORDER_PACES = {
  slow: { label: 'a slow half hour', everyS: 150, mostGlasses: 2 },
  rush: { label: 'a busy half hour', everyS: 45, mostGlasses: 4 },
} as const
export type OrderPace = keyof typeof ORDER_PACES

export const HALF_HOUR_S = 1800
const TABLES = 18
/** Nobody finds the door sooner, s. */
const FIRST_S = 5

/**
 * The orders of half an hour: the same for the same seed, pace and menu. Times between two are exponential; some drinks are
 * liked more than others, as on any evening.
 * @param menu slugs of what is poured
 */
export function ordersBy(seed: number, pace: OrderPace, menu: readonly string[]): Order[] {
  if (menu.length === 0) return []
  const random = seededRandom(seed)
  const { everyS, mostGlasses } = ORDER_PACES[pace]
  const liked = menu.map((drink) => ({ drink, weight: 0.25 + random.uniform() ** 2 }))
  const whole = liked.reduce((sum, l) => sum + l.weight, 0)
  const one = () => {
    let left = random.uniform() * whole
    for (const { drink, weight } of liked) {
      left -= weight
      if (left <= 0) return drink
    }
    return menu[0] as string
  }
  const orders: Order[] = []
  for (let atS = FIRST_S; atS < HALF_HOUR_S; atS += -everyS * Math.log(1 - random.uniform())) {
    const glasses = 1 + Math.floor(random.uniform() * mostGlasses)
    const counts = new Map<string, number>()
    for (let i = 0; i < glasses; i++) {
      const drink = one()
      counts.set(drink, (counts.get(drink) ?? 0) + 1)
    }
    orders.push({
      id: `${seed}-${pace}-${orders.length + 1}`,
      atS: Math.round(atS),
      table: `Table ${1 + Math.floor(random.uniform() * TABLES)}`,
      drinks: [...counts].map(([drink, count]) => ({ drink, count })),
    })
  }
  return orders
}
