import { momentText } from '@conch/core/calendar'
import { toast } from 'sonner'
import { z } from 'zod'
import { useHouse } from '../app/house.tsx'
import { useAloneSince } from '../app/line.ts'
import { useWho } from '../app/who.ts'
import { Dialog } from '../ui/Dialog.tsx'
import { dropTap, sayTap, type WaitingTap, waitingTaps, waitsFor } from './taps.ts'

/** What was tapped here and is not in the house: in the order in which it was said, and what becomes of it. */
export function TapsDialog({ onClose }: { onClose: () => void }) {
  const taps = waitingTaps.use()
  return (
    <Dialog
      isOpen
      onClose={onClose}
      title="Tapped here, and not in the house yet"
      lead="It is sent in this order, once, when the house is heard. Nothing of it is lost when this device is put aside."
      width={640}
    >
      {taps.length === 0 ? (
        <p className="text-soft">Nothing waits any more.</p>
      ) : (
        <ul className="border-t border-hair">
          {taps.map((tap) => (
            <OneTap key={tap.place} tap={tap} />
          ))}
        </ul>
      )}
    </Dialog>
  )
}

function OneTap({ tap }: { tap: WaitingTap }) {
  const { clock } = useHouse()
  const who = useWho()
  const isAway = useAloneSince() !== undefined
  const drop = async () => {
    if (!(await dropTap(tap.place))) toast('It was sent just now: look at what is there.')
  }
  const isOthers = waitsFor(tap, who) === 'their PIN' && tap.by.id !== who.id
  // What somebody tasted is theirs; that something ran out anybody can see for themselves.
  const mayTakeOver = isOthers && !isAway && tap.kind !== 'note' && !who.isLocked && !who.isUnconfirmed
  const takeOver = async () => {
    const { kind, path, body, name, words } = tap
    try {
      // First mine: whatever happens in between, it was said.
      await sayTap({ kind, path, body, name, words }, z.unknown())
      await dropTap(tap.place)
      toast(`${words}: said under your name.`)
    } catch (error) {
      toast.error((error as Error).message)
    }
  }
  return (
    <li className="flex flex-wrap items-center gap-x-3 border-b border-hair py-1.5">
      <span className="min-w-0 flex-1 basis-60">
        <span className="block break-words">{tap.words}</span>
        <span className="block text-sm text-soft">
          {tap.by.name}
          {tap.isUnconfirmed && ', unconfirmed'}, {momentText(new Date(tap.at).toISOString(), clock)}
        </span>
        {tap.refused ? (
          <span className="block text-stop">The house would not: {tap.refused}</span>
        ) : (
          <span className="block text-sm text-soft">
            {waitsFor(tap, who) === 'their PIN'
              ? `waits until ${tap.by.name} has said who they are`
              : isAway
                ? 'waits for the house'
                : 'is being sent'}
          </span>
        )}
      </span>
      {mayTakeOver && (
        <button type="button" className="act min-h-11" onClick={() => void takeOver()}>
          I say so, too
        </button>
      )}
      <button type="button" className="act min-h-11" onClick={() => void drop()}>
        {tap.refused ? 'Seen' : 'Take it back'}
      </button>
    </li>
  )
}
