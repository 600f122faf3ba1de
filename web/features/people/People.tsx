import { type Person, personSchema, ROLES, type Role } from '@conch/contract'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { toast } from 'sonner'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { peopleQuery } from '../../app/queries.ts'
import { useSending } from '../../app/useSending.ts'
import { useWho } from '../../app/who.ts'
import { Field } from '../../ui/Field.tsx'

const ROLE_NAMES = Object.entries(ROLES) as [Role, string][]
const newPerson = personSchema
  .pick({ role: true })
  .extend({ name: z.string().trim().min(1, 'Say what they are called.') })

/** Who works here: names, what they may, and who no longer does. Nobody is deleted: history names them. */
export function People({ mayEdit }: { mayEdit: boolean }) {
  const who = useWho()
  const queryClient = useQueryClient()
  const people = useQuery(peopleQuery).data ?? []
  const heard = () => queryClient.invalidateQueries({ queryKey: peopleQuery.queryKey })
  const change = (person: Person, part: Partial<Person>) => {
    const { id, ...rest } = { ...person, ...part }
    return api
      .put(`/api/people/${id}`, personSchema, rest)
      .catch((e: Error) => toast.error(e.message))
      .finally(heard)
  }
  const form = useSending(newPerson, { name: '', role: 'bartender' }, async (values) => {
    await api.post('/api/people', personSchema, values).finally(heard)
    form.reset({ ...values, name: '' })
  })
  return (
    <section aria-label="People" className="mt-6 mb-6">
      <h2 className="mb-1 border-b border-ink text-lg">People</h2>
      <ul className="max-w-2xl">
        {people.map((p) => (
          <li key={p.id} className="flex min-h-10 flex-wrap items-baseline gap-x-3 border-b border-hair/60 py-1">
            <span className={`min-w-0 flex-1 break-words ${p.isActive ? '' : 'text-soft line-through'}`}>
              {mayEdit ? (
                <input
                  key={p.name}
                  aria-label={`Name of ${p.name}`}
                  className="inplace w-full"
                  maxLength={120}
                  defaultValue={p.name}
                  onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
                  onBlur={(e) => {
                    const next = e.target.value.trim()
                    if (next && next !== p.name) void change(p, { name: next })
                    else e.target.value = p.name
                  }}
                />
              ) : (
                p.name
              )}
            </span>
            {mayEdit ? (
              <select
                aria-label={`What ${p.name} is`}
                className="inplace text-soft"
                value={p.role}
                onChange={(e) => change(p, { role: e.target.value as Role })}
              >
                {ROLE_NAMES.map(([key, label]) => (
                  <option key={key} value={key}>
                    {label}
                  </option>
                ))}
              </select>
            ) : (
              <span className="text-soft">{ROLES[p.role]}</span>
            )}
            {mayEdit && p.id === who.id && <span className="w-28" />}
            {mayEdit && p.id !== who.id && (
              <button
                type="button"
                className="act act-quiet w-28 text-sm text-soft"
                onClick={() => change(p, { isActive: !p.isActive })}
              >
                {p.isActive ? 'no longer here' : 'is back'}
              </button>
            )}
          </li>
        ))}
      </ul>
      {mayEdit && (
        <form onSubmit={form.submit} className="mt-3 flex max-w-2xl flex-wrap items-end gap-3">
          <div className="min-w-48 flex-1">
            <Field label="Somebody new" error={form.errorOf('name') ?? form.problem}>
              {(props) => <input {...props} maxLength={120} {...form.register('name')} />}
            </Field>
          </div>
          <div className="mb-3 flex gap-3">
            <select aria-label="What they are" className="field" {...form.register('role')}>
              {ROLE_NAMES.map(([key, label]) => (
                <option key={key} value={key}>
                  {label}
                </option>
              ))}
            </select>
            <button type="submit" className="act">
              Add
            </button>
          </div>
        </form>
      )}
    </section>
  )
}
