import { type Person, type PersonSignIn, personSchema, ROLE_WORDS, ROLES, type Role } from '@conch/contract'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { toast } from 'sonner'
import { api } from '../../app/api.ts'
import { peopleQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { NewPerson } from './NewPerson.tsx'
import { PersonDialog } from './PersonDialog.tsx'
import { signInsQuery } from './queries.ts'

const ROLE_NAMES = Object.entries(ROLES) as [Role, string][]

/** Who works here: names, what they may, and who no longer does. Nobody is deleted: history names them. */
export function People({ mayEdit }: { mayEdit: boolean }) {
  const who = useWho()
  const queryClient = useQueryClient()
  const people = useQuery(peopleQuery).data ?? []
  const signIns = useQuery({ ...signInsQuery, enabled: mayEdit }).data
  const [openId, setOpenId] = useState<number>()
  const heard = () =>
    Promise.all([
      queryClient.invalidateQueries({ queryKey: peopleQuery.queryKey }),
      queryClient.invalidateQueries({ queryKey: signInsQuery.queryKey }),
    ])
  const change = (person: Person, part: Partial<Person>) => {
    const { id, ...rest } = { ...person, ...part }
    return api
      .put(`/api/people/${id}`, personSchema, rest)
      .catch((e: Error) => toast.error(e.message))
      .finally(heard)
  }
  const open = people.find((p) => p.id === openId)
  return (
    <section aria-label="Who works here" className="mt-3 mb-8">
      <ul className="max-w-4xl border-t border-ink">
        {people.map((p) => (
          <li
            key={p.id}
            className="flex min-h-11 flex-wrap items-center gap-x-3 border-b border-hair/60 py-1 max-sm:py-2"
          >
            <span className={`min-w-40 flex-1 break-words ${p.isActive ? '' : 'text-soft line-through'}`}>
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
                title={ROLE_WORDS[p.role]}
                className="inplace w-32 text-soft"
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
            {mayEdit && (
              <>
                <span className="w-64 text-sm max-sm:w-full">
                  {p.isActive && <HowTheySignIn signIn={signIns?.find((s) => s.personId === p.id)} />}
                </span>
                <button type="button" className="act min-h-11 lg:min-h-9" onClick={() => setOpenId(p.id)}>
                  {p.id === who.id ? 'Your sign-ins' : 'Sign-in'}
                </button>
                {p.id === who.id ? (
                  <span className="w-28" />
                ) : (
                  <button
                    type="button"
                    className="act act-quiet min-h-11 w-28 text-sm text-soft lg:min-h-9"
                    onClick={() => change(p, { isActive: !p.isActive })}
                  >
                    {p.isActive ? 'no longer here' : 'is back'}
                  </button>
                )}
              </>
            )}
          </li>
        ))}
      </ul>
      {mayEdit && <NewPerson onMade={heard} />}
      {open && (
        <PersonDialog
          person={open}
          signIn={signIns?.find((s) => s.personId === open.id)}
          onClose={() => setOpenId(undefined)}
          onChanged={heard}
        />
      )}
    </section>
  )
}

/** In a line: what a manager has to see without opening anything. */
function HowTheySignIn({ signIn }: { signIn: PersonSignIn | undefined }) {
  if (!signIn) return null
  if (signIn.isLockedOut) return <b className="text-stop">locked out, except on devices of the house</b>
  if (!signIn.hasSecret) return <span className="text-mind">cannot sign in yet: no PIN</span>
  const parts = [
    signIn.sessions.length > 0
      ? `signed in on ${signIn.sessions.length === 1 ? 'one device' : `${signIn.sessions.length} devices`}`
      : 'not signed in',
    ...(signIn.mustChange ? ['has a first PIN still'] : []),
    ...(signIn.wrongTries > 2 ? [`${signIn.wrongTries} wrong words`] : []),
  ]
  return <span className={signIn.wrongTries > 2 ? 'text-mind' : 'text-soft'}>{parts.join(' · ')}</span>
}
