import { type DrinkDocument, pourName } from '@conch/core/drink'
import type { HouseBook } from '@conch/core/house'
import { amountText } from '@conch/core/measure'
import { MEASURE_WORDS, type SourceOf, sourceLine } from './lineageView.ts'

interface SourceCardProps {
  of: SourceOf
  /** What was read from it. */
  document: DrinkDocument
  book: HouseBook
  /** By whom and when it was added; left out where it was there from the beginning. */
  added?: string | undefined
  onWithdraw?: (() => void) | undefined
}

/** A source: what it is, what it claims and how sure that is, and the spec to the letter beside what was read from it. */
export function SourceCard({ of: { source }, document, book, added, onWithdraw }: SourceCardProps) {
  const { kind, claims, asWritten, measures, serves } = source
  const own = Object.entries(measures ?? {}).map(([key, ml]) => `${MEASURE_WORDS[key] ?? key} ${ml} ml`)
  if (serves !== undefined && serves > 1) own.push(`for ${serves}`)
  return (
    <li className="border-l-2 border-hair pl-3">
      <p>
        <span className="caption">{kind}</span> <b className="font-semibold">{sourceLine(source)}</b>
        {added && <span className="caption"> · {added}</span>}
        {onWithdraw && (
          <button type="button" className="act act-quiet min-h-8 text-sm" onClick={onWithdraw}>
            A mistake …
          </button>
        )}
      </p>
      {claims.length > 0 && (
        <ul className="text-sm">
          {claims.map((claim, i) => (
            <li key={i}>
              {claim.about}: {claim.says} <span className="caption">{claim.certainty}</span>
            </li>
          ))}
        </ul>
      )}
      {own.length > 0 && <p className="caption">In its own measures: {own.join(', ')}</p>}
      {asWritten && (
        <details className="mt-1 text-sm">
          <summary className="min-h-8 cursor-pointer text-soft max-sm:py-2">as it is written there</summary>
          <div className="mt-1 grid gap-x-6 gap-y-2 sm:grid-cols-2">
            <pre className="font-text whitespace-pre-wrap">{asWritten}</pre>
            <ul aria-label="What was read from it">
              {document.pours.map((pour, i) => (
                <li key={i}>
                  {pour.amount
                    ? amountText({ value: pour.amount.value, unit: pour.amount.unit })
                    : `${pour.volumeMl} ml`}{' '}
                  {pourName(pour, book)}
                </li>
              ))}
            </ul>
          </div>
        </details>
      )}
    </li>
  )
}
