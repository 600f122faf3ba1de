import type { Batch, Recipe } from '@conch/core/formula'
import { toast } from 'sonner'
import { devices } from '../../devices/devices.ts'
import { useScaleReading } from '../../devices/useTray.ts'
import { NumberField } from '../../ui/NumberField.tsx'
import { type LotInMaking, offBy } from './makeLotState.ts'

/** One component after another, taken from the scale. */
export function WeighList({
  batch,
  factor,
  lot,
  onWeigh,
}: {
  batch: Batch
  factor: number
  lot: LotInMaking
  onWeigh: (weighedG: Record<string, number>) => void
}) {
  const readingG = useScaleReading()
  const next = batch.parts.find((p) => lot.weighedG[p.slug] === undefined)?.slug
  return (
    <ol aria-label="To weigh">
      {batch.parts.map(({ slug, name, massG }) => {
        const plannedG = massG * factor
        const actualG = lot.weighedG[slug]
        const off = actualG === undefined ? undefined : offBy(plannedG, actualG)
        return (
          <li
            key={slug}
            className={`flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-hair py-1.5 ${slug === next ? 'bg-shoal' : ''}`}
          >
            <span className="w-28 text-right font-display text-2xl">
              {plannedG < 100 ? plannedG.toFixed(1) : Math.round(plannedG)} g
            </span>
            <span className="min-w-40 flex-1 text-lg">{name}</span>
            <span className={`text-sm ${off ? 'text-mind' : 'text-soft'}`}>
              {actualG !== undefined && (
                <>
                  <NumberField
                    label={`Weighed ${name}`}
                    value={actualG}
                    low={0}
                    high={200_000}
                    digits={1}
                    onChange={(g) => onWeigh({ ...lot.weighedG, [slug]: g })}
                  />{' '}
                  g {off ?? 'weighed'}
                </>
              )}
            </span>
            <button
              type="button"
              className={`act min-h-11 ${slug === next ? 'act-main' : ''}`}
              aria-label={`Take ${name} from the scale`}
              onClick={() => {
                if (readingG <= 0) {
                  toast('The scale shows nothing. Put it on the pan, or open the devices (d).')
                  return
                }
                onWeigh({ ...lot.weighedG, [slug]: readingG })
                devices.scale.tare()
              }}
            >
              {readingG > 0 ? `${readingG} g: take it` : 'from the scale'}
            </button>
          </li>
        )
      })}
    </ol>
  )
}

/** What is done once it is weighed. */
export function Steps({ steps }: { steps: NonNullable<Recipe['steps']> }) {
  if (steps.length === 0) return null
  return (
    <ol aria-label="What is done" className="mt-4 list-decimal space-y-1 pl-6 text-lg">
      {steps.map((s) => (
        <li key={s.text}>
          {s.text}
          <span className="text-soft">
            {s.temperatureC !== undefined && `, ${s.temperatureC} °C`}
            {s.minutes !== undefined && `, ${s.minutes} min`}
          </span>
        </li>
      ))}
    </ol>
  )
}
