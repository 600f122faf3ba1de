import { changedSchema, mayDo } from '@conch/contract'
import { dayText } from '@conch/core/calendar'
import {
  ALLERGENS,
  type Allergen,
  currencyOf,
  type Figure,
  INGREDIENT_KINDS,
  type Ingredient,
  isWeighed,
  PLACES,
  SAFETY_DEFERRAL,
  STOCK_STATES,
  toSlug,
} from '@conch/core/house'
import { type ReadFigure, readGrams, readPrice, readSize, readStrength, readSugar } from '@conch/core/reading'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { Link } from 'react-router'
import { toast } from 'sonner'
import { ApiError, api } from '../app/api.ts'
import { useHouse } from '../app/house.tsx'
import { refreshHouse } from '../app/queries.ts'
import { flightsQuery } from '../app/shelf.ts'
import { useWho } from '../app/who.ts'
import { StyleLines } from '../graphics/StyleLines.tsx'
import { Dialog } from '../ui/Dialog.tsx'
import { DialogButtons } from '../ui/DialogButtons.tsx'
import { Field } from '../ui/Field.tsx'
import { ReadField } from '../ui/ReadField.tsx'
import { SelectField } from '../ui/SelectField.tsx'
import { FrothAndLook } from './FrothAndLook.tsx'
import { figuresOfNew, newNamed, saveUnder } from './newThing.ts'

const FIGURES = [
  { key: 'abvPct', label: 'Strength', unit: '% ABV, or as 80 proof', read: readStrength },
  { key: 'sugarGPer100Ml', label: 'Sugar', unit: 'g in 100, or as 65 °Bx, 620 g/l', read: readSugar },
  { key: 'acidGPer100Ml', label: 'Acid', unit: 'g in 100, as citric', read: (t: string) => readGrams(t, 100) },
  { key: 'fatGPer100Ml', label: 'Fat', unit: 'g in 100', read: (t: string) => readGrams(t, 100) },
  { key: 'otherGPer100Ml', label: 'Other solids', unit: 'g in 100', read: (t: string) => readGrams(t, 100) },
] as const

const readDays = (text: string): ReadFigure =>
  /^\d{1,4}$/.test(text.trim()) ? { ok: true, value: Number(text) } : { ok: false, reason: 'a whole number of days' }
