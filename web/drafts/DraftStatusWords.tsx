import { clockText } from '@conch/core/calendar'
import { useHouse } from '../app/house.tsx'
import type { DraftStatus } from './draftState.ts'

/** How far a draft has got: on the server, on this device, or met by somebody else's. */
export function DraftStatusWords({ status, noun = 'draft' }: { status: DraftStatus<object>; noun?: string }) {
  const { clock } = useHouse()
  const words = {
    saved: () =>
      status.kind === 'saved' && status.at ? `${noun} saved ${clockText(status.at, clock)}` : `${noun} saved`,
    unsaved: () => `${noun} not saved yet`,
    saving: () => 'saving …',
    away: () => 'no connection: kept on this device',
    refused: () => (status.kind === 'refused' ? `not saved: ${status.message}` : ''),
    conflict: () => `two ${noun}s: compare below`,
  }[status.kind]()
  const isBad = status.kind === 'away' || status.kind === 'refused' || status.kind === 'conflict'
  return (
    <span role="status" data-draft-status={status.kind} className={`mr-1 text-sm ${isBad ? 'text-stop' : 'text-soft'}`}>
      {words}
    </span>
  )
}
