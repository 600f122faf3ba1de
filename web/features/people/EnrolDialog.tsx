import { deviceCodeSchema } from '@conch/contract'
import { clockText } from '@conch/core/calendar'
import { useState } from 'react'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { useSending } from '../../app/useSending.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'

const deviceForm = z.object({
  name: z.string().trim().min(1, 'Give it a name: where it stands.'),
  well: z.string(),
})

/** What a device is called and where it stands; then the code that is typed on it. */
export function EnrolDialog({ onClose }: { onClose: () => void }) {
  const { book, clock } = useHouse()
  const [made, setMade] = useState<z.infer<typeof deviceCodeSchema>>()
  const form = useSending(deviceForm, { name: '', well: book.wells[0]?.slug ?? '' }, async ({ name, well }) => {
    setMade(await api.post('/api/device-codes', deviceCodeSchema, { name, well: well === '' ? null : well }))
  })
  if (made)
    return (
      <Dialog
        isOpen
        onClose={onClose}
        title="Type this on the device"
        lead="On its sign-in page: “Make it a device of the house”."
      >
        <p className="my-5 text-center font-display text-5xl tracking-widest" data-device-code>
          {made.code.slice(0, 4)} {made.code.slice(4)}
        </p>
        <p className="mb-4 text-soft">Good once, until {clockText(made.until, clock)}.</p>
        <DialogButtons close="It is typed" onClose={onClose} />
      </Dialog>
    )
  return (
    <Dialog isOpen onClose={onClose} title="Enrol a device">
      <form onSubmit={form.submit}>
        <Field
          label="What is it called?"
          error={form.errorOf('name') ?? form.problem}
          hint="Where it stands: “tablet at the hatch”."
        >
          {(props) => <input {...props} maxLength={120} {...form.register('name')} />}
        </Field>
        <Field label="Its well" error={form.errorOf('well')}>
          {(props) => (
            <select {...props} {...form.register('well')}>
              {book.wells.map((w) => (
                <option key={w.slug} value={w.slug}>
                  {w.name}
                </option>
              ))}
              <option value="">none in particular</option>
            </select>
          )}
        </Field>
        <DialogButtons close="Not now" onClose={onClose} main="Make a code" isBusy={form.isBusy} />
      </form>
    </Dialog>
  )
}
