import { type DrinkDocument, MEASURES, type MeasureName, standingOf } from '@conch/core/drink'
import type { StandInAnswer } from '@conch/core/standin'
import { useHouse } from '../../app/house.tsx'
import { bareMeasureText } from '../../graphics/format.ts'
import { useStandInEffect } from '../../workers/compute.ts'

const SHOWN: MeasureName[] = ['strengthPct', 'sweetGPer100Ml', 'sourGPer100Ml', 'dilutionPct', 'volumeMl']

/** What a stand-in does to the drink at this well, and the seconds that bring its strength back. */
export function InTheGlass({
  document,
  index,
  answer,
}: {
  document: DrinkDocument
  index: number
  answer: StandInAnswer
}) {
  const { book, well } = useHouse()
  const result = useStandInEffect(book, document, index, answer, well.slug)
  if (!result) return null
  if (!result.ok) return <p className="mt-3 text-sm text-stop">{result.reason}</p>
  const { before, after, corrected, durationS } = result.effect
  const then = corrected.outcome === 'reached' ? corrected.predictions : undefined
  const isMoved =
    corrected.outcome === 'reached' && durationS !== undefined && Math.abs(corrected.durationS - durationS) >= 0.05
  return (
    <section aria-label="In the glass" className="mt-4 border-t border-hair pt-2">
      <h2 className="text-base">
        In {document.name}, at the {well.name}
      </h2>
      <table className="w-full text-right">
        <thead>
          <tr className="caption">
            <th />
            <th className="font-normal">as it was</th>
            <th className="font-normal">with this</th>
            {isMoved && <th className="font-normal">and {corrected.durationS.toFixed(1)} s</th>}
          </tr>
        </thead>
        <tbody>
          {SHOWN.map((m) => {
            const tone = (p: typeof after) => {
              const standing = standingOf(p[m], document.standard[m])
              return standing === 'below' || standing === 'above' ? 'font-semibold text-stop' : ''
            }
            const cell = (p: typeof after | undefined) => {
              const value = p?.[m]?.value
              return value === undefined ? '·' : bareMeasureText(m, value)
            }
            return (
              <tr key={m} className="border-b border-hair/60" data-measure={m}>
                <th scope="row" className="text-left text-sm font-normal text-soft">
                  {MEASURES[m].label}, {MEASURES[m].unit}
                </th>
                <td>{cell(before)}</td>
                <td className={tone(after)}>{cell(after)}</td>
                {isMoved && then && <td className={tone(then)}>{cell(then)}</td>}
              </tr>
            )
          })}
        </tbody>
      </table>
      <p className="mt-1 text-sm">
        {isMoved && durationS !== undefined && (
          <>
            {durationS.toFixed(1)} s → <b className="font-semibold">{corrected.durationS.toFixed(1)} s</b> holds its
            strength.
          </>
        )}
        {corrected.outcome === 'reached' && !isMoved && 'The seconds stay as they are.'}
        {corrected.outcome === 'cannotBeReached' && (
          <span className="text-mind">
            ▲ No seconds bring the strength back: from {corrected.fewestS} to {corrected.mostS.toFixed(0)} s it goes
            from {corrected.atFewest.toFixed(1)} to {corrected.atMost.toFixed(1)} %. Pour more or less of it.
          </span>
        )}
      </p>
    </section>
  )
}
