import { amountSize, type Mix, PART_SIZE, RECIPE_MEASURES, type Recipe, type RecipeMeasure } from '@conch/core/formula'
import { type Ingredient, nameIn } from '@conch/core/house'
import { useHouse } from '../../app/house.tsx'
import { IngredientPicker } from '../../shelf/IngredientPicker.tsx'
import { MovingList } from '../../ui/Moving.tsx'
import { ComponentRow } from './ComponentRow.tsx'
import { HowItIsMade } from './HowItIsMade.tsx'

interface RecipeSheetProps {
  recipe: Recipe
  /** As it computes; undefined when it does not. */
  mix: Mix | undefined
  /** Its own slug: a mix is not made of itself. */
  self: string
  onChange?: ((next: Partial<Recipe>) => void) | undefined
}

/** What goes in, what is done to it, and how long it keeps. */
export function RecipeSheet({ recipe, mix, self, onChange }: RecipeSheetProps) {
  const { house } = useHouse()
  const isReadOnly = !onChange
  const { components } = recipe
  const isParts = amountSize(recipe.by) === PART_SIZE
  const isFree = (i: Ingredient) => i.slug !== self && !components.some((c) => c.ingredient === i.slug)
  return (
    <>
      <MovingList
        list={components}
        idOf={(c) => c.ingredient}
        nameOf={(slug) => nameIn(house.ingredients, slug)}
        onChange={(next) => onChange?.({ components: next })}
      >
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
            {components.map((c, index) => (
              <ComponentRow
                key={c.ingredient}
                by={recipe.by}
                component={c}
                mix={mix}
                part={mix?.parts[index]}
                mustStay={components.length === 1}
                onChange={
                  onChange &&
                  ((change) =>
                    onChange({ components: components.map((x, i) => (i === index ? { ...x, ...change } : x)) }))
                }
                onLeaveOut={() => onChange?.({ components: components.filter((_, i) => i !== index) })}
              />
            ))}
          </tbody>
        </table>
      </MovingList>
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
