import { useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { signInQuery } from '../../app/queries.ts'
import { workAs } from '../../app/signingIn.ts'
import { setStoredWell, storedWell } from '../../app/well.ts'
import { Failure, Loading } from '../../ui/States.tsx'
import { EnrolDevice } from './EnrolDevice.tsx'
import { SignIn } from './SignIn.tsx'

/** The door: who is it? */
export function SignInPage() {
  const asked = useQuery(signInQuery)
  const state = asked.data
  const isNew = asked.isFetchedAfterMount
  useEffect(() => {
    if (!state) return
    document.title = state.house ? `${state.house} · Lazy Conch` : 'Lazy Conch'
    // A device of the house stands at its well from the first evening on.
    if (state.device?.well && storedWell() === undefined) setStoredWell(state.device.well)
    // The page has forgotten who is here; the house, asked just now, has not.
    if (isNew && state.you) workAs(state.you)
  }, [state, isNew])
  if (asked.isPending) return <Loading what="the door" />
  if (!state) return <Failure error={asked.error} onRetry={() => asked.refetch()} />
  return (
    <main className="mx-auto flex min-h-dvh max-w-xl flex-col px-4 py-8">
      <p className="font-display text-lg font-bold tracking-tight">Lazy Conch</p>
      <h1 className="mt-1 text-4xl break-words">{state.house}</h1>
      <p className="mt-2 mb-6 text-lg text-soft">
        {state.device ? `${state.device.name}. ` : ''}Who is it? What you do from now on stands under your name.
      </p>
      {state.hasManager ? (
        <SignIn state={state} />
      ) : (
        <p role="alert" className="border-l-4 border-mind pl-3">
          Nobody can sign in yet. On the machine that serves this house, run <code>npm run reset-manager</code>: it
          makes a manager’s passphrase.
        </p>
      )}
      <div className="mt-auto pt-8">
        {state.people?.some((p) => p.shown !== null) && (
          <p className="mb-3 text-sm text-soft">
            A demo house: its PINs stand here for everybody to read. In a house of your own they stand nowhere.
          </p>
        )}
        {!state.device && state.hasManager && <EnrolDevice />}
        {!state.isSecure && <Lacking />}
      </div>
    </main>
  )
}

/** Over a line that others can read a browser withholds some things; it is said, not found out at the bar. */
export function Lacking() {
  return (
    <p className="mt-3 border-l-4 border-mind pl-3 text-sm">
      This address is not encrypted: others in this network could read along, and the browser gives no staying awake, no
      work without the network and no scale by cable here. Whoever serves the house can give it a secure address.
    </p>
  )
}
