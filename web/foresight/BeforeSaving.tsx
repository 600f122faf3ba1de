import { type Foresee, foresightSchema } from '@conch/contract'
import { SAFETY_DEFERRAL } from '@conch/core/house'
import { useQuery } from '@tanstack/react-query'
import { api } from '../app/api.ts'
import { useSettled } from '../ui/useSettled.ts'
import { ForesightLines } from './ForesightLines.tsx'
import { hurts, isOnMenu, summaryOf } from './words.ts'

/** What is typed is asked about when nobody has typed for a moment. */
const WAIT_MS = 600

export const foretell = (change: Foresee) => api.say('/api/foresight', foresightSchema, change)

/**
 * What a change will do, while it is not saved yet.
 * @param change as it would be saved; undefined: nothing has changed
 */
export function BeforeSaving({ change }: { change: Foresee | undefined }) {
  const text = useSettled(change ? JSON.stringify(change) : '', WAIT_MS)
  const asked = useQuery({
    queryKey: ['foresight', text],
    queryFn: () => foretell(JSON.parse(text) as Foresee),
    enabled: text !== '' && change !== undefined,
    retry: false,
  })
  if (!change || text === '') return null
  // What cannot be saved as it stands says so where it is typed.
  if (asked.isError) return null
  const found = asked.data
  if (!found)
    return (
      <p role="status" className="late my-2 text-sm text-soft">
        looking what this does …
      </p>
    )
  const words = summaryOf(found)
  const isBad = found.drinks.some((d) => isOnMenu(d) && hurts(d))
  const isSafety = found.drinks.some((d) => d.at.some((a) => a.allergensIn.length > 0))
  return (
    <section
      aria-label="Before it is saved"
      className={`my-3 border-l-4 pl-3 ${isBad ? 'border-stop' : 'border-hair'}`}
    >
      <p role="status">
        <b className="font-semibold">Before it is saved:</b>{' '}
        {words.length > 0 ? words.join('; ') : 'nothing stands on it'}.
      </p>
      {found.drinks.length > 0 && (
        <details className="mt-1" open={isBad}>
          <summary className="min-h-8 cursor-pointer text-sm text-soft">drink by drink</summary>
          <ForesightLines drinks={found.drinks} />
        </details>
      )}
      {isSafety && <p className="caption mt-1">{SAFETY_DEFERRAL}</p>}
    </section>
  )
}
