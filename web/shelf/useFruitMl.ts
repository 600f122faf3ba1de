import type { FruitMl } from '@conch/core/measure'
import { useCallback } from 'react'
import { useHouse } from '../app/house.tsx'

/** What a fruit gives in this house, by the fruit's name. */
export function useFruitMl(): (fruit: string) => FruitMl | undefined {
  const { fruits } = useHouse().house
  return useCallback((fruit) => fruits[fruit], [fruits])
}
