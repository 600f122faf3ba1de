/** Has what the bar needs on this device before the network goes: the poured edition with its cards, and what is out. */

import { AUDIENCES_OF_ROLE } from '@conch/contract'
import { editionsQuery, KEPT, markablesQuery, menuQuery, queryClient, tonightQuery } from '../app/queries.ts'
import { readWho } from '../app/who.ts'
import { HAVE, pouredHere } from './pouredHere.ts'

/** Nobody waits for it: one after the other, with a breath between. */
const BREATH_MS = 40

/** What a manager reads is kept nowhere. */
export function isBarHere(): boolean {
  const who = readWho()
  return who !== undefined && !who.isUntold && AUDIENCES_OF_ROLE[who.role].includes('bar')
}

/** Fetches what is missing. @throws where the house goes away meanwhile: what came until then is kept */
export async function keepForBar(): Promise<void> {
  const breath = () => new Promise((resolve) => setTimeout(resolve, BREATH_MS))
  const { choices } = await queryClient.fetchQuery({ ...tonightQuery, ...HAVE })
  const { isComputing } = await pouredHere(choices, breath)
  // What was asked too early is asked again, though nothing happens any more.
  if (isComputing) void queryClient.invalidateQueries({ queryKey: [KEPT, 'poured'], refetchType: 'none' })
  for (const query of [menuQuery, editionsQuery, markablesQuery('')] as const)
    await queryClient.fetchQuery({ ...(query as typeof menuQuery), ...HAVE })
}
