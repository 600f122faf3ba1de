import { doingSchema, sayEvent } from '@conch/contract'
import { clockText, nightText } from '@conch/core/calendar'
import { useQuery } from '@tanstack/react-query'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { peopleQuery } from '../../app/queries.ts'
import { Failure, Loading } from '../../ui/States.tsx'

const doings = z.array(doingSchema)

/** What one did oneself, night by night. */
export function Doings() {
  const { clock } = useHouse()
  const asked = useQuery({ queryKey: ['doings'], queryFn: () => api.get('/api/own-doings', doings), staleTime: 0 })
  const people = useQuery(peopleQuery).data ?? []
  if (asked.isPending) return <Loading what="what you did" />
  if (!asked.data) return <Failure error={asked.error} onRetry={() => asked.refetch()} />
  if (asked.data.length === 0) return <p className="text-soft">Nothing yet: what you do stands here from now on.</p>
  const names = new Map(people.map((p) => [String(p.id), p.name]))
  const nights = Map.groupBy(asked.data, (d) => nightText(d.at, clock))
  return [...nights].map(([night, those]) => (
    <section key={night} aria-label={night} className="mb-3">
      <h3 className="caption">{night}</h3>
      <ul>
        {those.map((d, i) => (
          <li key={`${d.at} ${i}`} className="flex gap-3 border-b border-hair/60 py-1">
            <span className="w-14 shrink-0 text-soft">{clockText(d.at, clock)}</span>
            <span className="min-w-0 break-words">{sayEvent({ ...d, detail: {} }, names)}</span>
          </li>
        ))}
      </ul>
    </section>
  ))
}
