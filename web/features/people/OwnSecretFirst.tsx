import { secretKindOf } from '@conch/contract'
import { useQuery } from '@tanstack/react-query'
import { lazy, type ReactNode, Suspense, useState } from 'react'
import { toast } from 'sonner'
import { signInQuery } from '../../app/queries.ts'
import { signOut } from '../../app/signingIn.ts'
import { useWho } from '../../app/who.ts'
import { Loading } from '../../ui/States.tsx'
import { useKeepNames } from './namesHere.ts'

// Most evenings nobody needs it.
const OwnSecretForm = lazy(() => import('./OwnSecret.tsx').then((m) => ({ default: m.OwnSecretForm })))

/** Whoever came in with a word that somebody else chose chooses an own one first. */
export function OwnSecretFirst({ children }: { children: ReactNode }) {
  const who = useWho()
  const asked = useQuery(signInQuery)
  // Asked by every page of everybody: so a device knows its people before the network goes.
  useKeepNames(asked.data)
  const [isLater, setLater] = useState(false)
  const word = secretKindOf(who.role) === 'pin' ? 'PIN' : 'passphrase'
  const isDue = asked.data?.you?.id === who.id && asked.data.you.mustChange
  if (!isDue || isLater || who.isLocked) return children
  return (
    <main className="mx-auto max-w-xl px-4 py-8">
      <h1 className="text-3xl">One thing first, {who.name}</h1>
      <p className="mt-2 mb-6 text-lg text-soft">
        Somebody else chose your {word}. Choose your own: what is done with it stands under your name.
      </p>
      <Suspense fallback={<Loading what="the form" />}>
        <OwnSecretForm role={who.role} onDone={() => toast.success(`Your ${word} is your own now.`)} />
      </Suspense>
      <p className="mt-6 flex flex-wrap gap-2">
        <button type="button" className="act min-h-11" onClick={() => setLater(true)}>
          Later tonight
        </button>
        <button type="button" className="act min-h-11" onClick={() => void signOut().catch(() => undefined)}>
          I am not {who.name}
        </button>
      </p>
    </main>
  )
}
