import { useEffect } from 'react'
import { lookWhoIsHere } from '../app/signingIn.ts'
import { listen } from './feed.ts'

/** Follows the house as long as it is there: for one person, and anew for another. */
export function useLive(): void {
  useEffect(() => listen(() => void lookWhoIsHere()), [])
}
