import { changedSchema, mayDo } from '@conch/contract'
import { INGREDIENT_KINDS, type Ingredient, PLACES, toSlug } from '@conch/core/house'
import { useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { toast } from 'sonner'
import { ApiError, api } from '../app/api.ts'
import { useHouse } from '../app/house.tsx'
import { refreshHouse } from '../app/queries.ts'
import { useWho } from '../app/who.ts'
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

/** One thing of the back bar: its figures, and how each is known. */
export function IngredientDialog({
  ingredient,
  startName = '',
  onClose,
  onSaved,
}: {
  /** Undefined: something new. */
  ingredient: Ingredient | undefined
  startName?: string
  onClose: () => void
  onSaved?: (slug: string) => void
}) {
  const { house } = useHouse()
  const who = useWho()
  const queryClient = useQueryClient()
  const [draft, setDraft] = useState<Ingredient>(() => ingredient ?? newNamed(startName))
  const [errors, setErrors] = useState<Record<string, string>>({})
  const mayEdit = mayDo(who.role, 'editHouse')
  const set = (change: Partial<Ingredient>) => setDraft({ ...draft, ...change })
  const save = async (event: FormEvent) => {
    event.preventDefault()
    const first = ingredient?.slug ?? toSlug(draft.name)
    if (first === '') {
      setErrors({ name: 'Give it a name.' })
      return
    }
    // A renamed bottle is still found by what it was called.
    const renamed =
      ingredient && ingredient.name !== draft.name ? [...draft.formerNames, ingredient.name] : draft.formerNames
    const document = { ...draft, formerNames: [...new Set(renamed)] }
    try {
      const revision = house.revisions.ingredients[ingredient?.slug ?? ''] ?? 0
      const slug = await saveUnder(first, ingredient === undefined, (slug) =>
        api.put(`/api/ingredients/${slug}`, changedSchema, { document: { ...document, slug }, revision }),
      )
      await refreshHouse(queryClient)
      toast(`${draft.name} is saved. Published editions keep the figures they had.`)
      onSaved?.(slug)
      onClose()
    } catch (error) {
      const fields = error instanceof ApiError ? (error.problem?.fields ?? []) : []
      setErrors({
        all: error instanceof Error ? error.message : String(error),
        ...Object.fromEntries(fields.map((f) => [f.field.replace(/^document\./, ''), f.message])),
      })
      await refreshHouse(queryClient)
    }
  }
  return (
    <Dialog isOpen onClose={onClose} title={ingredient?.name ?? 'New on the shelf'} width={640}>
      <form onSubmit={save}>
        <fieldset disabled={!mayEdit} className="min-w-0">
          <div className="grid gap-x-4 sm:grid-cols-3">
            <div className="sm:col-span-3">
              <Field
                label="Name"
                error={errors.name}
                hint={
                  ingredient && ingredient.name !== draft.name
                    ? `It will still be found as ${ingredient.name}.`
                    : undefined
                }
              >
                {(props) => (
                  <input
                    {...props}
                    maxLength={120}
                    value={draft.name}
                    onChange={(e) => set({ name: e.target.value })}
                  />
                )}
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
          {errors.densityGPerMl && (
            <p role="alert" className="mb-2 text-stop">
              {errors.densityGPerMl}
            </p>
          )}
          <WhereItIsFrom {...{ draft, mayEdit, set }} />
          {ingredient && ingredient.figures.abvPct.value > 0 && (
            <TastedBefore ingredient={ingredient} onLeave={onClose} />
          )}
          {errors.figures && (
            <p role="alert" className="mb-2 text-stop">
              {errors.figures}
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
        {errors.all && (
          <p role="alert" className="mb-3 border-l-4 border-stop pl-3 text-stop">
            {errors.all}
          </p>
        )}
        <DialogButtons close="Close" onClose={onClose} main={mayEdit ? 'Save' : undefined} />
      </form>
    </Dialog>
  )
}
