import type { SaidPractice } from '@conch/contract'
import { mayDo } from '@conch/contract'
import {
  handNow,
  type LearnAnswer,
  progressOf,
  QUESTION_KINDS,
  rememberedBy,
  sittingsIn,
  toAsk,
} from '@conch/core/learn'
import { type UseQueryResult, useQuery } from '@tanstack/react-query'
import { useEffect, useMemo, useState } from 'react'
import { Link } from 'react-router'
import { toast } from 'sonner'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { type Light, RailFoot } from '../rail/index.ts'
import { HandWords } from './HandWords.tsx'
import { practicePeopleQuery, sendPractice, storeAnswers, storedAnswers } from './practice.ts'
import type { Edition } from './useEdition.ts'

interface LearnHomeProps extends Light {
  edition: Edition
  own: UseQueryResult<SaidPractice[]>
  answers: LearnAnswer[]
  onDo: (what: 'drill' | 'pours') => void
}

/** How far one is, what ten minutes would ask, and what one's hand pours. */
export function LearnHome({ edition, own, answers, onDo, isLight, onLight }: LearnHomeProps) {
  const { well } = useHouse()
  const who = useWho()
  const [nowMs] = useState(Date.now)
  useLeftOver(who.id)
  const remembered = useMemo(() => rememberedBy(answers), [answers])
  const progress = useMemo(() => progressOf(edition.questions, remembered, nowMs), [edition, remembered, nowMs])
  const asked = useMemo(
    () => toAsk(edition.questions, remembered, edition.changed, nowMs),
    [edition, remembered, nowMs],
  )
  const changed = asked.filter((q) => edition.changed.has(q.id) && !remembered.has(q.id)).length
  const sittings = sittingsIn(own.data ?? [])
  const hand = handNow(sittings)
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <div className="min-h-0 flex-1 overflow-y-auto px-4 py-3">
        <h1 className="rail-name">Learn the edition</h1>
        <p className="text-xl text-soft">
          {edition.drinks.length} drinks as they are made at the {well.name}.{' '}
          {edition.before && `What is not as in ${edition.before} comes first.`}
        </p>
        {own.isError && (
          <p role="status" className="mt-2 border-l-4 border-mind pl-3 text-xl">
            What you know already is in the house, and it is not heard just now: everything is asked as if it were new,
            and your answers are kept here until then.
          </p>
        )}
        <ProgressBar {...progress} />
        <p className="text-xl">
          {progress.known} of {progress.total} known, {progress.shaky} shaky, {progress.never} never asked
          {progress.due > 0 && ` · ${progress.due} due today`}
          {changed > 0 && ` · ${changed} changed`}
        </p>
        <ul className="mt-2 grid gap-x-8 text-lg text-soft sm:grid-cols-2" aria-label="By what is asked">
          {progress.byKind.map(({ kind, total, known }) => (
            <li key={kind} className="flex justify-between border-b border-hair/60">
              <span>{QUESTION_KINDS[kind]}</span>
              <span>
                {known} of {total}
              </span>
            </li>
          ))}
        </ul>
        <section aria-label="Your hand" className="mt-5">
          <h2 className="text-2xl">Your hand</h2>
          <HandWords hand={hand} sittings={sittings} />
          <button type="button" className="rail-act mt-2" onClick={() => onDo('pours')}>
            {hand ? 'Test it again' : 'Test it on the scale'}
          </button>
        </section>
        {mayDo(who.role, 'seeProgress') && <People edition={edition} nowMs={nowMs} />}
      </div>
      <div className="shrink-0 px-3 pb-2">
        <button
          type="button"
          className="rail-act rail-main w-full"
          disabled={asked.length === 0 || own.isPending}
          onClick={() => onDo('drill')}
        >
          {asked.length === 0 ? 'Nothing is due today' : 'Ten minutes'}
        </button>
      </div>
      <RailFoot light={{ isLight, onLight }}>
        <Link className="rail-quiet" to="/rail">
          Rail
        </Link>
      </RailFoot>
    </main>
  )
}

/** What was answered before the tablet fell, or before somebody else took it, is sent when the same person is here again. */
function useLeftOver(person: number): void {
  useEffect(() => {
    const left = storedAnswers(person)
    if (!left) return
    // On the disk until they lie somewhere else; sent twice they count once.
    sendPractice({ kind: 'drill', well: left.well, answers: left.answers }).then(
      () => {
        storeAnswers(undefined)
        toast('Your last answers are counted, too.')
      },
      (error: Error) => void toast.error(error.message),
    )
  }, [person])
}

interface Parts {
  total: number
  known: number
  shaky: number
}

/** Told apart by pattern as well: full, hatched, empty. */
function ProgressBar({ total, known, shaky }: Parts) {
  const share = (n: number) => (total > 0 ? (100 * n) / total : 0)
  return (
    <svg
      viewBox="0 0 100 5"
      preserveAspectRatio="none"
      className="mt-3 h-6 w-full"
      role="img"
      aria-label={`${known} known, ${shaky} shaky of ${total}`}
    >
      <defs>
        <pattern id="shaky" width="1.2" height="5" patternUnits="userSpaceOnUse">
          <rect width="0.6" height="5" fill="var(--ink)" opacity="0.55" />
        </pattern>
      </defs>
      <rect width="100" height="5" fill="var(--shallow)" />
      <rect width={share(known)} height="5" fill="var(--ink)" />
      <rect x={share(known)} width={share(shaky)} height="5" fill="url(#shaky)" />
    </svg>
  )
}

/** Everybody who makes drinks here, by name: for whoever leads, to know what to go through with whom. */
function People({ edition, nowMs }: { edition: Edition; nowMs: number }) {
  const { data } = useQuery(practicePeopleQuery)
  if (!data || data.length === 0) return null
  return (
    <section aria-label="Everybody" className="mt-5">
      <h2 className="text-2xl">Everybody, by name</h2>
      <ul>
        {data.map(({ person, name, remembered: items, sittings }) => {
          const remembered = new Map(items.map((r) => [r.item, r]))
          const { known, shaky, total, byKind } = progressOf(edition.questions, remembered, nowMs)
          const weakest = [...byKind]
            .filter((k) => k.known < k.total)
            .sort((a, b) => a.known / a.total - b.known / b.total)[0]
          const hand = handNow(sittings)
          return (
            <li key={person} className="border-b border-hair py-1">
              <p className="flex flex-wrap justify-between gap-x-4 text-xl">
                <span>{name}</span>
                <span className="text-lg text-soft">
                  {remembered.size === 0
                    ? 'has not begun'
                    : `${known} of ${total} known${weakest ? `; least of ${QUESTION_KINDS[weakest.kind]}` : ''}`}
                </span>
              </p>
              {remembered.size > 0 && <ProgressBar {...{ known, shaky, total }} />}
              {hand && <HandWords hand={hand} sittings={[]} />}
            </li>
          )
        })}
      </ul>
    </section>
  )
}
