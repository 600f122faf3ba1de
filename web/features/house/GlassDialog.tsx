import { changedSchema } from '@conch/contract'
import { type Glass, PLACES, toSlug } from '@conch/core/house'
import { RANGES } from '@conch/core/schema/ranges'
import { brimMlOf, heightMmOf } from '@conch/core/vessel'
import { useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { ApiError, api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { refreshHouse } from '../../app/queries.ts'
import { sectionPath } from '../../graphics/glassGeometry.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import { SelectField } from '../../ui/SelectField.tsx'
import { WallEditor } from './WallEditor.tsx'

const NEW: Glass = {
  slug: '',
  name: '',
  profile: [
    { heightMm: 0, radiusMm: 30 },
    { heightMm: 100, radiusMm: 38 },
  ],
  heatCapacityJPerK: 100,
  storedIn: 'shelf',
  stemMm: 0,
  isOpaque: false,
}

/** A glass by its inner wall, drawn while one measures. */
export function GlassDialog({
  glass,
  mayEdit,
  onClose,
}: {
  glass: Glass | undefined
  mayEdit: boolean
  onClose: () => void
}) {
  const { house } = useHouse()
  const queryClient = useQueryClient()
  const [draft, setDraft] = useState(glass ?? NEW)
  const [problem, setProblem] = useState<string>()
  const [error, setError] = useState<string>()
  const { profile } = draft
  const widest = Math.max(...profile.map((p) => p.radiusMm))
  const save = async (event: FormEvent) => {
    event.preventDefault()
    const slug = glass?.slug ?? toSlug(draft.name)
    if (slug === '') return setError('Give it a name.')
    if (problem) return setError(`The wall ${problem}.`)
    try {
      await api.put(`/api/glasses/${slug}`, changedSchema, {
        document: { ...draft, slug, profile },
        revision: house.revisions.glasses[glass?.slug ?? ''] ?? 0,
      })
      await refreshHouse(queryClient)
      onClose()
    } catch (e) {
      setError(e instanceof ApiError ? e.message : String(e))
    }
  }
  return (
    <Dialog isOpen onClose={onClose} title={glass?.name ?? 'A new glass'}>
      <form onSubmit={save}>
        <fieldset disabled={!mayEdit} className="grid grid-cols-[1fr_auto] gap-x-6">
          <div>
            <Field label="Name">
              {(props) => (
                <input
                  {...props}
                  maxLength={120}
                  value={draft.name}
                  onChange={(e) => setDraft({ ...draft, name: e.target.value })}
                />
              )}
            </Field>
            <WallEditor
              profile={profile}
              onChange={(wall) => {
                setProblem('problem' in wall ? wall.problem : undefined)
                if ('profile' in wall) setDraft((d) => ({ ...d, profile: [...wall.profile] }))
              }}
            />
            {problem && (
              <p role="alert" className="mb-2 text-sm text-stop">
                {problem}
              </p>
            )}
            <SelectField
              label="Where it waits"
              options={PLACES}
              value={draft.storedIn}
              onChange={(storedIn) => setDraft({ ...draft, storedIn })}
            />
            <p className="mb-2">
              <span className="text-soft">stem</span>{' '}
              <NumberField
                label="Stem"
                value={draft.stemMm}
                {...RANGES.stemMm}
                step={5}
                digits={0}
                onChange={(stemMm) => setDraft({ ...draft, stemMm })}
              />{' '}
              mm · <span className="text-soft">shares heat</span>{' '}
              <NumberField
                label="Heat capacity"
                value={draft.heatCapacityJPerK}
                {...RANGES.glassJPerK}
                step={10}
                digits={0}
                onChange={(heatCapacityJPerK) => setDraft({ ...draft, heatCapacityJPerK })}
              />{' '}
              J/K
            </p>
            <label className="mb-3 flex items-center gap-2">
              <input
                type="checkbox"
                checked={draft.isOpaque}
                onChange={(e) => setDraft({ ...draft, isOpaque: e.target.checked })}
              />
              one cannot see through it
            </label>
          </div>
          <figure className="text-center">
            <svg
              width={150}
              height={190}
              viewBox={`${-widest - 3} -3 ${2 * widest + 6} ${heightMmOf(profile) + 6}`}
              aria-hidden="true"
            >
              <path
                d={sectionPath(profile, 0, heightMmOf(profile))}
                fill="var(--shoal)"
                stroke="var(--ink)"
                strokeWidth={1}
              />
            </svg>
            <figcaption className="caption">{Math.round(brimMlOf(profile))} ml to the brim</figcaption>
          </figure>
        </fieldset>
        {error && (
          <p role="alert" className="mb-3 border-l-4 border-stop pl-3 text-stop">
            {error}
          </p>
        )}
        <DialogButtons close="Close" onClose={onClose} main={mayEdit ? 'Save' : undefined} />
      </form>
    </Dialog>
  )
}
