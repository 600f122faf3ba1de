import type { ReactNode } from 'react'
import { useForm } from 'react-hook-form'
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
  const { register, handleSubmit, formState } = useForm({ defaultValues: { reason: '' } })
  return (
    <Dialog isOpen onClose={onClose} title={title} lead={lead}>
      <form onSubmit={handleSubmit(({ reason }) => onReason(reason.trim()))}>
        <Field label="Why" error={formState.errors.reason?.message}>
          {(props) => (
            <input
              {...props}
              maxLength={300}
              {...register('reason', { validate: (said) => said.trim().length >= 3 || 'Say in a few words why.' })}
            />
          )}
        </Field>
        <DialogButtons close="Not yet" onClose={onClose} main={main} />
      </form>
    </Dialog>
  )
}
