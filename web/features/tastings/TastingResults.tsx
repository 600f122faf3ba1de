import { mayDo, type Tasting } from '@conch/contract'
import { keysOf } from '@conch/core/schema/keysOf'
import { provesText, resultsOf, TASTE_LINES, type TastingResult } from '@conch/core/tasting'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { drinkPageQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { sheetAddress } from '../compare/index.ts'
import { DecideDialog } from '../next/index.ts'

/** What came out: means on every line, two and two against each other with honest words, and the way to a decision. */
export function TastingResults({ tasting, codes }: { tasting: Tasting; codes: readonly string[] }) {
  const { document, sheets, names } = tasting
  const result = resultsOf(codes, sheets)
  const lines = keysOf(TASTE_LINES).filter((l) => result.subjects.some((s) => s.means[l]))
  return (
    <>
      <p className="mb-2 text-sm">
        Judged by {result.tasters.join(', ')}.{' '}
        <Link className="underline" to={sheetAddress(document.subjects.map((s) => `${s.drink}@${s.version}`))}>
          Side by side, with their pours
        </Link>
      </p>
      <div className="overflow-x-auto">
        <table className="w-full text-left" aria-label="What was tasted">
          <thead>
            <tr className="align-bottom">
              <td />
              {names.map((name, i) => (
                <th key={name} scope="col" className="border-b border-ink px-2 font-semibold">
                  {name}
                  <span className="caption block font-normal">glass {codes[i]}</span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {lines.map((line) => (
              <tr key={line} className="border-b border-hair/60">
                <th scope="row" className="py-1 pr-2 text-sm font-normal text-soft">
                  {TASTE_LINES[line].low} … {TASTE_LINES[line].high}
                </th>
                {result.subjects.map((s, i) => (
                  <td key={i} className="px-2">
                    <Mean line={line} mean={s.means[line]} />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <Pairs result={result} names={names} />
      <Words result={result} names={names} />
      <Decide tasting={tasting} />
    </>
  )
}

/** A mark on a line from one end to the other, with its figure. */
function Mean({ line, mean }: { line: keyof typeof TASTE_LINES; mean: { mean: number; count: number } | undefined }) {
  const { least, most } = TASTE_LINES[line]
  if (!mean) return <span className="text-soft">·</span>
  const x = 4 + (72 * (mean.mean - least)) / (most - least)
  const text = mean.mean.toFixed(1).replace('-', '−')
  return (
    <span className="flex items-center gap-2">
      <svg width="80" height="14" aria-hidden="true">
        <path d="M4 7H76M4 4V10M76 4V10M40 5V9" stroke="var(--hair)" />
        <path d={`M${x} 1V13`} stroke="var(--ink)" strokeWidth="2.600" />
      </svg>
      {text}
      <span className="caption">of {mean.count}</span>
    </span>
  )
}

function Pairs({ result, names }: { result: TastingResult; names: readonly string[] }) {
  const pairs = result.pairs.filter((p) => p.line === 'like' || p.p < 0.2)
  if (pairs.length === 0) return null
  return (
    <section aria-label="Two against each other" className="mt-4">
      <h2 className="text-lg">Two against each other</h2>
      <ul className="mt-1 space-y-2 text-sm">
        {pairs.map((p) => {
          const { sign, line } = p
          const ends = TASTE_LINES[line]
          const more = p.meanDifference > 0 ? names[p.second] : names[p.first]
          return (
            <li key={`${p.first} ${p.second} ${line}`}>
              <p>
                {line === 'like' ? (
                  <>
                    {sign.second} of {p.tasters} liked <b>{names[p.second]}</b> better, {sign.first}{' '}
                    <b>{names[p.first]}</b>
                    {sign.ties > 0 && `, ${sign.ties} both alike`}.
                  </>
                ) : (
                  <>
                    <b>{more}</b> nearer to “{ends.high}” by {Math.abs(p.meanDifference).toFixed(1)}.
                  </>
                )}
              </p>
              <p className="text-soft">{capital(provesText(line === 'like' ? sign.p : p.p, p.tasters))}.</p>
            </li>
          )
        })}
      </ul>
    </section>
  )
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

function Words({ result, names }: { result: TastingResult; names: readonly string[] }) {
  if (result.subjects.every((s) => s.words.length === 0)) return null
  return (
    <section aria-label="In words" className="mt-4">
      <h2 className="text-lg">In words</h2>
      {result.subjects.map((s, i) =>
        s.words.length === 0 ? null : (
          <p key={i} className="mt-1 text-sm">
            <b className="font-semibold">{names[i]}</b>: {s.words.map((w) => `“${w.words}” (${w.taster})`).join(', ')}
          </p>
        ),
      )}
    </section>
  )
}

/** From what was tasted to what is poured. */
function Decide({ tasting }: { tasting: Tasting }) {
  const who = useWho()
  const [chosen, setChosen] = useState<number>()
  const { subjects } = tasting.document
  const slugs = [...new Set(subjects.map((s) => s.drink))]
  const listed = useQuery(drinkPageQuery({ of: slugs.join(','), limit: slugs.length })).data
  if (!mayDo(who.role, 'planMenu')) return null
  const subject = chosen === undefined ? undefined : subjects[chosen]
  const drink = subject && listed?.rows.find((d) => d.slug === subject.drink)
  return (
    <section aria-label="Decide" className="no-print mt-5">
      <h2 className="text-lg">Which is poured?</h2>
      <div className="mt-1 flex flex-wrap gap-2">
        {tasting.names.map((name, i) => (
          <button key={name} type="button" className="act" onClick={() => setChosen(i)}>
            {name} …
          </button>
        ))}
      </div>
      {subject && drink && (
        <DecideDialog
          drink={drink}
          version={subject.version}
          instead={drink.plannedVersion ?? drink.pouredVersion ?? undefined}
          tasting={tasting.id}
          onClose={() => setChosen(undefined)}
        />
      )}
    </section>
  )
}
