import { useEffect } from 'react'
import { z } from 'zod'
import { lockScreen } from './signingIn.ts'
import { readStored, writeStored } from './stored.ts'

/** Until the house says otherwise. */
export const IDLE_LOCK_MINUTES = 10
const LOOK_EVERY_MS = 5_000
const KEY = 'conch:stirred'

/**
 * Locks the screen when nobody has touched this device for a while; its other pages count, too.
 * @param minutes 0: never
 */
export function useIdleLock(minutes: number): void {
  useEffect(() => {
    if (minutes <= 0) return undefined
    let stirred = Date.now()
    writeStored(KEY, stirred)
    const stir = () => {
      // A tablet that slept did not hear how long: first it is looked whether it is locked by now.
      look()
      if (Date.now() - stirred > LOOK_EVERY_MS) writeStored(KEY, Date.now())
      stirred = Date.now()
    }
    const look = () => {
      const last = Math.max(stirred, readStored(KEY, z.number()) ?? 0)
      if (Date.now() - last > minutes * 60_000) lockScreen()
    }
    const timer = setInterval(look, LOOK_EVERY_MS)
    const seen = () => document.visibilityState === 'visible' && look()
    document.addEventListener('visibilitychange', seen)
    window.addEventListener('pointerdown', stir, { capture: true, passive: true })
    window.addEventListener('keydown', stir, { capture: true, passive: true })
    return () => {
      clearInterval(timer)
      document.removeEventListener('visibilitychange', seen)
      window.removeEventListener('pointerdown', stir, { capture: true })
      window.removeEventListener('keydown', stir, { capture: true })
    }
  }, [minutes])
}
