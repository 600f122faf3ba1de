import { type Drink, type Version, versionSchema } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import { namesIn } from '@conch/core/house'
import { differences as differencesOf, VERSION_KINDS, type VersionKey } from '@conch/core/lineage'
import { formOf } from '@conch/core/schema'
import { keysOf } from '@conch/core/schema/keysOf'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { FormProvider } from 'react-hook-form'
import { toast } from 'sonner'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { DRINKS_KEY, drinkQuery } from '../../app/queries.ts'
import { useSending } from '../../app/useSending.ts'
import type { DraftState } from '../../drafts/draftState.ts'
import { VersionPicker } from '../../shelf/VersionPicker.tsx'
import { WhenFields } from '../../sources/SourceFields.tsx'
import { NO_WHEN, toYears, whenFields } from '../../sources/sourceForm.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'
import { decide } from '../next/index.ts'
import type { DrinkDraft } from './useDrinkDraft.ts'

interface Also {
  key: VersionKey
  words: string
}

const versionForm = z.object({
  reason: z.string().trim().min(3, 'Say in a few words why: the next one will ask.'),
  label: z.string().trim(),
  kind: z.enum(keysOf(VERSION_KINDS)),
  ...whenFields,
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

  const isRiff = drink.riffOf !== null
  const [also, setAlso] = useState<Also[]>([])
  const empty = { reason: '', label: '', kind: isRiff ? ('riff' as const) : ('house' as const), ...NO_WHEN }
  const form = useSending(versionForm, { ...empty, isForMenu: true }, async (values) => {
    const { reason, label, kind, when, isForMenu } = values
    const years = toYears(values)
    const draftRevision = await control.flush()
    if (draftRevision === undefined) throw new Error('The draft could not be saved; see beside its name.')
    const version = await api.post(`/api/drinks/${drink.slug}/versions`, formOf(versionSchema), {
      draftRevision,
      reason,
      label,
      origin: { kind, ...(years ? { years } : {}) },
      era: when,
      parents: also.map((a) => a.key),
    })
    control.end({ document: draft.document, baseVersion: version.number })
    queryClient.setQueryData(
      drinkQuery(drink.slug).queryKey,
      (old) => old && { ...old, draft: null, versions: [...old.versions, version] },
    )
    form.reset({ ...empty, isForMenu })
    setAlso([])
    onSaved(version)
    if (isForMenu) {
      await decide(queryClient, drink.slug, { version: version.number, reason })
      toast(`Version ${version.number} is saved and planned for the next edition.`)
    }
    await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
  })

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
        <div className="grid gap-x-3 sm:grid-cols-[9rem_minmax(0,1fr)]">
          <Field label="What it is" error={form.errorOf('kind')}>
            {(props) => (
              <select
                {...props}
                {...form.register('kind', {
                  // A book's version, or one to try, is not for the next menu unless somebody says so.
                  onChange: (e) => form.setValue('isForMenu', !['historical', 'trial'].includes(e.target.value)),
                })}
              >
                {keysOf(VERSION_KINDS).map((k) => (
                  <option key={k} value={k}>
                    {VERSION_KINDS[k]}
                  </option>
                ))}
              </select>
            )}
          </Field>
          <Field label="Label, if it has one" error={form.errorOf('label')} hint="garden, winter, with pineapple …">
            {(props) => <input {...props} maxLength={80} {...form.register('label')} />}
          </Field>
        </div>
        {['historical', 'adapted'].includes(form.watch('kind')) && (
          <FormProvider {...form.all}>
            <WhenFields />
          </FormProvider>
        )}
        <AlsoFrom drink={drink} base={base} also={also} onChange={setAlso} />
        <label className="mb-4 flex min-h-9 items-center gap-2">
          <input type="checkbox" {...form.register('isForMenu')} />
          Put it on the next menu
        </label>
        <DialogButtons close="Not yet" onClose={onClose} main={`Save version ${number}`} isBusy={form.isBusy} />
      </form>
    </Dialog>
  )
}

/** What went into it besides the version that it was begun from: two drinks merge, or an old version comes back in. */
function AlsoFrom({
  drink,
  base,
  also,
  onChange,
}: {
  drink: Drink
  base: Version | undefined
  also: readonly Also[]
  onChange: (also: Also[]) => void
}) {
  const [isOpen, setOpen] = useState(false)
  const from = base ? [{ drink: drink.slug, version: base.number }] : drink.riffOf ? [drink.riffOf] : []
  const words = [...(base ? [`version ${base.number}`] : []), ...also.map((a) => a.words)]
  return (
    <div className="mb-3 text-sm">
      <p className="flex flex-wrap items-center gap-x-2">
        {words.length > 0 && <span>Made from {words.join(' and ')}.</span>}
        {!isOpen && (
          <button type="button" className="act act-quiet min-h-8 text-sm" onClick={() => setOpen(true)}>
            {words.length > 0 ? 'Something else went in …' : 'It comes from another version …'}
          </button>
        )}
        {also.length > 0 && (
          <button type="button" className="act act-quiet min-h-8 text-sm" onClick={() => onChange([])}>
            Not these
          </button>
        )}
      </p>
      {isOpen && (
        <VersionPicker
          drink={drink}
          without={[...from, ...also.map((a) => a.key)]}
          main="Put it in"
          onPick={(key, said) => {
            onChange([...also, { key, words: said }])
            setOpen(false)
          }}
        />
      )}
    </div>
  )
}