const readDensity = (text: string): ReadFigure => {
  const value = Number(text.replace(',', '.'))
  return value >= 0.7 && value <= 1.6 ? { ok: true, value } : { ok: false, reason: '0.7 to 1.6 g/ml' }
}

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
  const { house, today } = useHouse()
  const who = useWho()
  const queryClient = useQueryClient()
  const [draft, setDraft] = useState<Ingredient>(() => ingredient ?? newNamed(startName))
  const [errors, setErrors] = useState<Record<string, string>>({})
  const mayEdit = mayDo(who.role, 'editHouse')
  const set = (change: Partial<Ingredient>) => setDraft({ ...draft, ...change })
  const setFigure = (key: (typeof FIGURES)[number]['key'], change: Partial<Figure>) => {
    const before: Figure = draft.figures[key] ?? { value: 0, basis: 'label' }
    // Who types a figure knows it.
    const basis = change.value !== undefined && before.basis === 'unknown' ? { basis: 'label' as const } : {}
    set({ figures: { ...draft.figures, [key]: { ...before, ...basis, ...change } } })
  }
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
          <table className="mb-3 w-full max-sm:block">
            <tbody className="max-sm:block">
              {FIGURES.map(({ key, label, unit, read }) => {
                const figure = draft.figures[key]
                return (
                  <tr
                    key={key}
                    className="border-b border-hair/60 max-sm:flex max-sm:flex-wrap max-sm:items-baseline max-sm:gap-x-2"
                  >
                    <th scope="row" className="py-1 text-left text-sm font-semibold max-sm:w-24">
                      {label}
                    </th>
                    <td className="sm:whitespace-nowrap">
                      <ReadField
                        label={label}
                        value={figure?.value ?? 0}
                        read={read}
                        isReadOnly={!mayEdit}
                        onChange={(value) => setFigure(key, { value: value ?? 0, on: today, by: who.name })}
                      />{' '}
                      <span className="text-sm text-soft">{unit}</span>
                    </td>
                    <td>
                      <select
                        className="inplace"
                        aria-label={`How ${label.toLowerCase()} is known`}
                        value={figure?.basis ?? 'label'}
                        onChange={(e) =>
                          setFigure(key, {
                            basis: e.target.value as Figure['basis'],
                            ...(e.target.value === 'unknown' ? { value: 0 } : {}),
                            on: today,
                            by: who.name,
                          })
                        }
                      >
                        <option value="measured">measured</option>
                        <option value="label">from the label</option>
                        <option value="assumed">assumed</option>
                        <option value="unknown">not known</option>
                      </select>
                    </td>
                    <td className="caption">
                      {[figure?.on && dayText(figure.on), figure?.by].filter(Boolean).join(', ')}
                    </td>
                  </tr>
                )
              })}
            </tbody>
          </table>
          <div className="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-1">
            <span>
              <span className="text-soft">density</span>{' '}
              <ReadField
                label="Density"
                isOptional
                className="w-16"
                value={draft.densityGPerMl?.value}
                read={readDensity}
                isReadOnly={!mayEdit}
                onChange={(value) =>
                  set({
                    densityGPerMl:
                      value === undefined ? undefined : { value, basis: 'measured', on: today, by: who.name },
                  })
                }
              />{' '}
              g/ml
            </span>
            <span>
              <span className="text-soft">bought in</span>{' '}
              <ReadField
                label="Size"
                isOptional
                className="w-16"
                value={draft.size}
                read={readSize}
                isReadOnly={!mayEdit}
                onChange={(size) => set({ size })}
              />{' '}
              {isWeighed(draft.kind) ? 'g' : 'ml'} <span className="text-soft">for</span>{' '}
              <ReadField
                label="Price"
                isOptional
                className="w-16"
                value={draft.price}
                read={readPrice}
                isReadOnly={!mayEdit}
                onChange={(price) => set({ price })}
              />{' '}
              {currencyOf(house.settings)}
            </span>
            <span>
              <span className="text-soft">keeps</span>{' '}
              <ReadField
                label="Days it keeps"
                isOptional
                className="w-12"
                value={draft.keepsDays}
                read={readDays}
                isReadOnly={!mayEdit}
                onChange={(keepsDays) => set({ keepsDays })}
              />{' '}
              days
            </span>
            <select
              aria-label="Stock"
              className="inplace"
              value={draft.stock ?? ''}
              onChange={(e) => set({ stock: (e.target.value || undefined) as Ingredient['stock'] })}
            >
              <option value="">stock not counted</option>
              {Object.entries(STOCK_STATES).map(([key, label]) => (
                <option key={key} value={key}>
                  {label}
                </option>
              ))}
            </select>
            {(draft.kind === 'garnish' || draft.kind === 'produce') && (
              <label className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  checked={draft.isFoodGrade ?? true}
                  onChange={(e) => set({ isFoodGrade: e.target.checked })}
                />
                food grade
              </label>
            )}
          </div>
          <FrothAndLook {...{ draft, mayEdit, set }} />
          {errors.densityGPerMl && (
            <p role="alert" className="mb-2 text-stop">
              {errors.densityGPerMl}
            </p>
          )}
          <div className="grid gap-x-4 sm:grid-cols-2">
            <Field label="Style">
              {(props) => (
                <input
                  {...props}
                  maxLength={80}
                  placeholder="aged pot still"
                  value={draft.style ?? ''}
                  onChange={(e) => set({ style: e.target.value || undefined })}
                />
              )}
            </Field>
            <Field label="Colour">
              {(props) => (
                <input
                  {...props}
                  maxLength={40}
                  placeholder="amber"
                  value={draft.colour ?? ''}
                  onChange={(e) => set({ colour: e.target.value || undefined })}
                />
              )}
            </Field>
          </div>
          <div className="grid gap-x-4 sm:grid-cols-2">
            <Field label="Made from">
              {(props) => (
                <input
                  {...props}
                  maxLength={80}
                  placeholder="molasses"
                  value={draft.base ?? ''}
                  onChange={(e) => set({ base: e.target.value || undefined })}
                />
              )}
            </Field>
            <Field label="Origin">
              {(props) => (
                <input
                  {...props}
                  maxLength={80}
                  placeholder="the delta"
                  value={draft.origin ?? ''}
                  onChange={(e) => set({ origin: e.target.value || undefined })}
                />
              )}
            </Field>
          </div>
          {ingredient && ingredient.figures.abvPct.value > 0 && <Tasted ingredient={ingredient} onLeave={onClose} />}
          {errors.figures && (
            <p role="alert" className="mb-2 text-stop">
              {errors.figures}
            </p>
          )}
          <div className="mb-3">
            <p className="text-sm font-semibold">Contains</p>
            <div className="flex flex-wrap gap-x-4">
              {ALLERGENS.map((a: Allergen) => (
                <label key={a} className="flex min-h-8 items-center gap-1.5 max-sm:min-h-11">
                  <input
                    type="checkbox"
                    checked={draft.allergens.includes(a)}
                    onChange={(e) =>
                      set({
                        allergens: e.target.checked ? [...draft.allergens, a] : draft.allergens.filter((x) => x !== a),
                      })
                    }
                  />
                  {a}
                </label>
              ))}
            </div>
            <p className="caption">{SAFETY_DEFERRAL}</p>
          </div>
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

/** Flights that are named one by one. */
const MOST_FLIGHTS = 5

/** Where the house's tasters put it, who they were, and the way to the glass. */
function Tasted({ ingredient, onLeave }: { ingredient: Ingredient; onLeave: () => void }) {
  const { book } = useHouse()
  const flights = useQuery(flightsQuery(ingredient.slug)).data
  const profile = book.profiles?.[ingredient.slug]
  const shown = flights?.flights.slice(0, MOST_FLIGHTS) ?? []
  const more = (flights?.total ?? 0) - shown.length
  const words = [...shown.map((f) => `${f.by}, ${dayText(f.on)}`), ...(more > 0 ? [`and ${more} times before`] : [])]
  return (
    <section aria-label="What it tastes like" className="mb-3 border-t border-hair pt-2">
      {profile && <StyleLines series={[{ label: ingredient.name, profile }]} />}
      <p className="mt-1 flex flex-wrap items-baseline gap-x-3 text-sm text-soft">
        <span>{words.length > 0 ? `tasted by ${words.join('; ')}` : 'nobody has tasted it side by side yet'}</span>
        <Link className="underline" to={`/flight?with=${ingredient.slug}`} onClick={onLeave}>
          taste it beside another
        </Link>
      </p>
    </section>
  )
}
