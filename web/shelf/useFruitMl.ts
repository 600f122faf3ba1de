import type { FruitMl } from '@conch/core/measure'
import { useCallback } from 'react'
import { useHouse } from '../app/house.tsx'

/** What a fruit gives in this house, by the fruit's name. */
export function useFruitMl(): (fruit: string) => FruitMl | undefined {
  const { house } = useHouse()
  return useCallback(
    (fruit) => {
      const juice = house.ingredients.find((i) => i.fruit?.name === fruit)
      const each = juice && house.fruitYields[juice.slug]
      return each && { ml: Number(each.mlPerFruit.toFixed(1)), basis: each.basis }
    },
    [house],
  )
}
