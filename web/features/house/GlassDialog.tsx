import { changedSchema } from '@conch/contract'
import { type Glass, PLACES, toSlug } from '@conch/core/house'
import { isSame } from '@conch/core/lineage'
import { RANGES } from '@conch/core/schema/ranges'
import { brimMlOf, heightMmOf } from '@conch/core/vessel'
import { useQueryClient } from '@tanstack/react-query'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { nameForNew } from '../../app/nameForNew.ts'
import { refreshHouse } from '../../app/queries.ts'
import { useSending } from '../../app/useSending.ts'
import { BeforeSaving } from '../../foresight/index.ts'
import { sectionPath } from '../../graphics/glassGeometry.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import { SelectField } from '../../ui/SelectField.tsx'
import { type Wall, WallEditor } from './WallEditor.tsx'

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

const glassForm = z.object({
  name: nameForNew(),
  wall: z.custom<Wall>().superRefine(({ problem }, refine) => {
    if (problem) refine.addIssue({ code: 'custom', message: problem })
  }),
  rest: z.custom<Omit<Glass, 'slug' | 'name' | 'profile'>>(),
})
/** One that has its address already may be called anything. */
const savedForm = glassForm.extend({ name: z.string().trim().min(1, 'Give it a name.') })

interface GlassDialogProps {
  /** Undefined: a new one. */
  glass: Glass | undefined
  mayEdit: boolean
  onClose: () => void
}

/** A glass by its inner wall, drawn while one measures. */
export function GlassDialog({ glass, mayEdit, onClose }: GlassDialogProps) {
  const { house } = useHouse()
  const queryClient = useQueryClient()
  const { slug: saved, name, profile, ...others } = glass ?? NEW
  const start = { name, wall: { profile }, rest: others }
  const form = useSending(glass ? savedForm : glassForm, start, async ({ name, wall, rest }) => {
    const slug = saved || toSlug(name)
    const document = { ...rest, slug, name, profile: [...wall.profile] }
    await api.put(`/api/glasses/${slug}`, changedSchema, { document, revision: house.revisions.glasses[saved] ?? 0 })
    await refreshHouse(queryClient)
    onClose()
  })
  const { name: called, wall, rest } = form.watch()
  const typed: Glass = { ...rest, slug: saved, name: called, profile: [...wall.profile] }
  const widest = Math.max(...wall.profile.map((p) => p.radiusMm))
  const set = (change: Partial<typeof rest>) => form.setValue('rest', { ...form.getValues('rest'), ...change })
  return (
    <Dialog isOpen onClose={onClose} title={glass?.name ?? 'A new glass'}>
      <form onSubmit={form.submit}>
        <fieldset disabled={!mayEdit} className="grid grid-cols-[1fr_auto] gap-x-6">
          <div>
            <Field label="Name" error={form.errorOf('name')}>
              {(props) => <input {...props} maxLength={120} {...form.register('name')} />}
            </Field>
            <WallEditor profile={wall.profile} onChange={(next) => form.setValue('wall', next)} />
            {wall.problem && (
              <p role="alert" className="mb-2 text-sm text-stop">
                {wall.problem}
              </p>
            )}
            <SelectField
              label="Where it waits"
              options={PLACES}
              value={rest.storedIn}
              onChange={(storedIn) => set({ storedIn })}
            />
            <p className="mb-2">
              <span className="text-soft">stem</span>{' '}
              <NumberField
                label="Stem"
                value={rest.stemMm}
                {...RANGES.stemMm}
                step={5}
                digits={0}
                onChange={(stemMm) => set({ stemMm })}
              />{' '}
              mm · <span className="text-soft">shares heat</span>{' '}
              <NumberField
                label="Heat capacity"
                value={rest.heatCapacityJPerK}
                {...RANGES.glassJPerK}
                step={10}
                digits={0}
                onChange={(heatCapacityJPerK) => set({ heatCapacityJPerK })}
              />{' '}
              J/K
            </p>
            <label className="mb-3 flex items-center gap-2">
              <input type="checkbox" checked={rest.isOpaque} onChange={(e) => set({ isOpaque: e.target.checked })} />
              one cannot see through it
            </label>
          </div>
          <figure className="text-center">
            <svg
              width={150}
              height={190}
              viewBox={`${-widest - 3} -3 ${2 * widest + 6} ${heightMmOf(wall.profile) + 6}`}
              aria-hidden="true"
            >
              <path
                d={sectionPath(wall.profile, 0, heightMmOf(wall.profile))}
                fill="var(--shoal)"
                stroke="var(--ink)"
                strokeWidth={1}
              />
            </svg>
            <figcaption className="caption">{Math.round(brimMlOf(wall.profile))} ml to the brim</figcaption>
          </figure>
        </fieldset>
        <BeforeSaving
          change={
            glass && mayEdit && !wall.problem && !isSame(typed, glass)
              ? { kind: 'glasses', document: typed }
              : undefined
          }
        />
        {form.problem && (
          <p role="alert" className="mb-3 border-l-4 border-stop pl-3 text-stop">
            {form.problem}
          </p>
        )}
        <DialogButtons close="Close" onClose={onClose} main={mayEdit ? 'Save' : undefined} isBusy={form.isBusy} />
      </form>
    </Dialog>
  )
}
