import type { SplitPrep } from '@conch/contract'
import { nightText } from '@conch/core/calendar'
import { useHouse } from '../../app/house.tsx'

/** What one of two people weighs: bottles and weights, and nothing of the other half or of the whole. */
export function HalfSheet({ prep, sheet }: { prep: SplitPrep; sheet: SplitPrep['sheets'][number] }) {
  const { clock } = useHouse()
  return (
    <section aria-label={`Sheet of ${sheet.hand}`} className="mt-3 border border-ink p-3 break-inside-avoid">
      <p className="flex justify-between gap-4">
        <b className="font-semibold">{sheet.hand}</b>
        <span className="caption">
          {prep.name}, batch {prep.id} · {nightText(prep.savedAt, clock)}
        </span>
      </p>
      <ol className="mt-1">
        {sheet.lines.map((l) => (
          <li key={l.ingredient} className="flex gap-4 border-b border-hair/60 py-1 text-lg">
            <span className="w-24 text-right font-display">
              {Number.isInteger(l.massG) ? l.massG : l.massG.toFixed(1)} g
            </span>
            <span>{l.name}</span>
          </li>
        ))}
      </ol>
      <p className="caption mt-1">Into a jug of your own. Somebody else brings the rest.</p>
    </section>
  )
}
