import {
  type AuditEntry,
  auditPageSchema,
  changesOf,
  EVENT_KINDS,
  KIND_WORDS,
  mayDo,
  type AuditPage as Page,
  sayEvent,
} from '@conch/contract'
import { clockText, nightText } from '@conch/core/calendar'
import { useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { addressOf, peopleQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { useSettled } from '../../ui/useSettled.ts'
import { VerifyHistory } from '../house/index.ts'
import { Doings } from './Doings.tsx'

interface Asked {
  who?: string
  kind?: string
  words?: string
  from?: string
  to?: string
}

/** Who did what: everything, for whoever answers for the house; one's own for everybody else. */
export function AuditPage() {
  const mayRead = mayDo(useWho().role, 'readAudit')
  return (
    <div className="px-4 pt-4 pb-10">
      <h1 className="mb-2 text-3xl">Who did what</h1>
      {mayRead ? (
        <All />
      ) : (
        <>
          <p className="mb-4 text-soft">A manager sees everybody’s; this is what you did yourself.</p>
          <Doings />
        </>
      )}
    </div>
  )
}

function All() {
  const { clock } = useHouse()
  const people = useQuery(peopleQuery).data ?? []
  const [asked, setAsked] = useState<Asked>({})
  const words = useSettled(asked.words ?? '', 250)
  const search = addressOf({ ...asked, words })
  const pages = useInfiniteQuery({
    queryKey: ['audit', search],
    queryFn: ({ pageParam }) =>
      api.get(`/api/audit?${addressOf({ ...asked, words, before: pageParam })}`, auditPageSchema),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (page: Page) => page.next ?? undefined,
    staleTime: 0,
  })
  const entries = pages.data?.pages.flatMap((p) => p.entries) ?? []
  const head = pages.data?.pages[0]?.head
  const names = new Map(people.map((p) => [String(p.id), p.name]))
  const ask = (part: Asked) => setAsked((before) => ({ ...before, ...part }))
  const nights = Map.groupBy(entries, (e) => nightText(e.at, clock))
  return (
    <>
      <search className="mb-3 flex flex-wrap items-end gap-x-3 gap-y-2 border-y border-hair py-2">
        <input
          type="search"
          aria-label="Words in it"
          placeholder="words: a name, a drink, a reason"
          className="field max-w-72"
          value={asked.words ?? ''}
          onChange={(e) => ask({ words: e.target.value })}
        />
        <select
          aria-label="Who"
          className="field w-auto"
          value={asked.who ?? ''}
          onChange={(e) => ask({ who: e.target.value })}
        >
          <option value="">everybody</option>
          {people.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </select>
        <select
          aria-label="To what"
          className="field w-auto"
          value={asked.kind ?? ''}
          onChange={(e) => ask({ kind: e.target.value })}
        >
          <option value="">everything</option>
          {EVENT_KINDS.map((kind) => (
            <option key={kind} value={kind}>
              {KIND_WORDS[kind]}
            </option>
          ))}
        </select>
        <label className="flex items-center gap-1.5 text-sm text-soft">
          from
          <input
            type="date"
            className="field w-auto"
            value={asked.from ?? ''}
            onChange={(e) => ask({ from: e.target.value })}
          />
        </label>
        <label className="flex items-center gap-1.5 text-sm text-soft">
          to
          <input
            type="date"
            className="field w-auto"
            value={asked.to ?? ''}
            onChange={(e) => ask({ to: e.target.value })}
          />
        </label>
        {Object.values(asked).some(Boolean) && (
          <button type="button" className="act act-quiet" onClick={() => setAsked({})}>
            All again
          </button>
        )}
        <a className="act ml-auto" href={`/api/audit.csv?${search}`} download="who-did-what.csv">
          As a table
        </a>
      </search>
      {head && (
        <div className="mb-3 text-sm text-soft">
          {head.sequence} events in one chain, its end <span className="font-semibold">{head.hash.slice(0, 12)}</span>.
          Each holds the hash of the one before it: nothing of it can be changed without a trace.
          <VerifyHistory />
        </div>
      )}
      {pages.isPending && <Loading what="who did what" />}
      {pages.isError && <Failure error={pages.error} onRetry={() => pages.refetch()} />}
      {pages.isSuccess && entries.length === 0 && (
        <Empty title="Nothing of that kind">Ask for fewer words, or for more nights.</Empty>
      )}
      {[...nights].map(([night, those]) => (
        <section key={night} aria-label={night} className="mb-4">
          <h2 className="mb-1 border-b border-ink text-lg">{night}</h2>
          <ul>
            {runsOf(those, names).map(({ entry: e, times }) => (
              <Entry
                key={e.sequence ?? `${e.at} ${e.subject}`}
                {...{ entry: e, names, times }}
                time={clockText(e.at, clock)}
              />
            ))}
          </ul>
        </section>
      ))}
      {pages.hasNextPage && (
        <button
          type="button"
          className="act"
          disabled={pages.isFetchingNextPage}
          onClick={() => void pages.fetchNextPage()}
        >
          {pages.isFetchingNextPage ? 'Looking further back …' : 'Further back'}
        </button>
      )}
    </>
  )
}

/** What somebody did several times in a row is one line. */
function runsOf(entries: readonly AuditEntry[], names: ReadonlyMap<string, string>) {
  const runs: { entry: AuditEntry; words: string; times: number }[] = []
  for (const entry of entries) {
    const words = `${entry.by} ${sayEvent(entry, names)} ${changesOf(entry).join('\n')}`
    const last = runs.at(-1)
    if (last?.words === words) last.times += 1
    else runs.push({ entry, words, times: 1 })
  }
  return runs
}

/** So many lines are read at a glance; more open. */
const AT_A_GLANCE = 3

interface EntryProps {
  entry: AuditEntry
  names: ReadonlyMap<string, string>
  time: string
  times: number
}

function Entry({ entry, names, time, times }: EntryProps) {
  const { clock } = useHouse()
  const changes = changesOf(entry, clock)
  const [isOpen, setOpen] = useState(false)
  const shown = isOpen ? changes : changes.slice(0, AT_A_GLANCE)
  return (
    <li className="grid grid-cols-[3.5rem_minmax(7rem,12rem)_1fr] gap-x-3 border-b border-hair/60 py-1 max-sm:grid-cols-[3.5rem_1fr]">
      <span className="text-soft">{time}</span>
      <span className="min-w-0 break-words font-semibold">{entry.by || 'the house'}</span>
      <div className="min-w-0 max-sm:col-start-2">
        <p className="break-words">
          {sayEvent(entry, names)}
          {times > 1 && <span className="text-soft">, {times} times</span>}
        </p>
        {shown.length > 0 && (
          <ul className="text-sm text-soft">
            {shown.map((line, i) => (
              <li key={`${i} ${line}`} className="break-words">
                {line}
              </li>
            ))}
          </ul>
        )}
        {changes.length > AT_A_GLANCE && (
          <button type="button" className="min-h-8 text-sm underline" onClick={() => setOpen(!isOpen)}>
            {isOpen ? 'less' : `and ${changes.length - AT_A_GLANCE} more`}
          </button>
        )}
      </div>
    </li>
  )
}
