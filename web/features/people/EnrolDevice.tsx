import { deviceSchema } from '@conch/contract'
import { useState } from 'react'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { queryClient, signInQuery } from '../../app/queries.ts'
import { useSending } from '../../app/useSending.ts'
import { setStoredWell } from '../../app/well.ts'
import { Field } from '../../ui/Field.tsx'

const enrolForm = z.object({ code: z.string().trim().min(1, 'Type the code that a manager’s screen shows.') })

/** Makes this a device of the house: its people sign in by their names, and it remembers its well. */
export function EnrolDevice() {
  const [isOpen, setOpen] = useState(false)
  const form = useSending(enrolForm, { code: '' }, async (asked) => {
    const device = await api.post('/api/devices', deviceSchema, asked)
    if (device.well !== null) setStoredWell(device.well)
    await queryClient.invalidateQueries({ queryKey: signInQuery.queryKey })
  })
  if (!isOpen)
    return (
      <div className="text-soft">
        <p>A tablet that stays at the bar? As a device of the house one taps one’s name on it.</p>
        <button type="button" className="min-h-11 underline" onClick={() => setOpen(true)}>
          Make it a device of the house
        </button>
      </div>
    )
  return (
    <form onSubmit={form.submit} className="max-w-md" aria-label="Make it a device of the house">
      <Field
        label="Code"
        error={form.errorOf('code') ?? form.problem}
        hint="A manager makes it under House, People: “Enrol a device”. It is good for ten minutes."
      >
        {(props) => (
          <input
            {...props}
            autoCapitalize="characters"
            autoComplete="off"
            spellCheck={false}
            maxLength={12}
            {...form.register('code')}
          />
        )}
      </Field>
      <div className="flex gap-2">
        <button type="submit" className="act act-main min-h-11" disabled={form.isBusy}>
          Enrol it
        </button>
        <button type="button" className="act min-h-11" onClick={() => setOpen(false)}>
          Not now
        </button>
      </div>
    </form>
  )
}
