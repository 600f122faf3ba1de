import { ICE_KINDS, type IceKind } from '@conch/core/cold'
import type { Well } from '@conch/core/house'
import { keysOf } from '@conch/core/schema/keysOf'
import { RANGES, times } from '@conch/core/schema/ranges'
import { useState } from 'react'
import { toast } from 'sonner'
import { useScaleReading } from '../../devices/useTray.ts'
import { NumberField } from '../../ui/NumberField.tsx'
import type { WellProps } from './wellProps.ts'

const ICE_FIGURES = [
  { key: 'surfaceWaterFraction', label: 'wet, %', times: 100, ...times(RANGES.surfaceWaterFraction, 100), step: 0.5 },
  { key: 'temperatureC', label: '°C', times: 1, ...RANGES.iceTemperatureC, step: 0.5 },
  {
    key: 'packedSolidFraction',
    label: 'solid when packed, %',
    times: 100,
    ...times(RANGES.packedSolidFraction, 100),
    step: 1,
  },
] as const

/** The ice of a well, where it was measured: how wet, how cold, how closely it packs. */
export function IceOfWell({ well, mayEdit, put }: WellProps) {
  const readingG = useScaleReading()
  const [wet, setWet] = useState<{ kind: IceKind; massG: number }>()
  const set = (kind: IceKind, change: Partial<NonNullable<Well['ice'][IceKind]>>) =>
    put({ ice: { ...well.ice, [kind]: { ...well.ice[kind], ...change } } })
  /** Twice over the scale: as scooped, then dried in a cold cloth. */
  const weigh = async (kind: IceKind) => {
    if (readingG <= 0) return toast('Put the ice on the scale, or open the devices (d).')
    if (wet?.kind !== kind) {
      setWet({ kind, massG: readingG })
      return toast(`${readingG} g as scooped. Dry it in a cold cloth and weigh it again.`)
    }
    const fraction = 1 - readingG / wet.massG
    setWet(undefined)
    if (fraction < RANGES.surfaceWaterFraction.low || fraction > RANGES.surfaceWaterFraction.high)
      return toast.error(
        `${readingG} g dried of ${wet.massG} g as scooped: that is ${Math.round(100 * fraction)} % water; 0 to ${100 * RANGES.surfaceWaterFraction.high} % can be. Weigh it again.`,
      )
    if (await set(kind, { surfaceWaterFraction: Number(fraction.toFixed(3)) }))
      toast(`${ICE_KINDS[kind].label}: ${(100 * fraction).toFixed(1)} % water on it.`)
  }
  return (
    <section aria-label="Ice">
      <h2 className="border-b border-ink text-lg">Ice</h2>
      <table className="w-full text-sm">
        <thead>
          <tr className="caption text-right">
            <th className="text-left font-normal">kind</th>
            {ICE_FIGURES.map((f) => (
              <th key={f.key} className="pl-3 font-normal">
                {f.label}
              </th>
            ))}
            <th />
          </tr>
        </thead>
        <tbody>
          {keysOf(ICE_KINDS).map((kind) => (
            <tr key={kind} className="border-b border-hair/60 text-right">
              <th scope="row" className="text-left font-normal">
                {ICE_KINDS[kind].label}
              </th>
              {ICE_FIGURES.map((f) => {
                const own = well.ice[kind]?.[f.key]
                return (
                  <td key={f.key} className={own === undefined ? 'text-soft italic' : ''}>
                    <NumberField
                      label={`${ICE_KINDS[kind].label}, ${f.label}`}
                      value={(own ?? ICE_KINDS[kind][f.key]) * f.times}
                      low={f.low}
                      high={f.high}
                      step={f.step}
                      digits={1}
                      isReadOnly={!mayEdit}
                      isSettling
                      onChange={(v) => void set(kind, { [f.key]: v / f.times })}
                    />
                  </td>
                )
              })}
              <td className="w-52">
                {mayEdit && (
                  <button
                    type="button"
                    className="act act-quiet text-sm max-sm:min-h-11"
                    aria-label={`Weigh the wetness of ${ICE_KINDS[kind].label}`}
                    onClick={() => void weigh(kind)}
                  >
                    {wet?.kind === kind ? `${readingG} g dried of ${wet.massG} g: take it` : 'weigh its wetness'}
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="caption mt-1">
        Slanted: as shipped, its wetness good to about half of itself. Weigh a scoop, dry it in a cold cloth, weigh it
        again.
      </p>
    </section>
  )
}
