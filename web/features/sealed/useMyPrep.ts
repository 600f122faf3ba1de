import { useQuery } from '@tanstack/react-query'
import { useWho } from '../../app/who.ts'
import { splitPrepsQuery } from './useSplitPreps.ts'

/** The newest batch of something sealed of which a half was dealt to whoever is signed in, while they may see it. */
export function useMyPrep(ingredient: string) {
  const { name } = useWho()
  const preps = useQuery(splitPrepsQuery)
  const mine = preps.data?.find((p) => p.ingredient === ingredient && p.sheets.some((s) => s.hand === name))
  return { mine, sheet: mine?.sheets.find((s) => s.hand === name), isPending: preps.isPending }
}
