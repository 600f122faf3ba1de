import { clockText } from '@conch/core/calendar'
import { useEffect, useState } from 'react'
import { useHouse } from '../app/house.tsx'
import { useAloneSince } from '../live/index.ts'

/** A line that breaks for a moment is nobody's business. */
const SAY_AFTER_MS = 3_000

/** Says that the house is not heard, and since when: what is shown is from before. */
export function Alone() {
  const { clock } = useHouse()
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
  if (!since || !isSaid) return null
  return (
    <p role="status" data-alone className="no-print border-b border-stop bg-buff px-4 py-1.5">
      <b className="font-semibold">On its own since {clockText(since.toISOString(), clock)}.</b> The house is not heard:
      what is shown is from then. Drafts are kept on this device and sent when it is back; nothing else is.
    </p>
  )
}
