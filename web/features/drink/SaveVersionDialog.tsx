import { type Drink, type Version, versionSchema } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import { namesIn } from '@conch/core/house'
import { differences as differencesOf } from '@conch/core/lineage'
import { formOf } from '@conch/core/schema'
import { useQueryClient } from '@tanstack/react-query'
import { toast } from 'sonner'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { DRINKS_KEY, drinkQuery } from '../../app/queries.ts'
import { useSending } from '../../app/useSending.ts'
import type { DraftState } from '../../drafts/draftState.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'
import { changePlan, planWith } from '../next/index.ts'
import type { DrinkDraft } from './useDrinkDraft.ts'

const versionForm = z.object({
  reason: z.string().trim().min(3, 'Say in a few words why: the next one will ask.'),
  label: z.string().trim(),
  isForMenu: z.boolean(),
})

interface SaveVersionDialogProps {
  isOpen: boolean
  onClose: () => void
  drink: Drink
  base: Version | undefined
  draft: DraftState<DrinkDocument>
  control: DrinkDraft
  onSaved: (version: Version) => void
}

/** A version is for ever: what it changes, and why. */
export function SaveVersionDialog({ isOpen, onClose, drink, base, draft, control, onSaved }: SaveVersionDialogProps) {
  const { book } = useHouse()
  const queryClient = useQueryClient()
  const number = Math.max(0, ...drink.versions.map((v) => v.number)) + 1
  const nameOf = namesIn(book)
  const differences = base ? differencesOf('drink', base.document, draft.document, nameOf) : []

  const form = useSending(versionForm, { reason: '', label: '', isForMenu: true }, async (values) => {
    const { reason, label, isForMenu } = values
    const draftRevision = await control.flush()
    if (draftRevision === undefined) throw new Error('The draft could not be saved; see beside its name.')
    const version = await api.post(`/api/drinks/${drink.slug}/versions`, formOf(versionSchema), {
      draftRevision,
      reason,
      label,
    })
    control.end({ document: draft.document, baseVersion: version.number })
    queryClient.setQueryData(
      drinkQuery(drink.slug).queryKey,
      (old) => old && { ...old, draft: null, versions: [...old.versions, version] },
    )
    form.reset({ reason: '', label: '', isForMenu })
    onSaved(version)
    if (isForMenu) await putOnMenu(version)
    await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
  })
  const putOnMenu = async (version: Version) => {
    await changePlan(queryClient, (plan) => planWith(plan, drink.slug, version.number))
    toast(`Version ${version.number} is saved and planned for the next edition.`)
  }

  return (
    <Dialog
      isOpen={isOpen}
      onClose={onClose}
      title={`Save version ${number} of ${draft.document.name}`}
      lead="A version never changes once it is saved."
    >
      <form onSubmit={form.submit}>
        {base && (
          <div className="mb-4 border-l-2 border-hair pl-3 text-sm">
            {differences.length === 0 ? (
              <p>It says the same as version {base.number}.</p>
            ) : (
              <ul>
                {differences.map((d) => (
                  <li key={d.id}>
                    <b>{d.subject}</b>: {d.before ?? 'not there'} → {d.after ?? 'left out'}
                  </li>
                ))}
              </ul>
            )}
          </div>
        )}
        <Field label="Why" error={form.errorOf('reason') ?? form.problem} hint="Kept beside the version for ever.">
          {(props) => <textarea {...props} rows={2} maxLength={1000} {...form.register('reason')} />}
        </Field>
        <Field label="Label, if it has one" error={form.errorOf('label')} hint="house, riff: pineapple, winter …">
          {(props) => <input {...props} maxLength={80} {...form.register('label')} />}
        </Field>
        <label className="mb-4 flex min-h-9 items-center gap-2">
          <input type="checkbox" {...form.register('isForMenu')} />
          Put it on the next menu
        </label>
        <DialogButtons close="Not yet" onClose={onClose} main={`Save version ${number}`} isBusy={form.isBusy} />
      </form>
    </Dialog>
  )
}
