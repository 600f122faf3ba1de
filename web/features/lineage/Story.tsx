import type { Decision, Lineage } from '@conch/contract'
import { nightText } from '@conch/core/calendar'
import { MEASURES } from '@conch/core/drink'
import { bySlug } from '@conch/core/house'
import { keysOf } from '@conch/core/schema/keysOf'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { measureText } from '../../graphics/format.ts'
import { type Happened, storyOf } from './lineageView.ts'

/** What was decided about a drink, and what came of it, the newest first. */
export function Story({ lineage }: { lineage: Lineage }) {
  const { clock } = useHouse()
  const story = storyOf(lineage)
  if (story.length === 0) return null
  return (
    <section aria-label="Its story" className="mb-5">
      <h2 className="text-lg">Its story</h2>
      <ol className="mt-1 space-y-2">
        {story.map((h) => (
          <li key={h.key} className="border-l-2 border-hair pl-3">
            <Told happened={h} />
            <p className="caption">{[h.by, nightText(h.at, clock)].filter(Boolean).join(', ')}</p>
          </li>
        ))}
      </ol>
    </section>
  )
}

function Told({ happened }: { happened: Happened }) {
  if (happened.kind === 'edition') {
    const { edition, name, version } = happened.edition
    return (
      <p>
        <Link className="underline" to={`/editions/${edition}`}>
          {name}
        </Link>{' '}
        {version === null ? 'went without it' : `poured version ${version}`}
      </p>
    )
  }
  const { decision } = happened
  const { instead, reason, changed } = decision.document
  return (
    <>
      <p>
        Version {decision.number}
        {instead !== null && instead !== decision.number && ` instead of ${instead}`}: “{reason}”
      </p>
      {decision.document.tasting !== undefined && (
        <p className="text-sm">
          <Link className="underline" to={`/tastings/${decision.document.tasting}`}>
            tasted blind
          </Link>
        </p>
      )}
      {changed && <p className="text-sm text-soft">{changed}</p>}
      <AsItStood decision={decision} />
    </>
  )
}

/** The figures of the day of a decision. */
function AsItStood({ decision }: { decision: Decision }) {
  const { book } = useHouse()
  const wells = Object.entries(decision.document.byWell)
  if (wells.length === 0) return null
  return (
    <details className="text-sm">
      <summary className="min-h-8 cursor-pointer text-soft max-sm:py-2">as it stood then</summary>
      <ul>
        {wells.map(([slug, { now, before }]) => (
          <li key={slug}>
            <span className="text-soft">{bySlug(book.wells, slug)?.name ?? slug}</span>{' '}
            {keysOf(MEASURES)
              .flatMap((m) => {
                const is = now[m]
                const was = before?.[m]
                if (!is) return []
                const moved = was && measureText(m, was.value) !== measureText(m, is.value)
                return [
                  `${MEASURES[m].label} ${measureText(m, is.value)}${moved ? ` (was ${measureText(m, was.value)})` : ''}`,
                ]
              })
              .join(' · ')}
          </li>
        ))}
      </ul>
    </details>
  )
}
