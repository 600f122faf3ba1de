import { changedSchema, mayDo } from '@conch/contract'
import { INGREDIENT_KINDS, type Ingredient, PLACES, toSlug } from '@conch/core/house'
import { isSame } from '@conch/core/lineage'
import { keysOf } from '@conch/core/schema/keysOf'
import { useQueryClient } from '@tanstack/react-query'
import { toast } from 'sonner'
import { z } from 'zod'
import { api } from '../app/api.ts'
import { useHouse } from '../app/house.tsx'
import { nameForNew } from '../app/nameForNew.ts'
import { refreshHouse } from '../app/queries.ts'
import { useSending } from '../app/useSending.ts'
import { useWho } from '../app/who.ts'
import { BeforeSaving } from '../foresight/index.ts'
import { Dialog } from '../ui/Dialog.tsx'
import { DialogButtons } from '../ui/DialogButtons.tsx'
import { Field } from '../ui/Field.tsx'
import { SelectField } from '../ui/SelectField.tsx'
import { FiguresOfBottle } from './FiguresOfBottle.tsx'
import { FrothAndLook } from './FrothAndLook.tsx'
import { HowItIsBought } from './HowItIsBought.tsx'
import { figuresOfNew, newNamed, saveUnder } from './newThing.ts'
import { TastedBefore } from './TastedBefore.tsx'
import { Contains, WhereItIsFrom } from './WhereItIsFrom.tsx'

/** Only the name is judged here: what the figures come to, the house says. */
const bottleForm = z.object({
  name: nameForNew(),
  figures: z.custom<Ingredient['figures']>(),
  densityGPerMl: z.custom<Ingredient['densityGPerMl']>().optional(),
  rest: z.custom<Omit<Ingredient, 'name' | 'figures' | 'densityGPerMl'>>(),
})
/** What has its address already may be called anything. */
const savedForm = bottleForm.extend({ name: z.string().trim().min(1, 'Give it a name.') })
type Typed = z.output<typeof bottleForm>

const asTyped = ({ name, figures, densityGPerMl, ...rest }: Ingredient): Typed => ({
  name,
  figures,
  densityGPerMl,
  rest,
})
const asBottle = ({ name, figures, densityGPerMl, rest }: Typed): Ingredient => ({
  ...rest,
  name,
  figures,
  ...(densityGPerMl ? { densityGPerMl } : {}),
})

interface IngredientDialogProps {
  /** Undefined: something new. */
  ingredient: Ingredient | undefined
  startName?: string
  onClose: () => void
  onSaved?: (slug: string) => void
}

/** One thing of the back bar: its figures, and how each is known. */
export function IngredientDialog({ ingredient, startName = '', onClose, onSaved }: IngredientDialogProps) {
  const { house } = useHouse()
  const who = useWho()
  const queryClient = useQueryClient()
  const start = asTyped(ingredient ?? newNamed(startName))
  const form = useSending(ingredient ? savedForm : bottleForm, start, async (typed) => {
    const bottle = asBottle(typed)
    // A renamed bottle is still found by what it was called.
    const before = ingredient && ingredient.name !== bottle.name ? [ingredient.name] : []
    const document = { ...bottle, formerNames: [...new Set([...bottle.formerNames, ...before])] }
    const revision = house.revisions.ingredients[ingredient?.slug ?? ''] ?? 0
    // It is known here before anybody is told of it: what pours it can be computed then.
    const slug = await saveUnder(ingredient?.slug ?? toSlug(bottle.name), ingredient === undefined, (slug) =>
      api.put(`/api/ingredients/${slug}`, changedSchema, { document: { ...document, slug }, revision }),
    ).finally(() => refreshHouse(queryClient))
    toast(`${bottle.name} is saved. Published editions keep the figures they had.`)
    onSaved?.(slug)
    onClose()
  })
  const draft = asBottle(form.watch())
  const mayEdit = mayDo(who.role, 'editHouse')
  const set = (change: Partial<Ingredient>) => {
    const next = asTyped({ ...asBottle(form.getValues()), ...change })
    for (const key of keysOf(next)) form.setValue(key, next[key])
  }
  return (
    <Dialog isOpen onClose={onClose} title={ingredient?.name ?? 'New on the shelf'} width={640}>
      <form onSubmit={form.submit}>
        <fieldset disabled={!mayEdit} className="min-w-0">
          <div className="grid gap-x-4 sm:grid-cols-3">
            <div className="sm:col-span-3">
              <Field
                label="Name"
                error={form.errorOf('name')}
                hint={
                  ingredient && ingredient.name !== draft.name
                    ? `It will still be found as ${ingredient.name}.`
                    : undefined
                }
              >
                {(props) => <input {...props} maxLength={120} {...form.register('name')} />}
              </Field>
            </div>
            <SelectField
              label="What it is"
              options={INGREDIENT_KINDS}
              value={draft.kind}
              onChange={(kind) => set({ kind, ...(ingredient ? {} : { figures: figuresOfNew(kind) }) })}
            />
            <SelectField
              label="Where it is kept"
              options={PLACES}
              value={draft.storedIn}
              onChange={(storedIn) => set({ storedIn })}
            />
          </div>
          <FiguresOfBottle {...{ draft, mayEdit, set }} />
          <HowItIsBought {...{ draft, mayEdit, set }} />
          <FrothAndLook {...{ draft, mayEdit, set }} />
          {form.errorOf('densityGPerMl') && (
            <p role="alert" className="mb-2 text-stop">
              {form.errorOf('densityGPerMl')}
            </p>
          )}
          <WhereItIsFrom {...{ draft, mayEdit, set }} />
          {ingredient && ingredient.figures.abvPct.value > 0 && (
            <TastedBefore ingredient={ingredient} onLeave={onClose} />
          )}
          {form.errorOf('figures') && (
            <p role="alert" className="mb-2 text-stop">
              {form.errorOf('figures')}
            </p>
          )}
          <Contains {...{ draft, mayEdit, set }} />
          <Field label="Earlier names" hint="With commas between: a renamed bottle is found by any of them.">
            {(props) => (
              <input
                {...props}
                value={draft.formerNames.join(', ')}
                onChange={(e) => set({ formerNames: e.target.value.split(',').map((w) => w.trimStart()) })}
                onBlur={() => set({ formerNames: draft.formerNames.map((w) => w.trim()).filter(Boolean) })}
              />
            )}
          </Field>
          <Field label="What to know">
            {(props) => (
              <input
                {...props}
                maxLength={500}
                value={draft.note ?? ''}
                onChange={(e) => set({ note: e.target.value || undefined })}
              />
            )}
          </Field>
        </fieldset>
        <BeforeSaving
          change={
            ingredient && mayEdit && !isSame(draft, asBottle(start))
              ? { kind: 'ingredients', document: draft }
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
