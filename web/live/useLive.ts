import { signInStateSchema } from '@conch/contract'
import { useEffect } from 'react'
import { api } from '../app/api.ts'
import { workAs } from '../app/signingIn.ts'
import { forgetWho, readWho } from '../app/who.ts'
import { listen } from './feed.ts'

/** Somebody signed out elsewhere, or is in another role: this page is for whoever is signed in now. */
async function lookWhoIsHere(): Promise<void> {
  const state = await api.get('/api/sign-in', signInStateSchema).catch(() => undefined)
  // Somebody goes on here by their word alone: it is still the sign-in of the one before.
  if (state?.you && readWho()?.session === state.you.id) return
  if (state?.you) workAs(state.you)
  else if (state) forgetWho()
}

/** Follows the house as long as it is there: for one person, and anew for another. */
export function useLive(): void {
  useEffect(() => listen(() => void lookWhoIsHere()), [])
}
