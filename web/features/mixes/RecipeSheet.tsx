import { dayText } from '@conch/core/calendar'
import {
  amountSize,
  type Mix,
  PART_SIZE,
  RECIPE_MEASURES,
  type Recipe,
  type RecipeComponent,
  type RecipeMeasure,
} from '@conch/core/formula'
import { bySlug, type Ingredient, isWeighed, nameIn } from '@conch/core/house'
import { useState } from 'react'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { mlText } from '../../graphics/format.ts'
import { IngredientPicker } from '../../shelf/IngredientPicker.tsx'
import { placeOf } from '../../shelf/placeOf.ts'
import { NumberField } from '../../ui/NumberField.tsx'
import { ReadField } from '../../ui/ReadField.tsx'
import { ReasonDialog } from '../../ui/ReasonDialog.tsx'
import { RowButtons } from '../../ui/RowButtons.tsx'
import { readComponentAmount } from './readComponent.ts'

interface RecipeSheetProps {
  recipe: Recipe
  /** As it computes; undefined when it does not. */
  mix: Mix | undefined
  /** Its own slug: a mix is not made of itself. */
  self: string
  onChange?: ((next: Partial<Recipe>) => void) | undefined
}

const UNITS: Record<RecipeMeasure, string> = {
  weight: 'g',
  volume: 'ml',
  partsByWeight: 'parts',
  partsByVolume: 'parts',
  percentByVolume: '%',
}
const gText = (g: number) => `${g < 10 ? g.toFixed(1) : Math.round(g)} g`

type Part = Mix['parts'][number]

/** Of a liquid as it pours, of a dry good as it lies in a cup; undefined where nobody knows. */
function gPerMlOf(ingredient: Ingredient | undefined, part: Part | undefined): number | undefined {
  if (!ingredient) return undefined
  if (isWeighed(ingredient.kind)) return ingredient.bulkGPerMl
  return part && part.volumeMl > 0 ? part.massG / part.volumeMl : undefined
}

/** The same by volume, for a bar without a scale. */
function volumeText(ingredient: Ingredient, part: Part): string {
  if (!isWeighed(ingredient.kind)) return mlText(part.volumeMl)
  return ingredient.bulkGPerMl ? `≈ ${mlText(part.massG / ingredient.bulkGPerMl)} in a cup` : ''
}

