import type { ReactNode } from 'react'
import { z } from 'zod'
import { Dialog } from '../ui/Dialog.tsx'
import { DialogButtons } from '../ui/DialogButtons.tsx'
import { Field } from '../ui/Field.tsx'
import { nameForNew } from './nameForNew.ts'
import { useSending } from './useSending.ts'

interface NameDialogProps {
  title: string
  lead?: string
  /** What is said where nothing is written. */
  unnamed?: string
  /** What doing it is called. */
  main?: string
  /** What else is asked. */
  children?: ReactNode
  onClose: () => void
  onName: (name: string) => Promise<unknown>
}

/** Asks what something new is called; all else is asked on its own page. */
export function NameDialog({
  unnamed = 'Give it a name.',
  main = 'Begin',
  children,
  onName,
  ...dialog
}: NameDialogProps) {
  const form = useSending(z.object({ name: nameForNew(unnamed) }), { name: '' }, ({ name }) => onName(name))
  return (
    <Dialog isOpen {...dialog}>
      <form onSubmit={form.submit}>
        <Field label="Name" error={form.errorOf('name') ?? form.problem}>
          {(props) => <input {...props} maxLength={120} {...form.register('name')} />}
        </Field>
        {children}
        <DialogButtons close="Not yet" onClose={dialog.onClose} main={main} isBusy={form.isBusy} />
      </form>
    </Dialog>
  )
}
