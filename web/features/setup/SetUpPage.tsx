import { type ImportProgress, personSchema } from '@conch/contract'
import { DEFAULT_CLOCK } from '@conch/core/calendar'
import { OUNCES_ML } from '@conch/core/measure'
import { useQueryClient } from '@tanstack/react-query'
import type { ChangeEvent } from 'react'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { useSending } from '../../app/useSending.ts'
import { setWho } from '../../app/who.ts'
import { countText } from '../../graphics/format.ts'
import { Field } from '../../ui/Field.tsx'
import { HOURS, hourText, ZONES, zoneHere } from '../house/index.ts'
import { PassphraseField, passphraseSchema } from './passphrase.tsx'
import { useImport } from './useImport.ts'

/** What is asked for on the page, as the request has it. */
const houseForm = z.object({
  name: z.string().trim().min(1, 'Give the house a name.'),
  manager: z.string().trim(),
  secret: passphraseSchema,
  ounceMl: z.number(),
  standardDrinkG: z.number(),
  wells: z.string(),
  timeZone: z.string(),
  dayTurnsAtHour: z.number(),
})
const setUpAnswer = z.object({ you: personSchema })
const STANDARD_DRINKS_G = [8, 10, 12, 14]

/** The first visit: what the house is called, what its ounce holds, where its wells are. */
export function SetUpPage() {
  const queryClient = useQueryClient()
  const incoming = useImport()

  const form = useSending(
    houseForm,
    {
      name: '',
      manager: '',
      secret: '',
      ounceMl: OUNCES_ML.round,
      standardDrinkG: 10,
      wells: 'Front bar',
      timeZone: zoneHere(),
      dayTurnsAtHour: DEFAULT_CLOCK.dayTurnsAtHour,
    },
    async ({ timeZone, dayTurnsAtHour, manager, wells, ...asked }) => {
      const names = wells
        .split(/[,\n]/)
        .map((w) => w.trim())
        .filter(Boolean)
      const clock = { timeZone, dayTurnsAtHour }
      const request = { ...asked, wells: names, clock, manager: manager || 'Manager' }
      const { you } = await api.post('/api/house', setUpAnswer, request)
      setWho(you)
      await queryClient.resetQueries()
    },
  )
  const bringIn = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0]
    event.target.value = ''
    // Next somebody chooses a passphrase: the people came along, their PINs did not.
    if (file && (await incoming.bring(file))) await queryClient.resetQueries()
  }
  return (
    <div className="mx-auto max-w-xl px-4 py-10">
      <h1 className="text-4xl">Lazy Conch</h1>
      <p className="mt-2 mb-6 text-lg">Keeps a bar’s drinks the same. A few things first; all can be changed later.</p>
      <form onSubmit={form.submit}>
        <Field label="What is the house called?" error={form.errorOf('name')}>
          {(props) => <input {...props} maxLength={120} {...form.register('name')} />}
        </Field>
        <Field
          label="Who are you?"
          error={form.errorOf('manager')}
          hint="The first manager; what you write stands under this name."
        >
          {(props) => <input {...props} maxLength={120} placeholder="Manager" {...form.register('manager')} />}
        </Field>
        <PassphraseField error={form.errorOf('secret')} register={form.register('secret')} />
        <Field
          label="Its ounce"
          error={form.errorOf('ounceMl')}
          hint="Specs written in ounces are poured by this; what was written stays beside."
        >
          {(props) => (
            <select {...props} {...form.register('ounceMl', { valueAsNumber: true })}>
              <option value={OUNCES_ML.round}>30 ml, for round figures</option>
              <option value={OUNCES_ML.us}>29.5735 ml, exactly the US ounce</option>
              <option value={OUNCES_ML.imperial}>28.4131 ml, the imperial ounce</option>
            </select>
          )}
        </Field>
        <Field
          label="Alcohol in a standard drink"
          error={form.errorOf('standardDrinkG')}
          hint="It differs from country to country."
        >
          {(props) => (
            <select {...props} {...form.register('standardDrinkG', { valueAsNumber: true })}>
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
          error={form.errorOf('wells')}
          hint="A bar position with its own ice, glasses and machines. Several: with commas between."
        >
          {(props) => <input {...props} {...form.register('wells')} />}
        </Field>
        <Field label="Its time" error={form.errorOf('timeZone')} hint="The same on every device, wherever it stands.">
          {(props) => (
            <select {...props} {...form.register('timeZone')}>
              {[...new Set([zoneHere(), ...ZONES])].map((zone) => (
                <option key={zone}>{zone}</option>
              ))}
            </select>
          )}
        </Field>
        <Field
          label="The bar’s day turns at"
          error={form.errorOf('dayTurnsAtHour')}
          hint="What is made at one in the morning belongs to the night before."
        >
          {(props) => (
            <select {...props} {...form.register('dayTurnsAtHour', { valueAsNumber: true })}>
              {HOURS.map((hour) => (
                <option key={hour} value={hour}>
                  {hourText(hour)}
                </option>
              ))}
            </select>
          )}
        </Field>
        {form.problem && (
          <p role="alert" className="mb-3 border-l-4 border-stop pl-3 text-stop">
            {form.problem}
          </p>
        )}
        <button type="submit" className="act act-main" disabled={form.isBusy}>
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