/** What goes in, what is done to it, and how long it keeps. */
export function RecipeSheet({ recipe, mix, self, onChange }: RecipeSheetProps) {
  const { house } = useHouse()
  const isReadOnly = !onChange
  const { components } = recipe
  const setComponent = (index: number, change: Partial<RecipeComponent>) =>
    onChange?.({ components: components.map((c, i) => (i === index ? { ...c, ...change } : c)) })
  const move = (index: number, by: number) => {
    const component = components[index]
    if (!component || index + by < 0 || index + by >= components.length) return
    const next = components.filter((_, i) => i !== index)
    next.splice(index + by, 0, component)
    onChange?.({ components: next })
  }
  const isParts = amountSize(recipe.by) === PART_SIZE
  const isFree = (i: Ingredient) => i.slug !== self && !components.some((c) => c.ingredient === i.slug)
  return (
    <>
      <table className="w-full" aria-label="Recipe">
        <thead>
          <tr className="caption border-b border-ink text-right">
            <th className="w-32 font-normal">
              {isReadOnly ? (
                RECIPE_MEASURES[recipe.by]
              ) : (
                <select
                  aria-label="How amounts are written"
                  className="inplace"
                  value={recipe.by}
                  onChange={(e) => onChange({ by: e.target.value as RecipeMeasure })}
                >
                  {Object.entries(RECIPE_MEASURES).map(([key, label]) => (
                    <option key={key} value={key}>
                      {label}
                    </option>
                  ))}
                </select>
              )}
            </th>
            <th className="pl-4 text-left font-normal">{isParts && `a part counts as ${PART_SIZE}`}</th>
            <th className="px-2 font-normal">weighs</th>
            <th className="px-2 font-normal max-sm:hidden">pours</th>
            <th className="px-2 font-normal max-sm:hidden">stays in, %</th>
            <th className="w-24" />
          </tr>
        </thead>
        <tbody>
          {components.map((c, index) => {
            const ingredient = bySlug(house.ingredients, c.ingredient)
            const name = nameIn(house.ingredients, c.ingredient)
            const part = mix?.parts[index]
            return (
              <tr key={c.ingredient} className="h-9 border-b border-hair/60 text-right" data-component={c.ingredient}>
                <td className="text-[1.05rem] whitespace-nowrap">
                  <ReadField
                    label={`Amount of ${name}`}
                    className="w-20"
                    value={c.amount}
                    read={(text) =>
                      readComponentAmount(text, recipe.by, {
                        kit: house.settings.kit,
                        gPerMl: gPerMlOf(ingredient, part),
                      })
                    }
                    step={isParts ? 0.5 : 10}
                    isReadOnly={isReadOnly}
                    onChange={(amount) => amount !== undefined && setComponent(index, { amount })}
                  />{' '}
                  <span className="text-sm text-soft">{UNITS[recipe.by]}</span>
                </td>
                <td className="pl-4 text-left">
                  {ingredient?.recipe || ingredient?.closed ? (
                    <Link to={placeOf(ingredient)} className="underline decoration-hair underline-offset-4">
                      {name}
                    </Link>
                  ) : (
                    <span className={ingredient ? '' : 'text-stop'}>{name}</span>
                  )}
                  {mix?.assumed.includes(name) && (
                    <span className="ml-2 text-sm text-soft" title="one of its figures is assumed">
                      ≈
                    </span>
                  )}
                </td>
                <td className="px-2 text-sm text-soft">{part && gText(part.massG)}</td>
                <td className="px-2 text-sm text-soft max-sm:hidden">
                  {part && ingredient && volumeText(ingredient, part)}
                </td>
                <td className="px-2 text-sm max-sm:hidden">
                  <NumberField
                    label={`How much of ${name} stays in`}
                    value={100 * (c.staysFraction ?? 1)}
                    low={0}
                    high={100}
                    step={5}
                    digits={1}
                    isReadOnly={isReadOnly}
                    onChange={(pct) => setComponent(index, { staysFraction: pct === 100 ? undefined : pct / 100 })}
                  />
                </td>
                <td className="text-soft">
                  {!isReadOnly && (
                    <RowButtons
                      name={name}
                      mustStay={components.length === 1}
                      onMove={(by) => move(index, by)}
                      onLeaveOut={() => onChange({ components: components.filter((_, i) => i !== index) })}
                    />
                  )}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {onChange && (
        <IngredientPicker
          canWeigh
          isFree={isFree}
          onPick={(ingredient) => onChange({ components: [...components, { ingredient, amount: isParts ? 1 : 100 }] })}
        >
          <button type="button" className="act act-quiet mt-1 ml-28 text-soft">
            Add a component
          </button>
        </IngredientPicker>
      )}
      <HowItIsMade recipe={recipe} onChange={onChange} />
    </>
  )
}

/** Steps, boiling down, losses, stirring and days: each a sentence with its numbers where they stand. */
function HowItIsMade({ recipe, onChange }: Pick<RecipeSheetProps, 'recipe' | 'onChange'>) {
  const who = useWho()
  const { today } = useHouse()
  const steps = recipe.steps ?? []
  const isReadOnly = !onChange
  const setStep = (index: number, change: Partial<(typeof steps)[number]>) =>
    onChange?.({ steps: steps.map((s, i) => (i === index ? { ...s, ...change } : s)) })
  return (
    <dl className="mt-4 grid grid-cols-[4.500rem_minmax(0,1fr)] items-baseline gap-x-3 gap-y-2 [&>dt]:text-right [&>dt]:text-sm [&>dt]:text-soft">
      <dt>steps</dt>
      <dd>
        <ol className="list-decimal pl-5">
          {steps.map((s, i) => (
            <li key={i} className="py-0.5">
              {isReadOnly ? (
                <>
                  {s.text}
                  {s.temperatureC !== undefined && `, ${s.temperatureC} °C`}
                  {s.minutes !== undefined && `, ${s.minutes} min`}
                </>
              ) : (
                <span className="flex flex-wrap items-baseline gap-x-2">
                  <input
                    aria-label={`Step ${i + 1}`}
                    className="inplace min-w-0 flex-1"
                    maxLength={300}
                    defaultValue={s.text}
                    onBlur={(e) => e.target.value.trim() && setStep(i, { text: e.target.value })}
                  />
                  <span className="text-sm whitespace-nowrap text-soft">
                    <NumberField
                      label={`Temperature of step ${i + 1}`}
                      value={s.temperatureC}
                      low={-30}
                      high={200}
                      step={5}
                      onChange={(temperatureC) => setStep(i, { temperatureC })}
                    />{' '}
                    °C{' '}
                    <NumberField
                      label={`Minutes of step ${i + 1}`}
                      value={s.minutes}
                      low={0}
                      high={10_080}
                      step={5}
                      onChange={(minutes) => setStep(i, { minutes })}
                    />{' '}
                    min
                  </span>
                  <button
                    type="button"
                    className="px-1.5 text-soft hover:bg-shallow"
                    aria-label={`Leave step ${i + 1} out`}
                    onClick={() => onChange({ steps: steps.filter((_, n) => n !== i) })}
                  >
                    ×
                  </button>
                </span>
              )}
            </li>
          ))}
        </ol>
        {onChange && (
          <button
            type="button"
            className="act act-quiet text-sm text-soft"
            onClick={() => onChange({ steps: [...steps, { text: 'Stir until it is dissolved' }] })}
          >
            + step
          </button>
        )}
      </dd>
      <dt>boil</dt>
      <dd>
        {recipe.reduceToG === undefined ? (
          <span className="text-soft">
            not boiled down
            {onChange && (
              <button type="button" className="act act-quiet ml-2 text-sm" onClick={() => onChange({ reduceToG: 500 })}>
                + to a weight
              </button>
            )}
          </span>
        ) : (
          <>
            down to{' '}
            <NumberField
              label="Boiled down to"
              value={recipe.reduceToG}
              low={1}
              high={200_000}
              step={10}
              isReadOnly={isReadOnly}
              onChange={(reduceToG) => onChange?.({ reduceToG })}
            />{' '}
            g
            {onChange && (
              <button
                type="button"
                className="act act-quiet ml-2 text-sm text-soft"
                onClick={() => onChange({ reduceToG: undefined })}
              >
                not boiled down
              </button>
            )}
          </>
        )}
      </dd>
      <dt>loss</dt>
      <dd>
        <NumberField
          label="Lost in pan and sieve"
          value={100 * (recipe.lossFraction ?? 0)}
          low={0}
          high={90}
          step={1}
          isReadOnly={isReadOnly}
          onChange={(pct) => onChange?.({ lossFraction: pct === 0 ? undefined : pct / 100 })}
        />{' '}
        % <span className="text-soft">stays in pan and sieve</span>
      </dd>
      <dt>stir</dt>
      <dd>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            disabled={isReadOnly}
            checked={recipe.isEmulsion ?? false}
            onChange={(e) => onChange?.({ isEmulsion: e.target.checked || undefined })}
          />
          an emulsion: every spec says to stir it before the pour
        </label>
      </dd>
      <dt>keeps</dt>
      <dd>
        <NumberField
          label="Days it keeps"
          value={recipe.keepsDays}
          low={0}
          high={730}
          step={1}
          digits={0}
          isReadOnly={isReadOnly}
          onChange={(days) => onChange?.({ keepsDays: Math.round(days) })}
        />{' '}
        days <span className="text-soft">by the house; what is fresh in it shortens them</span>
        {recipe.keepsDecision ? (
          <span className="block">
            decided:{' '}
            <NumberField
              label="Days by decision"
              value={recipe.keepsDecision.days}
              low={0}
              high={730}
              digits={0}
              isReadOnly={isReadOnly}
              onChange={(days) =>
                recipe.keepsDecision &&
                onChange?.({ keepsDecision: { ...recipe.keepsDecision, days: Math.round(days) } })
              }
            />{' '}
            days, because{' '}
            {isReadOnly ? (
              recipe.keepsDecision.reason
            ) : (
              <input
                aria-label="Why it keeps longer"
                className="inplace w-64"
                maxLength={300}
                defaultValue={recipe.keepsDecision.reason}
                onBlur={(e) => {
                  const reason = e.target.value.trim()
                  // A decision without a reason is none: the old one stays.
                  if (reason.length < 3) e.target.value = recipe.keepsDecision?.reason ?? ''
                  else if (recipe.keepsDecision) onChange?.({ keepsDecision: { ...recipe.keepsDecision, reason } })
                }}
              />
            )}{' '}
            <span className="caption">
              {recipe.keepsDecision.by}, {dayText(recipe.keepsDecision.on)}
            </span>
            {onChange && (
              <button
                type="button"
                className="act act-quiet text-sm text-soft"
                onClick={() => onChange({ keepsDecision: undefined })}
              >
                take it back
              </button>
            )}
          </span>
        ) : (
          onChange && (
            <DecideKeeps
              onReason={(reason) =>
                onChange({ keepsDecision: { days: (recipe.keepsDays ?? 0) + 1, reason, by: who.name, on: today } })
              }
            />
          )
        )}
      </dd>
    </dl>
  )
}

/** The house's own decision about the days has a reason before it stands. */
function DecideKeeps({ onReason }: { onReason: (reason: string) => void }) {
  const [isAsked, setAsked] = useState(false)
  return (
    <>
      <button type="button" className="act act-quiet block text-sm text-soft" onClick={() => setAsked(true)}>
        + the house decides otherwise
      </button>
      {isAsked && (
        <ReasonDialog
          title="How long it keeps, decided by the house"
          lead="Against what is fresh in it: your name and your reason stand beside it."
          main="Decide"
          onClose={() => setAsked(false)}
          onReason={(reason) => {
            onReason(reason)
            setAsked(false)
          }}
        />
      )}
    </>
  )
}
