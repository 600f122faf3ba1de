import { HalfSheet } from './HalfSheet.tsx'
import { useMyPrep } from './useMyPrep.ts'

/** The sheet that was dealt to whoever works here, newest batch first. */
export function MyHalf({ ingredient }: { ingredient: string }) {
  const { mine, sheet } = useMyPrep(ingredient)
  return mine && sheet ? <HalfSheet prep={mine} sheet={sheet} /> : null
}
