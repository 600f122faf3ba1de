import { type Drink, type Version, versionSchema } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import { namesIn } from '@conch/core/house'
import { differences as differencesOf } from '@conch/core/lineage'
import { formOf } from '@conch/core/schema'
import { useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { toast } from 'sonner'
import { ApiError, api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { DRINKS_KEY, drinkQuery } from '../../app/queries.ts'
import type { DraftState } from '../../drafts/draftState.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'
import { changePlan, planWith } from '../next/index.ts'
import type { DrinkDraft } from './useDrinkDraft.ts'

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
  const [reason, setReason] = useState('')
  const [label, setLabel] = useState('')
  const [isForMenu, setForMenu] = useState(true)
  const [error, setError] = useState<string>()
  const [isBusy, setBusy] = useState(false)
  const number = Math.max(0, ...drink.versions.map((v) => v.number)) + 1
  const nameOf = namesIn(book)
  const differences = base ? differencesOf('drink', base.document, draft.document, nameOf) : []

  const save = async (event: FormEvent) => {
    event.preventDefault()
    if (reason.trim().length < 3) {
      setError('Say in a few words why: the next one will ask.')
      return
    }
    setBusy(true)
    setError(undefined)
    try {
      const draftRevision = await control.flush()
      if (draftRevision === undefined) {
        setError('The draft could not be saved; see beside its name.')
        return
      }
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
      setReason('')
      setLabel('')
      onSaved(version)
      if (isForMenu) await putOnMenu(version)
      await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
    } catch (e) {
      setError(e instanceof ApiError ? e.message : String(e))
    } finally {
      setBusy(false)
    }
  }
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
      <form onSubmit={save}>
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
        <Field label="Why" error={error} hint="Kept beside the version for ever.">
          {(props) => (
            <textarea {...props} rows={2} maxLength={1000} value={reason} onChange={(e) => setReason(e.target.value)} />
          )}
        </Field>
        <Field label="Label, if it has one" hint="house, riff: pineapple, winter …">
          {(props) => <input {...props} maxLength={80} value={label} onChange={(e) => setLabel(e.target.value)} />}
        </Field>
        <label className="mb-4 flex min-h-9 items-center gap-2">
          <input type="checkbox" checked={isForMenu} onChange={(e) => setForMenu(e.target.checked)} />
          Put it on the next menu
        </label>
        <DialogButtons close="Not yet" onClose={onClose} main={`Save version ${number}`} isBusy={isBusy} />
      </form>
    </Dialog>
  )
}
