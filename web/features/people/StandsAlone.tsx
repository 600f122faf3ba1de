import { AUDIENCES_OF_ROLE } from '@conch/contract'
import { clockText, nightOf, nightText } from '@conch/core/calendar'
import { useQuery } from '@tanstack/react-query'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { newestKept } from '../../keeping/answers.ts'

/** What this device could show if the network went now: looked at before the shift, not found out in the middle of it. */
export function StandsAlone() {
  const { clock, today } = useHouse()
  const who = useWho()
  const [audience] = AUDIENCES_OF_ROLE[who.role]
  const kept = useQuery({
    queryKey: ['ready', 'kept here', audience],
    queryFn: async () => ({
      newest: audience ? await newestKept(audience) : undefined,
      hasPages: (await navigator.serviceWorker?.getRegistration()) !== undefined,
    }),
    staleTime: 0,
    refetchInterval: 5_000,
  }).data
  if (!kept) return null
  const { newest, hasPages } = kept
  const at = newest && new Date(newest).toISOString()
  return (
    <section aria-label="Without the network" className="mt-8">
      <h2 className="mb-2 border-b border-ink text-lg">Without the network</h2>
      {audience === undefined && (
        <p>
          Nothing of what a manager reads stays on a device. What you tap for the night and your drafts do, until they
          are sent.
        </p>
      )}
      {audience !== undefined && !at && <p>The menu and its cards are being fetched; they stay here from then on.</p>}
      {at && (
        <p>
          The menu, its cards and what is out are here as of{' '}
          {nightOf(new Date(at), clock) === today
            ? clockText(at, clock)
            : `${nightText(at, clock)}, ${clockText(at, clock)}`}
          . What you tap is kept and sent when the house is heard.
        </p>
      )}
      {!hasPages && (
        <p className="mt-1 text-mind">
          The pages themselves are not kept by this browser: as long as this one stays open it goes on; opened anew it
          would not.
        </p>
      )}
    </section>
  )
}
