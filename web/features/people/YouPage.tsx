import { ROLE_WORDS, ROLES } from '@conch/contract'
import { useQuery } from '@tanstack/react-query'
import { toast } from 'sonner'
import { signInQuery } from '../../app/queries.ts'
import { signOut } from '../../app/signingIn.ts'
import { useWho } from '../../app/who.ts'
import { Doings } from '../audit/index.ts'
import { OwnSecretForm } from './OwnSecret.tsx'
import { Lacking } from './SignInPage.tsx'
import { StandsAlone } from './StandsAlone.tsx'

/** One's own: PIN, sign-ins, and what one did. */
export function YouPage() {
  const who = useWho()
  const state = useQuery(signInQuery).data
  return (
    <div className="px-4 pt-4 pb-10">
      <h1 className="text-3xl break-words">{who.name}</h1>
      <p className="mt-1 text-soft">
        {ROLES[who.role]}: {ROLE_WORDS[who.role]}.
        {state?.device ? ` On ${state.device.name}, a device of the house.` : ''}
      </p>
      {state && !state.isSecure && <Lacking />}
      <div className="mt-4 grid gap-x-12 gap-y-6 lg:grid-cols-[minmax(18rem,26rem)_1fr]">
        <section aria-label="Your own word">
          <h2 className="mb-3 border-b border-ink text-lg">Your own word</h2>
          {who.isLocked ? (
            <p>The screen is locked: say who you are first.</p>
          ) : (
            <OwnSecretForm
              key={who.id}
              role={who.role}
              onDone={() => toast.success('Changed. Wherever else you were signed in, you no longer are.')}
            />
          )}
          <h2 className="mt-8 mb-2 border-b border-ink text-lg">A phone was lost?</h2>
          <p className="mb-2">Signs you out on every device, on this one too.</p>
          <button
            type="button"
            className="act min-h-11"
            onClick={() => void signOut(true).catch((e: Error) => toast.error(e.message))}
          >
            Sign out everywhere
          </button>
          <StandsAlone />
        </section>
        <section aria-label="What you did">
          <h2 className="mb-1 border-b border-ink text-lg">What you did</h2>
          <Doings />
        </section>
      </div>
    </div>
  )
}
