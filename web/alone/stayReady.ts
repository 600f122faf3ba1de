/** Keeps this device ready to stand alone, and sends what was said meanwhile. Loaded once, beside the first page. */

import type { Audience } from '@conch/contract'
import { onWrite, takeKeptShown } from '../app/api.ts'
import { lineNow, onLine } from '../app/line.ts'
import { queryClient } from '../app/queries.ts'
import { setSaidHere } from '../app/saidHere.ts'
import { setBeforeLeaving, tellLocked } from '../app/signingIn.ts'
import { onWho, readWho, type Who } from '../app/who.ts'
import { forgetAnswers } from '../keeping/answers.ts'
import { isBarHere, keepForBar } from './keepForBar.ts'
import { tonightWith } from './saidHere.ts'
import { flushTaps } from './taps.ts'

/** After the first page is there. */
const FIRST_MS = 2_000
/** After something changed: together with what else changes, and not by every device at once. */
const SOON_MS = 4_000
const SPREAD_MS = 8_000
/** Whoever leaves waits at most so long for what they said to be sent. */
const LEAVING_MS = 3_000
const AGAIN_MS = 15_000

let timer: ReturnType<typeof setTimeout> | undefined
let isKeeping = false
let isAskedAgain = false

function keepSoon(inMs = SOON_MS + Math.random() * SPREAD_MS): void {
  if (timer !== undefined || !isBarHere()) return
  timer = setTimeout(async () => {
    timer = undefined
    isAskedAgain = isKeeping
    if (isKeeping || !isBarHere()) return
    isKeeping = true
    await keepForBar().catch(() => {})
    isKeeping = false
    if (isAskedAgain) keepSoon()
  }, inMs)
}

/** What is not for whoever is here now is not left lying. */
function forgetWhatIsOthers(who: Who | undefined, before: Who | undefined): void {
  const others: Audience[] = who ? [who.role === 'viewer' ? 'bar' : 'guests'] : ['bar', 'guests']
  // What one was writing is for nobody who comes after.
  if (who?.id !== before?.id) others.push('writers')
  void forgetAnswers(...others)
}

/** The house is heard again: what was said is sent, then the house is told who is here, then everything is asked for. */
async function comeBack(): Promise<void> {
  await flushTaps()
  if (!(await tellLocked())) return
  const isKeptShown = takeKeptShown()
  void queryClient.invalidateQueries({ predicate: ({ state }) => isKeptShown || state.status === 'error' })
  keepSoon()
}

/** Begins; once. */
export function stayReady(): void {
  setSaidHere(tonightWith)
  setBeforeLeaving(() => Promise.race([flushTaps(), new Promise((resolve) => setTimeout(resolve, LEAVING_MS))]))
  let before = readWho()
  onWho(() => {
    const who = readWho()
    if (who?.id !== before?.id || who?.role !== before?.role) {
      forgetWhatIsOthers(who, before)
      keepSoon(FIRST_MS)
    }
    before = who
    // Whoever was not known to be it may have said their PIN.
    void flushTaps()
  })
  onLine(() => {
    if (lineNow() === 'live') void comeBack()
  })
  onWrite(() => keepSoon())
  // What is invalidated is fetched again, also where nobody looks at it now.
  queryClient.getQueryCache().subscribe((event) => {
    if (event.type === 'updated' && event.action.type === 'invalidate') keepSoon()
  })
  window.addEventListener('online', () => void flushTaps())
  setInterval(() => {
    void flushTaps()
    if (readWho()?.isUntold && lineNow() === 'live') void comeBack()
  }, AGAIN_MS)
  // On a device that it is installed on, what waits is not cleared away for want of room.
  if (matchMedia('(display-mode: standalone)').matches) void navigator.storage?.persist?.()
  void flushTaps()
  keepSoon(FIRST_MS)
}
