import { done, LEAST_PASSPHRASE, PIN_DIGITS, type Role, secretKindOf } from '@conch/contract'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { queryClient, signInQuery } from '../../app/queries.ts'
import { useSending } from '../../app/useSending.ts'
import { Field } from '../../ui/Field.tsx'

const wordOf = (role: Role) => (secretKindOf(role) === 'pin' ? 'PIN' : 'passphrase')

const ownForm = z.object({
  old: z.string().min(1, 'Say the one you have now.'),
  secret: z.string().min(1, 'Say the new one.'),
  again: z.string(),
})

/** One's own PIN or passphrase, changed by whoever knows the one before. */
export function OwnSecretForm({ role, onDone }: { role: Role; onDone?: () => void }) {
  const word = wordOf(role)
  const isPin = secretKindOf(role) === 'pin'
  const form = useSending(ownForm, { old: '', secret: '', again: '' }, async ({ old, secret, again }) => {
    if (secret !== again) throw new Error('The two new ones are not the same; type them again.')
    await api.put('/api/own-secret', done, { old, secret })
    form.reset()
    await queryClient.invalidateQueries({ queryKey: signInQuery.queryKey })
    onDone?.()
  })
  const typed = isPin ? { inputMode: 'numeric' as const, maxLength: PIN_DIGITS } : {}
  return (
    <form onSubmit={form.submit} className="max-w-md">
      <Field label={`The ${word} you have now`} error={form.errorOf('old')}>
        {(props) => (
          <input {...props} {...typed} type="password" autoComplete="current-password" {...form.register('old')} />
        )}
      </Field>
      <Field
        label={`A new ${word}`}
        error={form.errorOf('secret')}
        hint={isPin ? `${PIN_DIGITS} digits that do not run` : `A sentence of at least ${LEAST_PASSPHRASE} letters`}
      >
        {(props) => (
          <input {...props} {...typed} type="password" autoComplete="new-password" {...form.register('secret')} />
        )}
      </Field>
      <Field label="The new one again" error={form.errorOf('again') ?? form.problem}>
        {(props) => (
          <input {...props} {...typed} type="password" autoComplete="new-password" {...form.register('again')} />
        )}
      </Field>
      <button type="submit" className="act act-main min-h-11" disabled={form.isBusy}>
        Take the new {word}
      </button>
    </form>
  )
}
