import { mayDo } from '@conch/contract'
import { ICE_KINDS, type IceKind, METHODS, type Method } from '@conch/core/cold'
import { bySlug, type Station, toSlug, type Well } from '@conch/core/house'
import { type FormEvent, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { toast } from 'sonner'
import { useHouse } from '../../app/house.tsx'
import { useSaveThing } from '../../app/useSaveThing.ts'
import { useWho } from '../../app/who.ts'
import { useScaleReading } from '../../devices/useTray.ts'
import { NumberField } from '../../ui/NumberField.tsx'
import { Failure } from '../../ui/States.tsx'

const NEW_WELL = 'new'

/** A bar position: its room, its gear, its ice, its scoops. */
export function WellPage() {
  const { well: slug = '' } = useParams()
  const { house } = useHouse()
  const well = bySlug(house.wells, slug)
  if (slug === NEW_WELL) return <NewWell />
  if (!well) return <Failure error={`There is no well “${slug}”.`} />
  return <WellSheet key={slug} well={well} />
}

/** Every method at once, as shipped: what is not there is taken out afterwards. */
function NewWell() {
  const navigate = useNavigate()
  const save = useSaveThing()
  const { house } = useHouse()
  const [name, setName] = useState('')
  const [error, setError] = useState<string>()
  const submit = async (event: FormEvent) => {
    event.preventDefault()
    const slug = toSlug(name)
    if (slug === '' || slug === NEW_WELL || slug === 'trial' || slug === 'glasses')
      return setError('Give it another name.')
    if (bySlug(house.wells, slug)) return setError(`There is a well “${name.trim()}” already.`)
    const stations = (Object.keys(METHODS) as Method[]).map((method) => ({
      slug: toSlug(METHODS[method].label),
      name: METHODS[method].label,
      method,
      parameters: {},
    }))
    const well = { slug, name: name.trim(), roomTemperatureC: 21, handOverS: 20, stations, ice: {} }
    if (await save(`/api/wells/${slug}`, well, 0)) navigate(`/ice/${slug}`)
  }
  return (
    <form onSubmit={submit} className="mx-auto max-w-xl px-4 pt-6">
      <h1 className="mb-3 text-3xl">A new well</h1>
      <label className="block">
        <span className="text-sm font-semibold">Name</span>
        <input
          className="field"
          maxLength={120}
          value={name}
          placeholder="Terrace, Upstairs …"
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      {error && (
        <p role="alert" className="mt-1 text-stop">
          {error}
        </p>
      )}
      <p className="caption mt-2">It begins with every method as shipped; take out what it does not have.</p>
      <button type="submit" className="act act-main mt-3">
        Make it
      </button>
    </form>
  )
}

const FIGURES = [
  { key: 'uaWPerK', label: 'to the ice, W/K', high: 2000, step: 5 },
  { key: 'stirringPowerW', label: 'motor, W', high: 2000, step: 5 },
  { key: 'vesselJPerK', label: 'vessel, J/K', high: 5000, step: 10 },
] as const

function WellSheet({ well }: { well: Well }) {
  const { house, book } = useHouse()
  const who = useWho()
  const save = useSaveThing()
  const mayEdit = mayDo(who.role, 'editHouse')
  const put = (change: Partial<Well>) =>
    save(`/api/wells/${well.slug}`, { ...well, ...change }, house.revisions.wells[well.slug] ?? 0)
  const putStation = (slug: string, change: Partial<Station>) =>
    put({ stations: well.stations.map((s) => (s.slug === slug ? { ...s, ...change } : s)) })
  const remove = async (station: Station) => {
    const before = well
    if (await put({ stations: well.stations.filter((s) => s !== station) }))
      toast(`${station.name} is gone from the ${well.name}.`, {
        action: {
          label: 'Take it back',
          onClick: () => void save(`/api/wells/${well.slug}`, before, (house.revisions.wells[well.slug] ?? 0) + 1),
        },
      })
  }
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
    low: number,
    high: number,
    onChange: (v: number) => void,
    step = 1,
    digits = 1,
  ) => <NumberField {...{ label, value, low, high, step, digits, onChange }} isReadOnly={!mayEdit} isSettling />
  return (
    <div className="px-4 pt-3 pb-10">
      <p className="caption">
        <Link className="underline" to="/ice">
          Ice bench
        </Link>
      </p>
      <h1 className="text-3xl">{well.name}</h1>
      <p className="mb-4 flex flex-wrap gap-x-6 gap-y-1 border-y border-hair py-2">
        <span>
          <span className="text-soft">room</span>{' '}
          {number('Room', well.roomTemperatureC, -10, 45, (roomTemperatureC) => put({ roomTemperatureC }))} °C
        </span>
        <span>
          <span className="text-soft">to the guest</span>{' '}
          {number('Seconds to the guest', well.handOverS, 0, 120, (handOverS) => put({ handOverS }), 5, 0)} s
        </span>
        <span className="caption">glasses wait where each glass says, in the House</span>
      </p>
      <section aria-label="Gear">
        <h2 className="border-b border-ink text-lg">Gear</h2>
        <div className="overflow-x-auto">
          <table className="w-full text-sm">
            <thead>
              <tr className="caption text-right">
                <th className="text-left font-normal">station</th>
                <th className="text-left font-normal">method</th>
                {FIGURES.map((f) => (
                  <th key={f.key} className="font-normal">
                    {f.label}
                  </th>
                ))}
                <th className="font-normal">tin, °C</th>
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
                    </th>
                    <td className="text-left text-soft">{preset.label}</td>
                    {FIGURES.map((f) => {
                      const own = s.parameters[f.key]
                      return (
                        <td key={f.key} className={own === undefined ? 'text-soft italic' : ''}>
                          {number(
                            `${s.name}, ${f.label}`,
                            own ?? preset[f.key],
                            0,
                            f.high,
                            (v) => putStation(s.slug, { parameters: { ...s.parameters, [f.key]: v } }),
                            f.step,
                          )}
                        </td>
                      )
                    })}
                    <td className={s.parameters.vesselTemperatureC === undefined ? 'text-soft italic' : ''}>
                      {number(
                        `${s.name}, temperature of the tin`,
                        s.parameters.vesselTemperatureC ?? well.roomTemperatureC,
                        -40,
                        60,
                        (vesselTemperatureC) =>
                          putStation(s.slug, { parameters: { ...s.parameters, vesselTemperatureC } }),
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
                          onClick={() => void remove(s)}
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
            {(Object.keys(METHODS) as Method[]).map((m) => (
              <option key={m} value={m}>
                {METHODS[m].label}
              </option>
            ))}
          </select>
        )}
      </section>
      <div className="mt-6 grid gap-x-10 lg:grid-cols-2">
        <IceOfWell well={well} mayEdit={mayEdit} put={put} />
        <Scoops well={well} mayEdit={mayEdit} put={put} />
      </div>
    </div>
  )
}

