import { claimedBy } from '@conch/core/lineage'
import { type SourceOf, sourceLine } from './lineageView.ts'

const ABOUT = { creator: 'who made it', place: 'where', year: 'when', contest: 'in which contest' } as const

/** What all sources of a drink claim, those that contradict each other side by side; none is left out. */
export function WhatSourcesSay({ sources }: { sources: readonly SourceOf[] }) {
  const claimed = claimedBy(sources.map((s) => s.source))
  if (claimed.length === 0) return null
  return (
    <section aria-label="What the sources say">
      <h2 className="text-lg">What the sources say</h2>
      {claimed.map(({ about, positions, isDisputed }) => (
        <div key={about} className="mt-2">
          <h3 className="text-sm text-soft">
            {ABOUT[about]}
            {isDisputed && <b className="ml-2 font-semibold text-mind">they disagree</b>}
          </h3>
          <ul className="grid gap-3" style={{ gridTemplateColumns: 'repeat(auto-fit, minmax(9rem, 1fr))' }}>
            {positions.map(({ says, claims }) => (
              <li key={says} className="min-w-0 border-t border-ink pt-1">
                <p className="font-semibold break-words">{says}</p>
                <ul className="text-sm">
                  {claims.map((c, i) => (
                    <li key={i}>
                      {c.certainty}
                      <span className="caption">
                        {' '}
                        · {c.says === says ? '' : `“${c.says}” · `}
                        {sourceLine(c.source)}
                      </span>
                    </li>
                  ))}
                </ul>
              </li>
            ))}
          </ul>
        </div>
      ))}
    </section>
  )
}
