import { type ListedVersion, versionSchema } from '@conch/contract'
import { MEASURES } from '@conch/core/drink'
import { formOf } from '@conch/core/schema'
import type { TuneAnswer, TuneResult } from '@conch/core/tune'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo, useRef, useState } from 'react'
import { Link } from 'react-router'
import { toast } from 'sonner'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { DRINKS_KEY, versionsQuery } from '../../app/queries.ts'
import { useShelfFor } from '../../app/shelf.ts'
import { useSending } from '../../app/useSending.ts'
import { bareMeasureText, mlText } from '../../graphics/format.ts'
import { Window } from '../../graphics/Window.tsx'
import { Field } from '../../ui/Field.tsx'
import { decide } from '../next/index.ts'
import type { Adrift } from './driftOf.ts'
import { useTunedAll } from './useTunedAll.ts'

const reasonForm = z.object({
  reason: z.string().trim().min(3, 'Say in a few words why: it is kept with every one of them.'),
  isForMenu: z.boolean(),
})

/** Everything that is adrift, each with its best answer, taken or left, and saved with one reason. */
export function TuneAll({ adrift, onDone }: { adrift: readonly Adrift[]; onDone: () => void }) {
  const { book } = useHouse()
  const queryClient = useQueryClient()
  const keys = useMemo(() => [...new Set(adrift.map((a) => `${a.drink}@${a.version}`))], [adrift])
  const versions = useQuery(versionsQuery(keys)).data ?? []
  const { isReady } = useShelfFor(versions.map((v) => v.document))
  const toTune = isReady ? versions.map((v) => ({ key: keyOf(v), document: v.document })) : []
  const results = useTunedAll(book, toTune)
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set())
  const taken = versions.flatMap((version) => {
    const answer = bestOf(results.get(keyOf(version)))
    return answer && !left.has(keyOf(version)) ? [{ version, answer }] : []
  })
  /** What is saved already, and what is done with, where another one failed: neither is written twice. */
  const savedAs = useRef(new Map<string, number>())
  const done = useRef(new Set<string>())
  const form = useSending(reasonForm, { reason: '', isForMenu: true }, async ({ reason, isForMenu }) => {
    try {
      for (const { version, answer } of taken) {
        if (done.current.has(keyOf(version))) continue
        await save(version, answer, reason, isForMenu)
        done.current.add(keyOf(version))
      }
    } finally {
      await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
    }
    toast(
      `${taken.length} ${taken.length === 1 ? 'version is' : 'versions are'} saved${isForMenu ? ' and planned' : ''}.`,
    )
    onDone()
  })
  const save = async (version: ListedVersion, answer: TuneAnswer, reason: string, isForMenu: boolean) => {
    const { drink, number } = version
    const known = savedAs.current.get(keyOf(version))
    const saved =
      known ??
      (
        await api.post(`/api/drinks/${drink}/found`, formOf(versionSchema), {
          document: answer.document,
          begunFrom: number,
          reason,
          origin: { kind: 'house' },
        })
      ).number
    savedAs.current.set(keyOf(version), saved)
    if (isForMenu) await decide(queryClient, drink, { version: saved, reason })
  }
  const isSearching = versions.length === 0 || results.size < versions.length
  return (
    <section aria-label="All of them at once" className="mb-6 border border-ink p-3">
      <h2 className="text-lg">All of them at once</h2>
      <p className="caption" role="status">
        {isSearching
          ? `searching, ${results.size} of ${keys.length} done …`
          : 'the nearest pours of each; leave out what you do not want'}
      </p>
      <ul className="mt-2">
        {versions.map((version) => (
          <TunedRow
            key={keyOf(version)}
            version={version}
            result={results.get(keyOf(version))}
            isTaken={!left.has(keyOf(version))}
            onTake={(isTaken) =>
              setLeft((before) => {
                const next = new Set(before)
                if (isTaken) next.delete(keyOf(version))
                else next.add(keyOf(version))
                return next
              })
            }
          />
        ))}
      </ul>
      <form onSubmit={form.submit} className="mt-3 max-w-xl">
        <Field label="Why" error={form.errorOf('reason') ?? form.problem} hint="Kept with every version for ever.">
          {(props) => <input {...props} maxLength={1000} {...form.register('reason')} />}
        </Field>
        <label className="mb-3 flex min-h-9 items-center gap-2">
          <input type="checkbox" {...form.register('isForMenu')} />
          Put them on the next menu
        </label>
        <div className="flex gap-2">
          <button type="submit" className="act act-main" disabled={isSearching || taken.length === 0 || form.isBusy}>
            Save {taken.length} {taken.length === 1 ? 'version' : 'versions'}
          </button>
          <button type="button" className="act" onClick={onDone}>
            Not yet
          </button>
        </div>
      </form>
    </section>
  )
}

const keyOf = (v: ListedVersion) => `${v.drink}@${v.number}`

const bestOf = (result: TuneResult | undefined): TuneAnswer | undefined =>
  result?.outcome === 'found' ? result.answers[0] : undefined

/** What is tasted; all else is on the page of the drink. */
const SHOWN = ['strengthPct', 'sweetGPer100Ml', 'sourGPer100Ml'] as const

interface TunedRowProps {
  version: ListedVersion
  result: TuneResult | undefined
  isTaken: boolean
  onTake: (isTaken: boolean) => void
}

function TunedRow({ version, result, isTaken, onTake }: TunedRowProps) {
  const { document, drink, number } = version
  const answer = bestOf(result)
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair py-1.5">
      <label className="flex min-h-9 min-w-48 items-center gap-2 max-sm:min-h-11">
        <input
          type="checkbox"
          checked={isTaken && answer !== undefined}
          disabled={!answer}
          onChange={(e) => onTake(e.target.checked)}
        />
        <b className="font-semibold">{document.name}</b>
      </label>
      <span className="min-w-0 flex-1 max-sm:order-last max-sm:basis-full">
        {result ? <Outcome result={result} /> : <span className="text-soft">searching …</span>}
      </span>
      {answer &&
        SHOWN.filter((m) => document.standard[m]).map((m) => {
          const predicted = answer.glasses[0]?.predictions[m]
          return (
            <span key={m} className="flex items-center gap-1 text-sm max-sm:hidden">
              <span className="caption">{MEASURES[m].label}</span>
              <Window measure={m} predicted={predicted} band={document.standard[m]} width={40} height={14} isAlone />
              {predicted && bareMeasureText(m, predicted.value)}
            </span>
          )
        })}
      <Link className="act act-quiet text-sm" to={`/drinks/${drink}/tune?v=${number}`}>
        Other ways
      </Link>
    </li>
  )
}

function Outcome({ result }: { result: TuneResult }) {
  const answer = bestOf(result)
  if (answer)
    return answer.lines
      .map((l) => `${l.name} ${l.fromMl === 0 ? '' : `${mlText(l.fromMl)} → `}${mlText(l.toMl)}`)
      .join(', ')
  if (result.outcome === 'meets')
    return <span className="text-soft">its pours hold the standard; look at its seconds</span>
  if (result.outcome === 'none') return <span className="text-mind">nothing within three lines does it</span>
  return <span className="text-mind">{result.outcome === 'contradiction' ? result.reason : 'cannot be tuned'}</span>
}
