import { type ImportProgress, personSchema } from '@conch/contract'
import { DEFAULT_CLOCK } from '@conch/core/calendar'
import { OUNCES_ML } from '@conch/core/measure'
import { useQueryClient } from '@tanstack/react-query'
import { type ChangeEvent, type FormEvent, useState } from 'react'
import { z } from 'zod'
import { ApiError, api } from '../../app/api.ts'
import { setWho } from '../../app/who.ts'
import { countText } from '../../graphics/format.ts'
import { Field } from '../../ui/Field.tsx'
import { HOURS, hourText, ZONES, zoneHere } from '../house/index.ts'
import { useImport } from './useImport.ts'

/** What is asked for on the page: an error of one of these is shown beside it. */
const FIELDS = ['name', 'ounceMl', 'standardDrinkG', 'wells', 'clock', 'manager']
const setUpAnswer = z.object({ you: personSchema })
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
  const [manager, setManager] = useState('')
  const incoming = useImport()

  const attempt = async (work: () => Promise<unknown>) => {
    setBusy(true)
    setErrors({})
    try {
      await work()
      await queryClient.resetQueries()
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
    return attempt(async () => {
      const clock = { timeZone, dayTurnsAtHour }
      const request = { name, ounceMl, standardDrinkG, wells: names, clock, manager: manager.trim() || 'Manager' }
      const { you } = await api.post('/api/house', setUpAnswer, request)
      setWho(you)
    })
  }
  const bringIn = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0]
    event.target.value = ''
    // Who works here is asked next: the people came along.
    if (file && (await incoming.bring(file))) await queryClient.resetQueries()
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
          label="Who are you?"
          error={errors.manager}
          hint="The first manager; what you write stands under this name."
        >
          {(props) => (
            <input
              {...props}
              maxLength={120}
              placeholder="Manager"
              value={manager}
              onChange={(e) => setManager(e.target.value)}
            />
          )}
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
      <section className="mt-8 border-t border-hair pt-4 text-soft" aria-label="A house from a copy">
        {incoming.progress === undefined ? (
          <p>
            Coming from another machine, or back from a back-up?{' '}
            <label className="cursor-pointer underline">
              Bring in a copy of the house
              <input type="file" accept=".ndjson,.gz,.json" className="sr-only" onChange={bringIn} />
            </label>
            , with its whole history.
          </p>
        ) : (
          <div role="status">
            <p>{progressWords(incoming.progress)}</p>
            {incoming.progress !== 'sending' && (
              <p className="mt-1 flex items-center gap-3">
                <progress
                  className="w-60"
                  max={Math.max(1, incoming.progress.of)}
                  value={incoming.progress.done}
                  aria-label="How much has come in"
                />
                <button type="button" className="act" onClick={incoming.cancel}>
                  Stop
                </button>
              </p>
            )}
          </div>
        )}
        {incoming.error && (
          <p role="alert" className="mt-2 border-l-4 border-stop pl-3 text-stop">
            Nothing came in: {incoming.error}
          </p>
        )}
      </section>
    </div>
  )
}

function progressWords(progress: ImportProgress | 'sending'): string {
  if (progress === 'sending') return 'The copy is being sent …'
  if (progress.of === 0) return 'The copy is being read …'
  if (progress.done >= progress.of) return 'Everything is there; its history is being checked …'
  return `${countText(progress.done)} of ${countText(progress.of)} lines have come in`
}
