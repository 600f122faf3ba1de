import {
  MEASURE_NAMES,
  MEASURES,
  OVERFLOWING_STANDARD,
  poursSealed,
  type Standard,
  standardFrom,
} from '@conch/core/drink'
import { RANGES } from '@conch/core/schema/ranges'
import { useState } from 'react'
import { measureText } from '../../graphics/format.ts'
import { NumberField } from '../../ui/NumberField.tsx'
import { useGlass } from '../../workers/compute.ts'
import type { BenchProps } from './benchProps.ts'

/** What the glass promises; or, without, the glass that could be. */
export function StandardOfDrink({ document, book, well, mayEdit, use }: BenchProps) {
  const answer = useGlass(document, book, well.slug)
  const [typed, setTyped] = useState<Standard>()
  const bands = MEASURE_NAMES.filter((m) => document.standard[m])
  const isOver = answer?.ok === true && (answer.result.glass?.fill.overflowMl ?? 0) >= 1
  const here = answer?.ok
    ? standardFrom(answer.result.predictions, { poursSealed: poursSealed(document, book) })
    : undefined
  if (typed)
    return (
      <TypedStandard
        standard={typed}
        usual={here ?? {}}
        onChange={setTyped}
        onCancel={() => setTyped(undefined)}
        onHold={() => use({ ...document, standard: typed }, 'The standard as it was typed.')}
      />
    )
  return (
    <section aria-label="Standard" className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      {bands.length === 0 ? (
        <span className="text-soft">No standard yet: nothing is promised about the glass.</span>
      ) : (
        <span className="text-soft">the standard, which every change keeps:</span>
      )}
      {bands.map((m) => (
        <span key={m} className="whitespace-nowrap">
          <span className="caption">{MEASURES[m].label}</span>{' '}
          <span className="border-b-2 border-standard">
            {String(document.standard[m]?.low).replace('-', '−')} to {measureText(m, document.standard[m]?.high ?? 0)}
          </span>
        </span>
      ))}
      {mayEdit && (
        <>
          {isOver && <span className="text-sm text-stop">■ {OVERFLOWING_STANDARD}</span>}
          <button
            type="button"
            className={`act text-sm ${bands.length > 0 ? 'act-quiet' : ''}`}
            disabled={!here}
            title={isOver ? OVERFLOWING_STANDARD : undefined}
            onClick={() =>
              here && use({ ...document, standard: here }, `The glass at the ${well.name} is the standard now.`)
            }
          >
            The glass at the {well.name} is the one
          </button>
          <button type="button" className="act act-quiet text-sm" onClick={() => setTyped({ ...document.standard })}>
            Type it …
          </button>
        </>
      )}
    </section>
  )
}

/** Bands typed by hand: each measure held or left free. */
function TypedStandard({
  standard,
  usual,
  onChange,
  onCancel,
  onHold,
}: {
  standard: Standard
  usual: Standard
  onChange: (standard: Standard) => void
  onCancel: () => void
  onHold: () => void
}) {
  const wrong = MEASURE_NAMES.find((m) => standard[m] && (standard[m]?.low ?? 0) > (standard[m]?.high ?? 0))
  return (
    <section aria-label="Standard" className="border border-hair p-3">
      <table>
        <tbody>
          {MEASURE_NAMES.map((m) => {
            const band = standard[m]
            const { label, unit, digits, tolerance } = MEASURES[m]
            const set = (end: 'low' | 'high') => (value: number) =>
              onChange({ ...standard, [m]: { low: 0, high: 0, ...band, [end]: value } })
            const number = (end: 'low' | 'high') => (
              <NumberField
                label={`${label}, ${end}`}
                value={band?.[end]}
                {...RANGES.windowEnd}
                step={tolerance / 4}
                digits={digits}
                onChange={set(end)}
              />
            )
            return (
              <tr key={m}>
                <td className="pr-3">
                  <label className="flex items-center gap-2">
                    <input
                      type="checkbox"
                      checked={band !== undefined}
                      onChange={(e) => {
                        const { [m]: _, ...others } = standard
                        onChange(e.target.checked ? { ...standard, [m]: usual[m] ?? { low: 0, high: 0 } } : others)
                      }}
                    />
                    {label}
                  </label>
                </td>
                <td>
                  {band ? (
                    <>
                      {number('low')} to {number('high')} {unit}
                    </>
                  ) : (
                    <span className="text-soft">free</span>
                  )}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {wrong && (
        <p role="alert" className="text-stop">
          {MEASURES[wrong].label}: the low end must not be above the high end.
        </p>
      )}
      <div className="mt-2 flex gap-2">
        <button type="button" className="act act-main" disabled={wrong !== undefined} onClick={onHold}>
          Hold this still
        </button>
        <button type="button" className="act" onClick={onCancel}>
          As it was
        </button>
      </div>
    </section>
  )
}
