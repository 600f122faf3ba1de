import { clockText, nightOf, nightText } from '@conch/core/calendar'
import { lazy, Suspense, useEffect, useState } from 'react'
import { useNewer } from '../alone/newer.ts'
import { useTapCounts } from '../alone/tapCounts.ts'
import { useHouse } from '../app/house.tsx'
import { useAloneSince } from '../app/line.ts'
import { useWho } from '../app/who.ts'

const TapsDialog = lazy(() => import('../alone/TapsDialog.tsx').then((m) => ({ default: m.TapsDialog })))

/** A line that breaks for a moment is nobody's business. */
const SAY_AFTER_MS = 3_000

/** What this device keeps to itself: that the house is not heard, since when, and what waits for it. */
export function Alone() {
  const since = useSaidSince()
  const { waiting: all, refused } = useTapCounts()
  // A tap that is on its way is nobody's business; one that stays is.
  const isLong = useIsLong(all > 0)
  const waiting = since || isLong ? all : 0
  const [isOpen, setOpen] = useState(false)
  const isSilent = !since && waiting + refused === 0
  return (
    <>
      {isSilent ? (
        <Newer />
      ) : (
        <div
          role="status"
          data-alone={since ? '' : undefined}
          className="no-print flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-stop bg-buff px-4 py-1.5"
        >
          <p className="min-w-0 flex-1 basis-72">
            {since && (
              <>
                <b className="font-semibold">On its own since {since}.</b> The house is not heard: what is shown is from
                then. <KeptWords />
              </>
            )}
            {!since && refused === 0 && 'What was tapped while the house was away is not all there yet.'}
            {refused > 0 && (
              <b className="font-semibold text-stop">
                {' '}
                {refused === 1 ? 'One thing that was tapped here' : `${refused} things that were tapped here`} the house
                would not take.
              </b>
            )}
          </p>
          {waiting + refused > 0 && (
            <button type="button" className="act min-h-11" onClick={() => setOpen(true)}>
              {waiting > 0 ? `${waiting === 1 ? 'One waits' : `${waiting} wait`} to be sent` : 'Look at it'}
            </button>
          )}
        </div>
      )}
      {isOpen && (
        <Suspense fallback={null}>
          <TapsDialog onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  )
}

/** What is kept for whom: nothing of what a manager reads stays on a device. */
function KeptWords() {
  const { role } = useWho()
  return role === 'manager'
    ? 'What is out, what is tasted and drafts are kept here and sent when it is back; nothing that you read is.'
    : 'What is out, what is tasted, lots used up and drafts are kept here and sent when it is back.'
}

/** Whether it has been so for a while. */
function useIsLong(is: boolean): boolean {
  const [isLong, setLong] = useState(false)
  useEffect(() => {
    if (!is) {
      setLong(false)
      return
    }
    const timer = setTimeout(() => setLong(true), SAY_AFTER_MS)
    return () => clearTimeout(timer)
  }, [is])
  return isLong
}

/** Since when, in words, once it is worth saying. */
function useSaidSince(): string | undefined {
  const { clock, today } = useHouse()
  const since = useAloneSince()
  const [isSaid, setSaid] = useState(false)
  useEffect(() => {
    if (!since) {
      setSaid(false)
      return
    }
    const timer = setTimeout(() => setSaid(true), Math.max(0, since.getTime() + SAY_AFTER_MS - Date.now()))
    return () => clearTimeout(timer)
  }, [since])
  if (!since || !isSaid) return undefined
  const at = since.toISOString()
  const time = clockText(at, clock)
  return nightOf(since, clock) === today ? time : `${nightText(at, clock)}, ${time}`
}

/** Newer pages are taken when whoever works here has a moment. */
function Newer() {
  const take = useNewer()
  if (!take) return null
  return (
    <p role="status" className="no-print flex flex-wrap items-center gap-x-3 border-b border-hair bg-buff px-4 py-1.5">
      <span className="flex-1">A newer version of these pages is here. Drafts stay.</span>
      <button type="button" className="act min-h-11" onClick={() => void take()}>
        Take it
      </button>
    </p>
  )
}
