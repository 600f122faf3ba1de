import { useQueryClient } from '@tanstack/react-query'
import { toast } from 'sonner'
import { z } from 'zod'
import { useSending } from '../../app/useSending.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'
import { decide } from './decide.ts'

interface DecideDialogProps {
  drink: { slug: string; name: string }
  version: number
  /** What is planned or poured now; undefined: nothing. */
  instead: number | undefined
  /** What was most different, in a sentence, where it is known. */
  changed?: string | undefined
  /** The closed tasting that it rests on. */
  tasting?: number | undefined
  onClose: () => void
}

const form = z.object({ reason: z.string().trim().min(3, 'Say in a few words why: the next one will ask.') })

/** Which version is poured is decided with a reason: how things stood is kept with it. */
export function DecideDialog({ drink, version, instead, changed, tasting, onClose }: DecideDialogProps) {
  const queryClient = useQueryClient()
  const { errorOf, problem, register, submit, isBusy } = useSending(form, { reason: '' }, async ({ reason }) => {
    await decide(queryClient, drink.slug, { version, reason, tasting })
    onClose()
    toast(`Version ${version} of ${drink.name} is planned for the next edition.`)
  })
  return (
    <Dialog
      isOpen
      onClose={onClose}
      title={`Pour version ${version} of ${drink.name}?`}
      lead={
        instead === undefined || instead === version
          ? 'It goes onto the next edition, for every well.'
          : `It goes onto the next edition in place of version ${instead}, for every well.`
      }
    >
      <form onSubmit={submit}>
        {changed && <p className="mb-3 border-l-2 border-hair pl-3 text-sm">{changed}</p>}
        <Field
          label="Why"
          error={errorOf('reason') ?? problem}
          hint="Kept for ever in the story of the drink, with the figures as they stand now."
        >
          {(props) => <textarea {...props} rows={2} maxLength={1000} {...register('reason')} />}
        </Field>
        <DialogButtons close="Not yet" onClose={onClose} main="Decide it" isBusy={isBusy} />
      </form>
    </Dialog>
  )
}
