import { type Markable, mayDo, type OutMarkSaid, ROLES, rolesFor, type Tonight } from '@conch/contract'
import { hasAllWords } from '@conch/core/text'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { markablesQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { isFromBefore, placeOfOut, saidWords, standsWords, useOuts, whereWords } from '../../outs/index.ts'
import { SearchField } from '../../ui/SearchField.tsx'
import { Failure, Loading } from '../../ui/States.tsx'
import { WaysOn } from './WaysOn.tsx'

const SEARCH_MS = 150
const FIRST_ON_A_PHONE = 4

/** What is out tonight, what that darkens, and the list to go through at the start of the shift. */
export function OutPage() {
  const outs = useOuts()
  const { tonight } = outs
  if (!tonight && outs.error) return <Failure error={outs.error} onRetry={() => void outs.refetch()} />
  if (!tonight) return <Loading what="what is out" />
  return (
    <div className="grid items-start gap-x-10 px-4 pt-4 pb-10 lg:grid-cols-2">
      <div className="min-w-0 max-lg:contents lg:sticky lg:top-2 lg:max-h-[calc(100dvh-1rem)] lg:overflow-y-auto">
        <h1 className="mb-3 text-3xl">Out tonight</h1>
        <IsOut tonight={tonight} onBack={outs.back} />
        <NotInStock tonight={tonight} />
        <Darkened tonight={tonight} onEnd={outs.endChoice} />
      </div>
      <GoThrough tonight={tonight} onMark={outs.mark} onBack={outs.back} />
    </div>
  )
}

function IsOut({ tonight, onBack }: { tonight: Tonight; onBack: (out: OutMarkSaid) => void }) {
  const { book, clock } = useHouse()
  const { outs, night } = tonight
  const mayMark = mayDo(useWho().role, 'markOut')
  const old = outs.filter((o) => isFromBefore(o, clock, night))
  if (outs.length === 0)
    return <p className="mb-6 text-lg text-soft">Nothing: everything that was written down is there.</p>
  return (
    <section aria-label="What is out" className="mb-6">
      {old.length > 0 && (
        <p role="status" className="mb-2 border-l-4 border-mind pl-3">
          {old.length === 1 ? 'One of these is' : `${old.length} of these are`} from an earlier night: look whether{' '}
          {old.length === 1 ? 'it is' : 'they are'} back.
        </p>
      )}
      <ul className="border-t border-ink">
        {outs.map((o) => (
          <li key={o.id} className="flex flex-wrap items-center gap-x-3 border-b border-hair/60 py-1.5">
            <Level level={o.level} />
            <span className="min-w-0 flex-1">
              <span className="block text-lg break-words">{o.name}</span>
              <span className="block text-sm text-soft">
                {whereWords(o.well, book.wells)} · {saidWords(o, clock, night)}
                {placeOfOut(o.id) !== undefined && <b className="font-semibold text-mind"> · not sent yet</b>}
                {isFromBefore(o, clock, night) && <b className="font-semibold text-mind"> · from before</b>}
              </span>
            </span>
            {mayMark && (
              <button type="button" className="act min-h-11" onClick={() => onBack(o)}>
                {o.level === 'out' ? 'It is back' : 'Enough again'}
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

/** What the back bar itself calls out: there it is changed, when it is delivered. */
function NotInStock({ tonight: { notInStock } }: { tonight: Tonight }) {
  if (notInStock.length === 0) return null
  return (
    <p className="mb-6 text-sm">
      <span className="text-soft">Not in stock, as the back bar says:</span>{' '}
      {notInStock.map(({ slug, name }, n) => (
        <span key={slug}>
          {n > 0 && ', '}
          <Link className="underline" to={`/back-bar?open=${slug}`}>
            {name}
          </Link>
        </span>
      ))}
    </p>
  )
}

/** Told apart by shape as well: a full mark and a half one. */
function Level({ level }: { level: OutMarkSaid['level'] }) {
  const isOut = level === 'out'
  return (
    <span className={`flex w-14 items-center gap-1.5 text-sm font-semibold ${isOut ? 'text-stop' : 'text-mind'}`}>
      <svg width="12" height="12" viewBox="0 0 12 12" aria-hidden="true">
        <rect x="0.75" y="0.75" width="10.5" height="10.5" fill="none" stroke="currentColor" strokeWidth="1.5" />
        {!isOut && <rect x="0" y="7" width="12" height="5" fill="currentColor" />}
      </svg>
      {level}
    </span>
  )
}

/** What of the menu is not simply made here, and what can be done about it. */
function Darkened({ tonight, onEnd }: { tonight: Tonight; onEnd: (id: number) => void }) {
  const { well } = useHouse()
  const mayChoose = mayDo(useWho().role, 'chooseTonight')
  const here = tonight.drinks.flatMap((d) => {
    const at = d.at[well.slug]
    const choice = tonight.choices.find((c) => c.id === at?.choice)
    const words = standsWords(at, choice)
    return at && words ? [{ ...d, stands: at, choice, words }] : []
  })
  if (here.length === 0) return null
  const isDark = (state: string) => state === 'dark' || state === 'off'
  const sorted = [...here].sort((a, b) => Number(isDark(b.stands.state)) - Number(isDark(a.stands.state)))
  return (
    <section aria-label={`On the menu, at the ${well.name}`} className="mb-6 max-lg:order-last">
      <h2 className="border-b border-ink text-xl">On the menu, at the {well.name}</h2>
      <ul>
        {sorted.map(({ drink, name, version, stands, choice, words }) => (
          <li key={drink} className="border-b border-hair/60 py-1.5">
            <p className="flex flex-wrap items-baseline gap-x-3">
              <Link to={`/drinks/${drink}?v=${version}`} className="text-lg underline-offset-2 hover:underline">
                {name}
              </Link>
              <span className={isDark(stands.state) ? 'text-stop' : 'text-soft'}>{words}</span>
            </p>
            {mayChoose && isDark(stands.state) && !choice && (
              <WaysOn drink={{ slug: drink, name, version }} at={stands} />
            )}
            {mayChoose && choice && (
              <button type="button" className="act mt-1 min-h-11 text-sm" onClick={() => onEnd(choice.id)}>
                End that
              </button>
            )}
          </li>
        ))}
      </ul>
      {!mayChoose && sorted.some((d) => d.stands.state === 'dark') && (
        <p className="caption mt-2">
          What stands in for something dark a{' '}
          {rolesFor('chooseTonight')
            .map((r) => ROLES[r])
            .join(' or a ')}{' '}
          says.
        </p>
      )}
    </section>
  )
}

/** Everything that the menu wants, to be gone through; and anything else by its name. */
function GoThrough({
  tonight,
  onMark,
  onBack,
}: {
  tonight: Tonight
  onBack: (out: OutMarkSaid) => void
  onMark: (out: Pick<Markable, 'kind' | 'of'> & { well: string | null; level: 'out' | 'low' }, name: string) => void
}) {
  const { well, book } = useHouse()
  const mayMark = mayDo(useWho().role, 'markOut')
  const [words, setWords] = useState('')
  const [isAll, setAll] = useState(false)
  const asked = useQuery({ ...markablesQuery(words), placeholderData: (before) => before, enabled: mayMark })
  // Where the house cannot be asked, among what the menu wants.
  const isOwn = asked.isError && words !== ''
  const wanted = useQuery({ ...markablesQuery(''), enabled: mayMark && isOwn }).data
  if (!mayMark) return null
  const rows = (isOwn ? wanted?.filter((m) => hasAllWords(`${m.name} ${m.what}`, words)) : asked.data) ?? []
  // What goes dark is to be seen without a long way past this.
  const isShort = !isAll && words === ''
  const saidOf = (m: Markable, at: string | null, level: 'out' | 'low') =>
    tonight.outs.find((o) => o.kind === m.kind && o.of === m.of && o.well === at && o.level === level)
  return (
    <section aria-label="Mark something" className="mb-6 min-w-0">
      <div className="mb-2 flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-xl">What ran out?</h2>
        <SearchField
          label="Find a bottle, mix, lot, fruit or glass"
          hint="bottle, mix, lot, fruit, glass"
          value={words}
          waitMs={SEARCH_MS}
          onChange={setWords}
        />
      </div>
      {asked.isError && !(isOwn ? wanted : asked.data) && (
        <Failure error={asked.error} onRetry={() => asked.refetch()} />
      )}
      {asked.data && rows.length === 0 && <p className="text-soft">Nothing is called like that.</p>}
      <ul className="border-t border-ink">
        {rows.map((m, n) => (
          <li
            key={`${m.kind} ${m.of}`}
            className={`flex flex-wrap items-center gap-x-2 gap-y-1 border-b border-hair/60 py-1 ${isShort && n >= FIRST_ON_A_PHONE ? 'max-lg:hidden' : ''}`}
          >
            <span className="min-w-0 flex-1 basis-40">
              <span className="block break-words">{m.name}</span>
              <span className="block text-sm text-soft">
                {m.what}
                {m.drinks.length > 0 && ` · in ${m.drinks.length} on the menu`}
              </span>
            </span>
            <span className="flex gap-1.5">
              {(
                [
                  ['low', null, 'low'],
                  ['out', well.slug, `out at the ${well.name}`],
                  ['out', null, 'out in the house'],
                ] as const
              )
                // One well is the house.
                .filter(([, at]) => at === null || book.wells.length > 1)
                .map(([level, at, label]) => {
                  const said = saidOf(m, at, level)
                  return (
                    <button
                      key={label}
                      type="button"
                      className={`min-h-11 border px-2.5 text-sm ${said ? 'border-ink bg-ink text-paper' : 'border-hair hover:bg-shallow'}`}
                      aria-label={`${m.name}: ${label}`}
                      aria-pressed={said !== undefined}
                      title={said && 'press again when it is back'}
                      onClick={() =>
                        said ? onBack(said) : onMark({ kind: m.kind, of: m.of, well: at, level }, m.name)
                      }
                    >
                      {label}
                    </button>
                  )
                })}
            </span>
          </li>
        ))}
      </ul>
      {isShort && rows.length > FIRST_ON_A_PHONE && (
        <button type="button" className="act mt-2 min-h-11 lg:hidden" onClick={() => setAll(true)}>
          Go through all {rows.length}
        </button>
      )}
    </section>
  )
}
