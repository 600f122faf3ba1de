import { editionSummarySchema } from '@conch/contract'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import { z } from 'zod'
import { ApiError, api } from '../../app/api.ts'
import { DRINKS_KEY, editionsQuery, menuQuery } from '../../app/queries.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'
import type { PlanDraft } from './usePlanDraft.ts'

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
  const [name, setName] = useState('')
  const [note, setNote] = useState('')
  const [error, setError] = useState<string>()
  const [isBusy, setBusy] = useState(false)
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
  const problem = error ?? (ahead.error instanceof ApiError && !ahead.error.isAway ? ahead.error.message : undefined)
  const publish = async (event: FormEvent) => {
    event.preventDefault()
    if (name.trim() === '') {
      setError('Give the edition a name, like the season.')
      return
    }
    setBusy(true)
    try {
      const planRevision = await control.flush()
      if (planRevision === undefined) {
        setError('The plan could not be saved; see beside its name.')
        return
      }
      const edition = await api.post('/api/editions', editionSummarySchema, { name, note, planRevision })
      await queryClient.invalidateQueries({ queryKey: editionsQuery.queryKey, exact: true })
      await queryClient.invalidateQueries({ queryKey: menuQuery.queryKey })
      await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
      toast(`“${edition.name}” is published.`)
      navigate('/')
    } catch (e) {
      setError(e instanceof ApiError ? e.message : String(e))
    } finally {
      setBusy(false)
    }
  }
  return (
    <Dialog
      isOpen={isOpen}
      onClose={onClose}
      title="Publish the edition"
      lead={`${count} drinks are frozen with every version, bottle and figure, at every well, for ever.`}
    >
      <form onSubmit={publish}>
        <Field label="Name" error={problem}>
          {(props) => (
            <input
              {...props}
              maxLength={120}
              placeholder="This winter"
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
          )}
        </Field>
        <Field label="Note">
          {(props) => (
            <textarea {...props} rows={2} maxLength={2000} value={note} onChange={(e) => setNote(e.target.value)} />
          )}
        </Field>
        <DialogButtons close="Not yet" onClose={onClose} main="Publish" isBusy={isBusy} />
      </form>
    </Dialog>
  )
}
