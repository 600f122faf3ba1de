import { RANGES } from '@conch/core/schema/ranges'
import { NumberField } from '../ui/NumberField.tsx'
import { devices } from './devices.ts'
import { useScaleReading, useTray } from './useTray.ts'

/** The simulated devices, driven by hand: a scale, a refractometer, a thermometer, a titration, a label printer. */
export function DeviceTray({ onClose }: { onClose: () => void }) {
  const tray = useTray()
  const readingG = useScaleReading()
  const add = (g: number) => devices.set({ panG: Math.max(0, Number((tray.panG + g).toFixed(1))) })
  return (
    <section
      aria-label="Devices"
      className="no-print sticky bottom-0 z-30 max-lg:bottom-11 flex flex-wrap items-start gap-x-8 gap-y-2 border-t-2 border-ink bg-shoal px-4 py-2 text-sm"
    >
      <div>
        <p className="caption">bench scale, simulated</p>
        <p className="flex items-center gap-2">
          <output
            aria-label="The scale shows"
            className="min-w-32 bg-ink px-2 py-1 text-right font-display text-2xl text-paper"
          >
            {readingG.toFixed(tray.resolutionG === 1 ? 0 : 1)} g
          </output>
          <button type="button" className="act" onClick={() => devices.scale.tare()}>
            Tare
          </button>
        </p>
        <p className="mt-1 flex flex-wrap items-center gap-1">
          <span className="text-soft">on the pan</span>
          <NumberField
            label="On the pan"
            value={tray.panG}
            low={0}
            high={20_000}
            step={1}
            digits={1}
            onChange={(panG) => devices.set({ panG })}
          />{' '}
          g
          {[-100, -10, 10, 100].map((g) => (
            <button key={g} type="button" className="act act-quiet" onClick={() => add(g)}>
              {g > 0 ? `+${g}` : `−${-g}`}
            </button>
          ))}
        </p>
        <p className="flex flex-wrap items-center gap-3 text-soft">
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={tray.resolutionG === 0.1}
              onChange={(e) => devices.set({ resolutionG: e.target.checked ? 0.1 : 1 })}
            />
            fine, 0.1 g
          </label>
          <span>
            wanders{' '}
            <NumberField
              label="Drift"
              value={tray.driftGPerMin}
              low={-20}
              high={20}
              step={0.5}
              digits={1}
              onChange={(driftGPerMin) => devices.set({ driftGPerMin })}
            />{' '}
            g/min
          </span>
        </p>
      </div>
      <div>
        <p className="caption">refractometer</p>
        <p className="mt-1">
          <NumberField
            label="On the prism"
            value={tray.brix}
            {...RANGES.brix}
            step={0.5}
            digits={1}
            onChange={(brix) => devices.set({ brix })}
          />{' '}
          °Bx
        </p>
      </div>
      <div>
        <p className="caption">thermometer</p>
        <p className="mt-1">
          <NumberField
            label="At the probe"
            value={tray.probeC}
            low={-30}
            high={110}
            step={0.5}
            digits={1}
            onChange={(probeC) => devices.set({ probeC })}
          />{' '}
          °C
        </p>
      </div>
      <div>
        <p className="caption">titration and pH</p>
        <p className="mt-1 flex gap-3">
          <span>
            <NumberField
              label="Titrated acid"
              value={tray.acid?.acidGPer100Ml}
              {...RANGES.acidGPer100Ml}
              step={0.1}
              digits={2}
              onChange={(acidGPer100Ml) => devices.set({ acid: { pH: tray.acid?.pH ?? 3, acidGPer100Ml } })}
            />{' '}
            g/100 ml
          </span>
          <span>
            pH{' '}
            <NumberField
              label="pH of the sample"
              value={tray.acid?.pH}
              {...RANGES.pH}
              step={0.1}
              digits={2}
              onChange={(pH) => devices.set({ acid: { acidGPer100Ml: tray.acid?.acidGPer100Ml ?? 0, pH } })}
            />
          </span>
        </p>
      </div>
      <div className="min-w-40">
        <p className="caption">label printer</p>
        {tray.printed.length === 0 ? (
          <p className="mt-1 text-soft">nothing printed yet</p>
        ) : (
          <ul className="mt-1 max-h-20 overflow-y-auto">
            {tray.printed.map((job) => (
              <li key={job.href + job.at}>
                <a className="underline" href={job.href} target="_blank" rel="noreferrer">
                  {job.title}
                </a>
              </li>
            ))}
          </ul>
        )}
      </div>
      <button type="button" className="act act-quiet ml-auto" onClick={onClose}>
        Put away
      </button>
    </section>
  )
}
