import { editionSummarySchema } from '@conch/contract'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import { z } from 'zod'
import { ApiError, api } from '../../app/api.ts'
import { DRINKS_KEY, editionsQuery, menuQuery } from '../../app/queries.ts'
import { useSending } from '../../app/useSending.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'
import type { PlanDraft } from './usePlanDraft.ts'

const editionForm = z.object({
  name: z.string().trim().min(1, 'Give the edition a name, like the season.'),
  note: z.string(),
})
const aheadSchema = z.object({ drinks: z.number() })

/** The last step: a name, and everything is frozen. */
export function PublishDialog({
  isOpen,
  onClose,
  control,
  count,
}: {
  isOpen: boolean
  onClose: () => void
  control: PlanDraft
  count: number
}) {
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  // What it freezes is computed while one thinks of a name; what keeps it from being published is said before that.
  const ahead = useQuery({
    queryKey: ['lock ahead'],
    queryFn: async () => {
      await control.flush()
      return api.get('/api/menu/next/lock', aheadSchema)
    },
    enabled: isOpen,
    staleTime: 0,
    gcTime: 0,
    retry: false,
  })
  const form = useSending(editionForm, { name: '', note: '' }, async ({ name, note }) => {
    const planRevision = await control.flush()
    if (planRevision === undefined) throw new Error('The plan could not be saved; see beside its name.')
    const edition = await api.post('/api/editions', editionSummarySchema, { name, note, planRevision })
    await queryClient.invalidateQueries({ queryKey: editionsQuery.queryKey, exact: true })
    await queryClient.invalidateQueries({ queryKey: menuQuery.queryKey })
    await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
    toast(`“${edition.name}” is published.`)
    navigate('/')
  })
  const aheadProblem = ahead.error instanceof ApiError && !ahead.error.isAway ? ahead.error.message : undefined
  return (
    <Dialog
      isOpen={isOpen}
      onClose={onClose}
      title="Publish the edition"
      lead={`${count} drinks are frozen with every version, bottle and figure, at every well, for ever.`}
    >
      <form onSubmit={form.submit}>
        <Field label="Name" error={form.errorOf('name') ?? form.problem ?? aheadProblem}>
          {(props) => <input {...props} maxLength={120} placeholder="This winter" {...form.register('name')} />}
        </Field>
        <Field label="Note" error={form.errorOf('note')}>
          {(props) => <textarea {...props} rows={2} maxLength={2000} {...form.register('note')} />}
        </Field>
        <DialogButtons close="Not yet" onClose={onClose} main="Publish" isBusy={form.isBusy} />
      </form>
    </Dialog>
  )
}
