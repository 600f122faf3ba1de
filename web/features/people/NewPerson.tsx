import { personSchema, ROLE_WORDS, ROLES, type Role, roleSchema, secretKindOf } from '@conch/contract'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { useSending } from '../../app/useSending.ts'
import { Field } from '../../ui/Field.tsx'

const ROLE_NAMES = Object.entries(ROLES) as [Role, string][]
const newPerson = personSchema.pick({ role: true }).extend({
  name: z.string().trim().min(1, 'Say what they are called.'),
  secret: z.string(),
})

/** Somebody new, with a first PIN that they change when they come. */
export function NewPerson({ onMade }: { onMade: () => Promise<unknown> }) {
  const form = useSending(newPerson, { name: '', role: 'bartender', secret: '' }, async ({ secret, ...person }) => {
    await api.post('/api/people', personSchema, { ...person, ...(secret ? { secret } : {}) })
    form.reset({ name: '', role: person.role, secret: '' })
    await onMade()
  })
  const role = roleSchema.parse(form.watch('role'))
  const word = secretKindOf(role) === 'pin' ? 'PIN' : 'passphrase'
  return (
    <form
      onSubmit={form.submit}
      aria-label="Somebody new"
      className="mt-4 grid max-w-4xl items-start gap-x-3 sm:grid-cols-[1fr_auto_1fr_auto]"
    >
      <Field label="Somebody new" error={form.errorOf('name') ?? form.problem}>
        {(props) => <input {...props} maxLength={120} {...form.register('name')} />}
      </Field>
      <Field label="What they are" hint={ROLE_WORDS[role]}>
        {(props) => (
          <select {...props} {...form.register('role')}>
            {ROLE_NAMES.map(([key, label]) => (
              <option key={key} value={key}>
                {label}
              </option>
            ))}
          </select>
        )}
      </Field>
      <Field
        label={`Their first ${word}`}
        error={form.errorOf('secret')}
        hint="They choose their own when they come. Without one they cannot sign in."
      >
        {(props) => <input {...props} autoComplete="off" {...form.register('secret')} />}
      </Field>
      <button type="submit" className="act act-main sm:mt-5" disabled={form.isBusy}>
        Take on
      </button>
    </form>
  )
}
