import { done, type Person, type PersonSignIn, secretKindOf } from '@conch/contract'
import { momentText } from '@conch/core/calendar'
import { toast } from 'sonner'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { useSending } from '../../app/useSending.ts'
import { useWho } from '../../app/who.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { Field } from '../../ui/Field.tsx'

interface PersonDialogProps {
  person: Person
  signIn: PersonSignIn | undefined
  onClose: () => void
  onChanged: () => Promise<unknown>
}

const firstForm = z.object({ secret: z.string().min(1, 'Say it.') })

/** How one person signs in: where they are, a first word, a lock lifted. */
export function PersonDialog({ person, signIn, onClose, onChanged }: PersonDialogProps) {
  const who = useWho()
  const { clock } = useHouse()
  const word = secretKindOf(person.role) === 'pin' ? 'PIN' : 'passphrase'
  const form = useSending(firstForm, { secret: '' }, async ({ secret }) => {
    await api.put(`/api/people/${person.id}/secret`, done, { secret })
    toast.success(`${person.name} signs in with it once, and then chooses another.`)
    form.reset()
    await onChanged()
  })
  const ask = (what: Promise<unknown>, said: string) =>
    void what
      .then(() => toast.success(said))
      .catch((e: Error) => toast.error(e.message))
      .finally(onChanged)
  const sessions = signIn?.sessions ?? []
  return (
    <Dialog isOpen onClose={onClose} title={person.name}>
      {signIn?.isLockedOut && (
        <div className="mb-4 border-l-4 border-stop pl-3">
          <p>
            Ten wrong PINs came from devices that are not the house’s. Until you lift it, only devices of the house let{' '}
            {person.name} in.
          </p>
          <button
            type="button"
            className="act mt-2 min-h-11"
            onClick={() => ask(api.delete(`/api/people/${person.id}/lock-out`, done), 'Lifted.')}
          >
            Let them in again everywhere
          </button>
        </div>
      )}
      <h3 className="mb-1 text-base">Signed in</h3>
      {sessions.length === 0 ? (
        <p className="mb-4 text-soft">Nowhere.</p>
      ) : (
        <>
          <ul className="mb-2">
            {sessions.map((s) => (
              <li key={`${s.device} ${s.since}`}>
                {s.device ?? 'a device of their own'}{' '}
                <span className="text-soft">since {momentText(s.since, clock)}</span>
              </li>
            ))}
          </ul>
          {person.id !== who.id && (
            <button
              type="button"
              className="act mb-4 min-h-11"
              onClick={() =>
                ask(api.post('/api/sign-out-everywhere', done, { personId: person.id }), 'Signed out everywhere.')
              }
            >
              Sign them out everywhere
            </button>
          )}
        </>
      )}
      {person.id === who.id ? (
        <p className="text-soft">Your own {word} you change on your own page, by your name at the top right.</p>
      ) : (
        <form onSubmit={form.submit}>
          <Field
            label={`Give them a first ${word}`}
            error={form.errorOf('secret') ?? form.problem}
            hint={`The one they have now no longer counts, and they are signed out. They choose their own when they come.`}
          >
            {(props) => <input {...props} autoComplete="off" {...form.register('secret')} />}
          </Field>
          <button type="submit" className="act act-main min-h-11" disabled={form.isBusy}>
            It is their {word} now
          </button>
        </form>
      )}
      <p className="mt-4 text-right">
        <button type="button" className="act min-h-11" onClick={onClose}>
          Close
        </button>
      </p>
    </Dialog>
  )
}
