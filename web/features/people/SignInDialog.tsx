import { useQuery } from '@tanstack/react-query'
import { useAloneSince } from '../../app/line.ts'
import { signInQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { Failure, Loading } from '../../ui/States.tsx'
import { GoOn } from './GoOn.tsx'
import { SignIn } from './SignIn.tsx'

/** Another hand takes the device, or the same one after a while. */
export function SignInDialog({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  return (
    <Dialog isOpen={isOpen} onClose={onClose} title="Who is it?" width={480}>
      {isOpen && <Asked onIn={onClose} />}
    </Dialog>
  )
}

function Asked({ onIn }: { onIn: () => void }) {
  const who = useWho()
  const isAway = useAloneSince() !== undefined
  const asked = useQuery(signInQuery)
  if (isAway) return <GoOn onIn={onIn} />
  if (asked.isPending) return <Loading what="who works here" />
  if (!asked.data) return <Failure error={asked.error} onRetry={() => asked.refetch()} />
  return <SignIn state={asked.data} first={who.isLocked || who.isUnconfirmed ? who.name : undefined} onIn={onIn} />
}
