import type { ReactNode } from 'react'
import { useForm } from 'react-hook-form'
import { Dialog } from './Dialog.tsx'
import { DialogButtons } from './DialogButtons.tsx'

interface AskFirstProps {
  title: string
  lead: ReactNode
  /** What leaving it as it is is called. */
  close?: string
  /** What doing it is called. */
  main: string
  onClose: () => void
  onYes: () => Promise<unknown>
}

/** Asks once more before something that others notice. */
export function AskFirst({ title, lead, close = 'Not yet', main, onClose, onYes }: AskFirstProps) {
  const { handleSubmit, formState } = useForm()
  return (
    <Dialog isOpen onClose={onClose} title={title} lead={lead}>
      <form onSubmit={handleSubmit(onYes)}>
        <DialogButtons close={close} onClose={onClose} main={main} isBusy={formState.isSubmitting} />
      </form>
    </Dialog>
  )
}
