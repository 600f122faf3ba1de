/** Who else has a draft open, as the house says. */

import type { DraftKind, Present } from '@conch/contract'
import { useEffect } from 'react'
import { z } from 'zod'
import { api } from '../app/api.ts'
import { followed } from '../ui/followed.ts'

interface Here {
  page: string
  on: string | null
}

/** The house forgets whoever does not say so again. */
const SAY_EVERY_MS = 20_000
const heard = z.object({ heard: z.literal(true) })

const present = followed<Present>([])

export function setPresent(next: Present): void {
  if (JSON.stringify(next) !== JSON.stringify(present.now())) present.set(next)
}

/** This page among all pages of all devices. */
const page = [...crypto.getRandomValues(new Uint8Array(12))].map((b) => b.toString(16).padStart(2, '0')).join('')

const say = (on: string | null) => api.say('/api/here', heard, { page, on } satisfies Here).catch(() => undefined)

/**
 * Says that this page has a draft open, and who else has.
 * @returns their names, each once
 */
export function useOnDraft(kind: DraftKind, subject: string): string[] {
  const on = `${kind}/${subject}`
  useEffect(() => {
    void say(on)
    const timer = setInterval(() => void say(on), SAY_EVERY_MS)
    return () => {
      clearInterval(timer)
      void say(null)
    }
  }, [on])
  const all = present.use()
  return [...new Set(all.filter((p) => p.on === on && p.page !== page).map((p) => p.who))]
}
