import type { House } from '@conch/contract'
import { DEFAULT_CLOCK } from '@conch/core/calendar'
import { OUNCES_ML } from '@conch/core/measure'
import { useQueryClient } from '@tanstack/react-query'
import { type ChangeEvent, type FormEvent, useState } from 'react'
import { ApiError, api } from '../../app/api.ts'
import { houseQuery } from '../../app/queries.ts'
import { Field } from '../../ui/Field.tsx'
import { HOURS, hourText, ZONES, zoneHere } from '../house/zones.ts'

/** What is asked for on the page: an error of one of these is shown beside it. */
const FIELDS = ['name', 'ounceMl', 'standardDrinkG', 'wells', 'clock']
const STANDARD_DRINKS_G = [8, 10, 12, 14]

/** The first visit: what the house is called, what its ounce holds, where its wells are. */
export function SetUpPage() {
  const queryClient = useQueryClient()
  const [name, setName] = useState('')
  const [ounceMl, setOunceMl] = useState<number>(OUNCES_ML.round)
  const [standardDrinkG, setStandardDrinkG] = useState(10)
  const [wells, setWells] = useState('Front bar')
  const [timeZone, setTimeZone] = useState(zoneHere)
  const [dayTurnsAtHour, setDayTurnsAtHour] = useState(DEFAULT_CLOCK.dayTurnsAtHour)
  const [errors, setErrors] = useState<Record<string, string>>({})
  const [isBusy, setBusy] = useState(false)

  const attempt = async (work: () => Promise<unknown>) => {
    setBusy(true)
    setErrors({})
    try {
      await work()
      await queryClient.invalidateQueries({ queryKey: houseQuery.queryKey })
    } catch (error) {
      const fields = error instanceof ApiError ? error.problem?.fields : undefined
      const byField = Object.fromEntries((fields ?? []).map((f) => [f.field.split('.')[0], f.message]))
      const isShown = FIELDS.some((f) => f in byField)
      setErrors(isShown ? byField : { all: error instanceof Error ? error.message : String(error) })
    } finally {
      setBusy(false)
    }
  }
  const setUp = (event: FormEvent) => {
    event.preventDefault()
    const names = wells
      .split(/[,\n]/)
      .map((w) => w.trim())
      .filter(Boolean)
    return attempt(() =>
      api.post<House>('/api/house', {
        name,
        ounceMl,
        standardDrinkG,
        wells: names,
        clock: { timeZone, dayTurnsAtHour },
      }),
    )
  }
  const bringIn = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0]
    if (!file) return
    await attempt(async () => {
      const houseFile: unknown = await file
        .text()
        .then(JSON.parse)
        .catch(() => {
          throw new Error(`${file.name} is not a house file: it is not JSON`)
        })
      // The server says which of its lines cannot be.
      await api.post('/api/import', houseFile)
    })
  }
  return (
    <div className="mx-auto max-w-xl px-4 py-10">
      <h1 className="text-4xl">Lazy Conch</h1>
      <p className="mt-2 mb-6 text-lg">Keeps a bar’s drinks the same. A few things first; all can be changed later.</p>
      <form onSubmit={setUp}>
        <Field label="What is the house called?" error={errors.name}>
          {(props) => <input {...props} maxLength={120} value={name} onChange={(e) => setName(e.target.value)} />}
        </Field>
        <Field
          label="Its ounce"
          error={errors.ounceMl}
          hint="Specs written in ounces are poured by this; what was written stays beside."
        >
          {(props) => (
            <select {...props} value={ounceMl} onChange={(e) => setOunceMl(Number(e.target.value))}>
              <option value={OUNCES_ML.round}>30 ml, for round figures</option>
              <option value={OUNCES_ML.us}>29.5735 ml, exactly the US ounce</option>
              <option value={OUNCES_ML.imperial}>28.4131 ml, the imperial ounce</option>
            </select>
          )}
        </Field>
        <Field
          label="Alcohol in a standard drink"
          error={errors.standardDrinkG}
          hint="It differs from country to country."
        >
          {(props) => (
            <select {...props} value={standardDrinkG} onChange={(e) => setStandardDrinkG(Number(e.target.value))}>
              {STANDARD_DRINKS_G.map((g) => (
                <option key={g} value={g}>
                  {g} g
                </option>
              ))}
            </select>
          )}
        </Field>
        <Field
          label="Its wells"
          error={errors.wells}
          hint="A bar position with its own ice, glasses and machines. Several: with commas between."
        >
          {(props) => <input {...props} value={wells} onChange={(e) => setWells(e.target.value)} />}
        </Field>
        <Field label="Its time" error={errors.clock} hint="The same on every device, wherever it stands.">
          {(props) => (
            <select {...props} value={timeZone} onChange={(e) => setTimeZone(e.target.value)}>
              {[...new Set([timeZone, ...ZONES])].map((zone) => (
                <option key={zone}>{zone}</option>
              ))}
            </select>
          )}
        </Field>
        <Field label="The bar’s day turns at" hint="What is made at one in the morning belongs to the night before.">
          {(props) => (
            <select {...props} value={dayTurnsAtHour} onChange={(e) => setDayTurnsAtHour(Number(e.target.value))}>
              {HOURS.map((hour) => (
                <option key={hour} value={hour}>
                  {hourText(hour)}
                </option>
              ))}
            </select>
          )}
        </Field>
        {errors.all && (
          <p role="alert" className="mb-3 border-l-4 border-stop pl-3 text-stop">
            {errors.all}
          </p>
        )}
        <button type="submit" className="act act-main" disabled={isBusy}>
          Open the house
        </button>
      </form>
      <p className="mt-8 border-t border-hair pt-4 text-soft">
        Coming from another machine?{' '}
        <label className="cursor-pointer underline">
          Bring in a house file
          <input type="file" accept="application/json,.json" className="sr-only" onChange={bringIn} />
        </label>
        , with its whole history.
      </p>
    </div>
  )
}