type Put = (change: Partial<Well>) => Promise<boolean>

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
              low={0.1}
              high={10}
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
              low={0.1}
              high={10}
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

const ICE_FIGURES = [
  { key: 'surfaceWaterFraction', label: 'wet, %', times: 100, high: 60, step: 0.5 },
  { key: 'temperatureC', label: '°C', times: 1, high: 0, low: -40, step: 0.5 },
  { key: 'packedSolidFraction', label: 'solid when packed, %', times: 100, low: 20, high: 100, step: 1 },
] as const

function IceOfWell({ well, mayEdit, put }: { well: Well; mayEdit: boolean; put: Put }) {
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
    if (fraction < 0 || fraction > 0.6)
      return toast.error(
        `${readingG} g dried of ${wet.massG} g as scooped: that is ${Math.round(100 * fraction)} % water; 0 to 60 % can be. Weigh it again.`,
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
              <th key={f.key} className="font-normal">
                {f.label}
              </th>
            ))}
            <th />
          </tr>
        </thead>
        <tbody>
          {(Object.keys(ICE_KINDS) as IceKind[]).map((kind) => (
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
                      low={'low' in f ? f.low : 0}
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

function Scoops({ well, mayEdit, put }: { well: Well; mayEdit: boolean; put: Put }) {
  const readingG = useScaleReading()
  const scoops = well.scoops ?? []
  const change = (i: number, to: Partial<(typeof scoops)[number]>) =>
    put({ scoops: scoops.map((s, n) => (n === i ? { ...s, ...to } : s)) })
  return (
    <section aria-label="Scoops">
      <h2 className="border-b border-ink text-lg">Scoops</h2>
      {scoops.length === 0 && <p className="py-2 text-soft">None yet: amounts of ice are shown in grams.</p>}
      <ul>
        {scoops.map((s, i) => (
          <li key={i} className="flex flex-wrap items-baseline gap-x-3 border-b border-hair/60 py-1 text-sm">
            <input
              aria-label={`Name of scoop ${i + 1}`}
              className="inplace w-40"
              maxLength={120}
              readOnly={!mayEdit}
              defaultValue={s.name}
              onBlur={(e) => {
                const name = e.target.value.trim()
                if (name && name !== s.name) void change(i, { name })
                else e.target.value = s.name
              }}
            />
            <select
              aria-label={`Ice of ${s.name}`}
              disabled={!mayEdit}
              className="inplace"
              value={s.kind}
              onChange={(e) => void change(i, { kind: e.target.value as IceKind })}
            >
              {(Object.keys(ICE_KINDS) as IceKind[]).map((k) => (
                <option key={k} value={k}>
                  {ICE_KINDS[k].label}
                </option>
              ))}
            </select>
            <span className="mr-auto">
              <NumberField
                label={`${s.name} holds`}
                value={s.massG}
                low={1}
                high={2000}
                step={5}
                digits={0}
                isReadOnly={!mayEdit}
                isSettling
                onChange={(massG) => void change(i, { massG })}
              />{' '}
              g
            </span>
            {mayEdit && (
              <>
                <button
                  type="button"
                  className="act act-quiet text-sm max-sm:min-h-11"
                  aria-label={`Weigh ${s.name}`}
                  onClick={() => {
                    if (readingG <= 0) toast('Put a struck scoop of ice on the scale, or open the devices (d).')
                    else void change(i, { massG: readingG })
                  }}
                >
                  {readingG > 0 ? `${readingG} g: take it` : 'from the scale'}
                </button>
                <button
                  type="button"
                  className="px-1 text-soft"
                  aria-label={`Without ${s.name}`}
                  onClick={() => void put({ scoops: scoops.filter((_, n) => n !== i) })}
                >
                  ×
                </button>
              </>
            )}
          </li>
        ))}
      </ul>
      {mayEdit && scoops.length < 12 && (
        <button
          type="button"
          className="act act-quiet mt-1"
          onClick={() =>
            void put({ scoops: [...scoops, { name: `scoop ${scoops.length + 1}`, kind: 'crushed', massG: 100 }] })
          }
        >
          Add a scoop
        </button>
      )}
    </section>
  )
}
