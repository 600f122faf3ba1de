import { METHODS, type Method, MODEL_VERSION } from '@conch/core/cold'
import { isForAnotherModel, type Station, toSlug } from '@conch/core/house'
import { keysOf } from '@conch/core/schema/keysOf'
import { RANGES, type Range } from '@conch/core/schema/ranges'
import { useHouse } from '../../app/house.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import type { WellProps } from './wellProps.ts'

const FIGURES = [
  { key: 'uaWPerK', label: 'to the ice, W/K', range: RANGES.uaWPerK, step: 5, isOfModel: true },
  { key: 'stirringPowerW', label: 'motor, W', range: RANGES.powerW, step: 5, isOfModel: true },
  { key: 'vesselJPerK', label: 'vessel, J/K', range: RANGES.vesselJPerK, step: 10, isOfModel: false },
] as const

/** Whether another figure than this that belongs to a model of the ice was typed too. */
const isTypedBeside = ({ parameters }: Station, key: string) =>
  FIGURES.some((f) => f.isOfModel && f.key !== key && parameters[f.key] !== undefined)

/** The stations of a well: what each does to a drink, as far as somebody typed it, and its speeds. */
export function Gear({ well, mayEdit, put, onTakeOut }: WellProps & { onTakeOut: (station: Station) => void }) {
  const { book } = useHouse()
  const putStation = (slug: string, change: Partial<Station>) =>
    put({ stations: well.stations.map((s) => (s.slug === slug ? { ...s, ...change } : s)) })
  const add = (method: Method) => {
    const base = toSlug(METHODS[method].label)
    const taken = (slug: string) => well.stations.some((s) => s.slug === slug)
    let slug = base
    for (let n = 2; taken(slug); n++) slug = `${base}-${n}`
    void put({ stations: [...well.stations, { slug, name: METHODS[method].label, method, parameters: {} }] })
  }
  const number = (
    label: string,
    value: number | undefined,
    range: Range,
    onChange: (v: number) => void,
    step = 1,
    digits = 1,
  ) => <NumberField {...{ label, value, ...range, step, digits, onChange }} isReadOnly={!mayEdit} isSettling />
  return (
    <section aria-label="Gear">
      <h2 className="border-b border-ink text-lg">Gear</h2>
      <div className="overflow-x-auto">
        <table className="w-full text-sm">
          <thead>
            <tr className="caption text-right">
              <th className="pr-3 text-left font-normal">station</th>
              <th className="pr-3 text-left font-normal">method</th>
              {FIGURES.map((f) => (
                <th key={f.key} className="pl-3 font-normal whitespace-nowrap">
                  {f.label}
                </th>
              ))}
              <th className="pl-3 font-normal whitespace-nowrap">tin, °C</th>
              <th className="pl-3 font-normal whitespace-nowrap">works with, ml</th>
              <th className="pl-4 text-left font-normal">speeds, beside the usual one</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {well.stations.map((s) => {
              const preset = METHODS[s.method]
              const known = book.calibrations?.some((c) => c.well === well.slug && c.station === s.slug)
              return (
                <tr key={s.slug} className="border-b border-hair/60 text-right align-baseline">
                  <th scope="row" className="text-left font-normal">
                    {mayEdit ? (
                      <input
                        aria-label={`Name of ${s.name}`}
                        className="inplace w-44"
                        maxLength={120}
                        defaultValue={s.name}
                        key={s.name}
                        onBlur={(e) => {
                          const name = e.target.value.trim()
                          if (name && name !== s.name) void putStation(s.slug, { name })
                          else e.target.value = s.name
                        }}
                      />
                    ) : (
                      s.name
                    )}{' '}
                    {known && <span className="caption">its trials count first</span>}
                    {isForAnotherModel(s) && (
                      <span className="caption block text-mind">
                        typed before the ice was computed anew: not counted{' '}
                        {mayEdit && (
                          <button
                            type="button"
                            className="underline"
                            onClick={() => putStation(s.slug, { confirmedModel: MODEL_VERSION })}
                          >
                            count it all the same
                          </button>
                        )}
                      </span>
                    )}
                  </th>
                  <td className="text-left text-soft">{preset.label}</td>
                  {FIGURES.map((f) => {
                    const own = s.parameters[f.key]
                    const counts = own !== undefined && !(f.isOfModel && isForAnotherModel(s))
                    return (
                      <td key={f.key} className={counts ? '' : 'text-soft italic'}>
                        {number(
                          `${s.name}, ${f.label}`,
                          own ?? preset[f.key],
                          f.range,
                          (v) =>
                            putStation(s.slug, {
                              parameters: { ...s.parameters, [f.key]: v },
                              // Who types how the gear works types it for the model that it is looked at with.
                              ...(f.isOfModel && (!isForAnotherModel(s) || !isTypedBeside(s, f.key))
                                ? { confirmedModel: MODEL_VERSION }
                                : {}),
                            }),
                          f.step,
                        )}
                      </td>
                    )
                  })}
                  <td className={s.parameters.vesselTemperatureC === undefined ? 'text-soft italic' : ''}>
                    {number(
                      `${s.name}, temperature of the tin`,
                      s.parameters.vesselTemperatureC ?? well.roomTemperatureC,
                      RANGES.vesselC,
                      (vesselTemperatureC) =>
                        putStation(s.slug, { parameters: { ...s.parameters, vesselTemperatureC } }),
                    )}
                  </td>
                  <td className={s.holdsMl === undefined ? 'text-soft italic' : ''}>
                    {preset.holdsMl !== undefined &&
                      number(
                        `${s.name}, liquid and ice with which it works`,
                        s.holdsMl ?? preset.holdsMl,
                        RANGES.holdsMl,
                        (holdsMl) => putStation(s.slug, { holdsMl }),
                        50,
                        0,
                      )}
                  </td>
                  <td className="pl-4 text-left">
                    <Speeds station={s} mayEdit={mayEdit} onChange={(speeds) => putStation(s.slug, { speeds })} />
                  </td>
                  <td>
                    {mayEdit && (
                      <button
                        type="button"
                        className="px-1.5 text-soft hover:bg-shallow"
                        aria-label={`Take out ${s.name}`}
                        onClick={() => onTakeOut(s)}
                      >
                        ×
                      </button>
                    )}
                  </td>
                </tr>
              )
            })}
          </tbody>
        </table>
      </div>
      <p className="caption mt-1">
        Slanted: as shipped, or the room’s. A station’s trials count before what is typed here.
      </p>
      {mayEdit && (
        <select
          aria-label="Add a station"
          className="inplace mt-1"
          value=""
          onChange={(e) => add(e.target.value as Method)}
        >
          <option value="">add a station …</option>
          {keysOf(METHODS).map((m) => (
            <option key={m} value={m}>
              {METHODS[m].label}
            </option>
          ))}
        </select>
      )}
    </section>
  )
}

