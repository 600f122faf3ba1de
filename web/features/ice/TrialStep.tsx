import { RANGES } from '@conch/core/schema/ranges'
import type { ReactNode } from 'react'
import { toast } from 'sonner'
import { devices } from '../../devices/devices.ts'
import { useScaleReading, useTray } from '../../devices/useTray.ts'
import { NumberField } from '../../ui/NumberField.tsx'

/** One thing to do on a trial's sheet: what is next stands out, what is done is ticked, what cannot be is said under it. */
export function TrialStep({
  title,
  isNext = false,
  isDone,
  problem,
  children,
}: {
  title: string
  isNext?: boolean
  isDone: boolean
  problem?: string | undefined
  children: ReactNode
}) {
  return (
    <li
      className={`border-b border-hair py-2 pl-2 ${isNext ? 'border-l-4 border-l-ink bg-shoal' : 'border-l-4 border-l-transparent'}`}
    >
      <p className="text-lg">
        {title} {isDone && <span className="text-soft">✓</span>}
      </p>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">{children}</div>
      {problem && isDone && (
        <p role="alert" className="text-stop">
          {problem}
        </p>
      )}
    </li>
  )
}

/** A weight: typed, or taken from the scale, which is tared for the next. */
export function WeightField({
  label,
  valueG,
  isNext = false,
  onTake,
}: {
  label: string
  valueG: number | undefined
  isNext?: boolean
  onTake: (g: number) => void
}) {
  const readingG = useScaleReading()
  return (
    <span className="inline-flex items-center gap-2">
      <span>
        <NumberField label={label} value={valueG} {...RANGES.trialG} digits={1} onChange={onTake} /> g
      </span>
      <button
        type="button"
        className={`act min-h-11 ${isNext ? 'act-main' : ''}`}
        aria-label={`${label} from the scale`}
        onClick={() => {
          if (readingG <= 0) {
            toast('The scale shows nothing. Put it on the pan, or open the devices (d).')
            return
          }
          onTake(readingG)
          devices.scale.tare()
        }}
      >
        {readingG > 0 ? `${readingG} g: take it` : 'from the scale'}
      </button>
    </span>
  )
}

/** A temperature: typed, taken from the thermometer, or left out, with what then stands for it. */
export function TemperatureField({
  label,
  valueC,
  otherwiseC,
  onTake,
}: {
  label: string
  valueC: number | undefined
  /** Undefined: nothing stands for it, it is simply not known. */
  otherwiseC: number | undefined
  onTake: (c: number | undefined) => void
}) {
  const { probeC } = useTray()
  return (
    <span className="inline-flex flex-wrap items-center gap-x-1 text-sm">
      <span className="text-soft">{label}</span>
      <NumberField label={label} value={valueC} {...RANGES.trialC} digits={1} onChange={onTake} /> °C
      {valueC === undefined ? (
        <span className="caption">
          not taken{otherwiseC === undefined ? '' : `: ${otherwiseC.toFixed(1).replace('-', '−')} °C stands in`}
        </span>
      ) : (
        <button
          type="button"
          className="px-1 text-soft max-sm:min-h-11 max-sm:min-w-11"
          aria-label={`Without ${label}`}
          onClick={() => onTake(undefined)}
        >
          ×
        </button>
      )}
      <button
        type="button"
        className="act act-quiet max-sm:min-h-11"
        aria-label={`${label} from the thermometer`}
        onClick={() => {
          const c = devices.thermometer.readC()
          if (c === undefined) toast('The thermometer is put away. Open the devices (d).')
          else onTake(c)
        }}
      >
        {probeC === undefined ? 'thermometer' : `${probeC.toFixed(1)} °C: take it`}
      </button>
    </span>
  )
}
