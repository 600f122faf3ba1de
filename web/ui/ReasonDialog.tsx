import { type FormEvent, type ReactNode, useState } from 'react'
import { Dialog } from './Dialog.tsx'
import { DialogButtons } from './DialogButtons.tsx'
import { Field } from './Field.tsx'

interface ReasonDialogProps {
  title: string
  lead: ReactNode
  /** What doing it is called. */
  main: string
  onClose: () => void
  onReason: (reason: string) => void
}

/** Asks why, in a few words, before something that is kept with a name. */
export function ReasonDialog({ title, lead, main, onClose, onReason }: ReasonDialogProps) {
  const [reason, setReason] = useState('')
  const [error, setError] = useState<string>()
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (reason.trim().length < 3) setError('Say in a few words why.')
    else onReason(reason.trim())
  }
  return (
    <Dialog isOpen onClose={onClose} title={title} lead={lead}>
      <form onSubmit={submit}>
        <Field label="Why" error={error}>
          {(props) => <input {...props} maxLength={300} value={reason} onChange={(e) => setReason(e.target.value)} />}
        </Field>
        <DialogButtons close="Not yet" onClose={onClose} main={main} />
      </form>
    </Dialog>
  )
}
