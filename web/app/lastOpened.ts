/** What was opened last on this device: a drink, a mix, a lot, an edition …; one key leads back to it. */

import { useEffect } from 'react'
import { useLocation } from 'react-router'
import { z } from 'zod'
import { readStored, writeStored } from './stored.ts'

const KEY = 'conch:last'
const MOST = 8
const openedSchema = z.array(z.object({ address: z.string(), name: z.string() }))
export type Opened = z.infer<typeof openedSchema>[number]

export const lastOpened = (): Opened[] => readStored(KEY, openedSchema) ?? []

/** Keeps that the page of this thing is open, as soon as its name is known. */
export function useOpened(name: string | undefined): void {
  const { pathname } = useLocation()
  useEffect(() => {
    if (!name) return
    const others = lastOpened().filter((o) => o.address !== pathname)
    writeStored(KEY, [{ address: pathname, name }, ...others].slice(0, MOST))
  }, [pathname, name])
}
