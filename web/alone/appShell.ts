/** The pages themselves, kept by the browser: they open without the network. */

import { registerSW } from 'virtual:pwa-register'
import { onLine } from '../app/line.ts'
import { setNewer } from './newer.ts'

/** A tablet that stays open for weeks looks now and then. */
const LOOK_EVERY_MS = 3_600_000
/** Whoever has only just opened the page, and touched nothing, gets the newer one at once. */
const AT_ONCE_MS = 10_000
const RELOAD_MS = 2_000

export function keepShell(): void {
  const began = performance.now()
  let isTouched = false
  const touch = () => {
    isTouched = true
  }
  for (const event of ['pointerdown', 'keydown'] as const) addEventListener(event, touch, { once: true, capture: true })
  const takeNewer = async () => {
    await update(true)
    // Mostly it has loaded itself anew by then.
    setTimeout(() => location.reload(), RELOAD_MS)
  }
  const update = registerSW({
    onNeedRefresh: () => {
      if (!isTouched && performance.now() - began < AT_ONCE_MS) void takeNewer()
      else setNewer(takeNewer)
    },
    onRegisteredSW: (_address, registration) => {
      const look = () => registration?.update().catch(() => {})
      setInterval(look, LOOK_EVERY_MS)
      // The house was away: it may have come back as a newer one.
      onLine(look)
    },
  })
}
