import { type SignInState, secretKindOf } from '@conch/contract'
import { useState } from 'react'
import { z } from 'zod'
import { signIn } from '../../app/signingIn.ts'
import { useSending } from '../../app/useSending.ts'
import { Field } from '../../ui/Field.tsx'
import { NameList } from './NameList.tsx'
import { PinPad } from './PinPad.tsx'

type Person = NonNullable<SignInState['people']>[number]

interface SignInProps {
  state: SignInState
  /** Who is asked first: the one whose screen is locked. */
  first?: string | undefined
  onIn?: () => void
}

/** Says who one is: by one's name in the list on a device of the house, elsewhere by typing it. */
export function SignIn({ state, first, onIn }: SignInProps) {
  const [name, setName] = useState(first)
  const { people } = state
  if (!people) return <ByName {...(onIn ? { onIn } : {})} first={first} />
  const person = people.find((p) => p.name === name)
  if (!person) return <NameList people={people} onPick={(p) => setName(p.name)} beside={(p) => <Shown person={p} />} />
  return (
    <div>
      <p className="mb-4 flex flex-wrap items-baseline gap-x-3">
        <span className="min-w-0 font-display text-2xl break-words">{person.name}</span>
        <Shown person={person} />
        <button type="button" className="act act-quiet ml-auto min-h-11" onClick={() => setName(undefined)}>
          Somebody else
        </button>
      </p>
      {secretKindOf(person.role) === 'pin' ? (
        <PinPad
          key={person.name}
          label={`PIN of ${person.name}`}
          onPin={async (pin) => {
            await signIn(person.name, pin)
            onIn?.()
          }}
        />
      ) : (
        <ByPassphrase name={person.name} {...(onIn ? { onIn } : {})} />
      )}
    </div>
  )
}

/** Only in the demo house, whose words are there to be read. */
function Shown({ person }: { person: Person }) {
  if (person.shown === null) return null
  const word = secretKindOf(person.role) === 'pin' ? 'PIN' : 'passphrase'
  return (
    <span className="w-full text-sm text-soft sm:w-auto">
      {word} <span className="font-semibold text-ink">{person.shown}</span>
    </span>
  )
}

const passphraseForm = z.object({ secret: z.string().min(1, 'Say the passphrase.') })

function ByPassphrase({ name, onIn }: { name: string; onIn?: () => void }) {
  const form = useSending(passphraseForm, { secret: '' }, async ({ secret }) => {
    await signIn(name, secret)
    onIn?.()
  })
  return (
    <form onSubmit={form.submit} className="max-w-md">
      <input type="hidden" autoComplete="username" value={name} readOnly />
      <Field label={`Passphrase of ${name}`} error={form.errorOf('secret') ?? form.problem}>
        {(props) => (
          // biome-ignore lint/a11y/noAutofocus: it was opened to be typed into
          <input {...props} type="password" autoComplete="current-password" autoFocus {...form.register('secret')} />
        )}
      </Field>
      <button type="submit" className="act act-main min-h-11" disabled={form.isBusy}>
        Come in
      </button>
    </form>
  )
}

const nameForm = z.object({
  name: z.string().trim().min(1, 'Say your name, as the house has it.'),
  secret: z.string().min(1, 'Say your PIN or passphrase.'),
})

/** A device that the house does not know: nobody's name is shown on it. */
function ByName({ onIn, first }: { onIn?: () => void; first?: string | undefined }) {
  const form = useSending(nameForm, { name: first ?? '', secret: '' }, async ({ name, secret }) => {
    await signIn(name, secret)
    onIn?.()
  })
  return (
    <form onSubmit={form.submit} className="max-w-md">
      <Field label="Your name" error={form.errorOf('name')}>
        {(props) => <input {...props} autoComplete="username" maxLength={120} {...form.register('name')} />}
      </Field>
      <Field label="Your PIN or passphrase" error={form.errorOf('secret') ?? form.problem}>
        {(props) => <input {...props} type="password" autoComplete="current-password" {...form.register('secret')} />}
      </Field>
      <button type="submit" className="act act-main min-h-11" disabled={form.isBusy}>
        Come in
      </button>
    </form>
  )
}
