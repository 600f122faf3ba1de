import { type DrinkDocument, type DrinkResult, OVERFLOWING_STANDARD } from '@conch/core/drink'
import { useHouse } from '../../app/house.tsx'
import { KeepsRoom } from '../../ui/KeepsRoom.tsx'
import { Computing } from '../../workers/Computing.tsx'
import type { useGlass } from '../../workers/compute.ts'
import { Margin } from './Margin.tsx'
import { TasteNotes } from './TasteNotes.tsx'

interface GlassAsideProps {
  document: DrinkDocument
  /** Undefined while it is being computed. */
  answer: ReturnType<typeof useGlass>
  /** The version that a draft was begun from. */
  ghost: { document: DrinkDocument; result: DrinkResult } | undefined
  /** Makes this glass the standard; left out where nothing can be changed. */
  /** The version that it is; undefined: a draft, of which nobody says anything. */
  of: { drink: string; number: number } | undefined
  onHold: ((predictions: DrinkResult['predictions']) => void) | undefined
}

/** What stands in the glass, beside the spec; or why nothing can be said of it. */
export function GlassAside({ document, answer, ghost, onHold, of }: GlassAsideProps) {
  const { book, well } = useHouse()
  return (
    <aside
      aria-label="Consequences"
      className="border-hair max-lg:mt-4 max-lg:border-t max-lg:pt-3 lg:border-l lg:pl-5"
    >
      <KeepsRoom isWaiting={!answer}>
        {!answer && <Computing what="the glass" />}
        {answer && !answer.ok && (
          <div role="alert" className="border-l-4 border-stop pl-3">
            <h2 className="text-base">This cannot be computed</h2>
            <ul>
              {answer.problems.map((p) => (
                <li key={p.path.join('.')}>
                  {p.path.join(' ')}: {p.message}
                </li>
              ))}
            </ul>
          </div>
        )}
        {answer?.ok && (
          <Margin {...{ document, book, well, ghost }} result={answer.result} consequences={answer.consequences}>
            {onHold && (
              <p className="no-print mt-1 text-right">
                {(answer.result.glass?.fill.overflowMl ?? 0) >= 1 && (
                  <span className="block text-sm text-stop">■ {OVERFLOWING_STANDARD}</span>
                )}
                <button
                  type="button"
                  className="act act-quiet text-sm text-standard"
                  onClick={() => onHold(answer.result.predictions)}
                >
                  Hold this glass as the standard
                </button>
              </p>
            )}
          </Margin>
        )}
      </KeepsRoom>
      {of && (
        <TasteNotes
          name={document.name}
          key={`${of.drink} ${of.number}`}
          {...of}
          predictions={answer?.ok ? answer.result.predictions : undefined}
        />
      )}
    </aside>
  )
}