function Speeds({
  station,
  mayEdit,
  onChange,
}: {
  station: Station
  mayEdit: boolean
  onChange: (speeds: NonNullable<Station['speeds']>) => void
}) {
  const speeds = station.speeds ?? []
  return (
    <span className="inline-flex flex-wrap items-baseline gap-x-3">
      {speeds.map((s, i) => {
        const change = (to: Partial<typeof s>) => onChange(speeds.map((q, n) => (n === i ? { ...q, ...to } : q)))
        return (
          <span key={s.slug} className="whitespace-nowrap">
            {s.name}: ice ×
            <NumberField
              label={`${s.name}, to the ice`}
              value={s.uaTimes}
              {...RANGES.speedTimes}
              step={0.05}
              digits={2}
              isReadOnly={!mayEdit}
              isSettling
              onChange={(uaTimes) => change({ uaTimes })}
            />
            , motor ×
            <NumberField
              label={`${s.name}, motor`}
              value={s.powerTimes}
              {...RANGES.speedTimes}
              step={0.05}
              digits={2}
              isReadOnly={!mayEdit}
              isSettling
              onChange={(powerTimes) => change({ powerTimes })}
            />
            {mayEdit && (
              <button
                type="button"
                className="px-1 text-soft"
                aria-label={`Without the speed ${s.name}`}
                onClick={() => onChange(speeds.filter((_, n) => n !== i))}
              >
                ×
              </button>
            )}
          </span>
        )
      })}
      {mayEdit && METHODS[station.method].stirringPowerW > 20 && speeds.length < 4 && (
        <button
          type="button"
          className="text-soft hover:bg-shallow"
          onClick={() => {
            const name = ['low', 'high', 'pulse', 'top'].find((n) => !speeds.some((s) => s.slug === n)) ?? 'other'
            onChange([
              ...speeds,
              { slug: name, name, uaTimes: name === 'low' ? 0.75 : 1.25, powerTimes: name === 'low' ? 0.55 : 1.4 },
            ])
          }}
        >
          + speed
        </button>
      )}
    </span>
  )
}
