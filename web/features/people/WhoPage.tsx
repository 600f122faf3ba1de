import { type Person, ROLES } from '@conch/contract'
import { useQuery } from '@tanstack/react-query'
import { peopleQuery, queryClient } from '../../app/queries.ts'
import { setWho } from '../../app/who.ts'
import { Empty, Failure, Loading } from '../../ui/States.tsx'

/** Another person takes the device: what the one before could see is asked for anew. */
export function workAs(person: Person): void {
  setWho(person)
  void queryClient.resetQueries({ predicate: (query) => query.queryKey[0] !== 'people' })
}

/** Asked once on each device: who works here. */
export function WhoPage() {
  const people = useQuery(peopleQuery)
  if (people.isPending) return <Loading what="who works here" />
  if (!people.data) return <Failure error={people.error} onRetry={() => people.refetch()} />
  const here = people.data.filter((p) => p.isActive)
  return (
    <main className="mx-auto max-w-xl px-4 py-10">
      <h1 className="text-4xl">Who works here?</h1>
      <p className="mt-2 mb-6 text-lg text-soft">
        What you write down stands under your name. This device remembers it; change it at the top right.
      </p>
      {here.length === 0 && <Empty title="Nobody yet">The house has no people who could work.</Empty>}
      <ul>
        {here.map((p) => (
          <li key={p.id} className="border-b border-hair">
            <button
              type="button"
              className="flex min-h-14 w-full items-baseline gap-3 px-2 py-3 text-left hover:bg-shoal"
              onClick={() => workAs(p)}
            >
              <span className="min-w-0 flex-1 font-display text-xl break-words">{p.name}</span>
              <span className="text-soft">{ROLES[p.role]}</span>
            </button>
          </li>
        ))}
      </ul>
    </main>
  )
}
