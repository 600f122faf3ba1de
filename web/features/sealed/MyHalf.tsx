import { useQuery } from '@tanstack/react-query'
import { useWho } from '../../app/who.ts'
import { HalfSheet } from './HalfSheet.tsx'
import { splitPrepsQuery } from './useSplitPreps.ts'

/** The sheet that was dealt to whoever works here, newest batch first. */
export function MyHalf({ ingredient }: { ingredient: string }) {
  const who = useWho()
  const preps = useQuery(splitPrepsQuery).data ?? []
  const mine = preps.find((p) => p.ingredient === ingredient && p.sheets.some((s) => s.hand === who.name))
  const sheet = mine?.sheets.find((s) => s.hand === who.name)
  return mine && sheet ? <HalfSheet prep={mine} sheet={sheet} /> : null
}
