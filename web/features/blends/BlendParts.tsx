import {
  amountSize,
  type BlendCut,
  FEWEST_IN_A_BLEND,
  isByWeight,
  type Mix,
  PART_SIZE,
  RECIPE_MEASURES,
  type Recipe,
  type RecipeMeasure,
  sharesOf,
  withoutPart,
  writtenBy,
} from '@conch/core/formula'
import { bySlug, nameIn } from '@conch/core/house'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { placeOf } from '../../shelf/placeOf.ts'
import { NumberField } from '../../ui/NumberField.tsx'
import type { MixDraft } from '../mixes/index.ts'

const BY = Object.entries(RECIPE_MEASURES).filter(([key]) => !isByWeight(key as RecipeMeasure)) as [
  RecipeMeasure,
  string,
][]

interface BlendPartsProps {
  draft: MixDraft
  /** The pour shown and its steps. */
  cut: BlendCut
  /** What comes out; undefined while it cannot be computed. */
  fresh: Mix | undefined
  mayEdit: boolean
}

/** The parts of a blend with their shares, and what each weighs in. */
export function BlendParts({ draft, cut, fresh, mayEdit }: BlendPartsProps) {
  const { book } = useHouse()
  const { recipe } = draft
  const { components } = recipe
  const shares = sharesOf(recipe)
  const put = (next: Recipe) => draft.change({ recipe: next })
  return (
    <table className="mt-2 w-full" aria-label="Parts">
      <thead>
        <tr className="caption border-b border-ink text-right">
          <th className="w-36 font-normal max-sm:w-24">
            {mayEdit ? (
              <select
                aria-label="How amounts are written"
                className="inplace"
                value={recipe.by}
                onChange={(e) => put(writtenBy(recipe, e.target.value as RecipeMeasure, cut))}
              >
                {BY.map(([key, label]) => (
                  <option key={key} value={key}>
                    {label}
                  </option>
                ))}
              </select>
            ) : (
              RECIPE_MEASURES[recipe.by]
            )}
          </th>
          <th className="pl-4 text-left font-normal">
            {amountSize(recipe.by) === PART_SIZE && `a part counts as ${PART_SIZE}`}
          </th>
          <th className="px-2 font-normal">share</th>
          <th className="px-2 font-normal max-sm:hidden">strength</th>
          <th className="px-2 font-normal max-sm:hidden">weighs</th>
          <th className="w-10" />
        </tr>
      </thead>
      <tbody>
        {components.map((c, index) => {
          const ingredient = bySlug(book.ingredients, c.ingredient)
          const name = nameIn(book.ingredients, c.ingredient)
          const part = fresh?.parts[index]
          return (
            <tr key={c.ingredient} className="h-9 border-b border-hair/60 text-right" data-component={c.ingredient}>
              <td className="text-[1.05rem]">
                <NumberField
                  label={`Amount of ${name}`}
                  value={c.amount}
                  low={0}
                  high={100_000}
                  step={recipe.by === 'partsByVolume' ? 0.5 : 5}
                  digits={3}
                  isReadOnly={!mayEdit}
                  onChange={(amount) =>
                    draft.changeRecipe({
                      components: components.map((x, i) => (i === index ? { ...x, amount } : x)),
                    })
                  }
                />
              </td>
              <td className="pl-4 text-left">
                {ingredient ? (
                  <Link to={placeOf(ingredient)} className="underline decoration-hair underline-offset-4">
                    {name}
                  </Link>
                ) : (
                  name
                )}
                {ingredient?.stock === 'out' && <span className="ml-2 text-sm text-stop">out</span>}
                {ingredient?.stock === 'discontinued' && <span className="ml-2 text-sm text-stop">no longer made</span>}
              </td>
              <td className="px-2 text-sm whitespace-nowrap">
                {Number((100 * (shares[index]?.share ?? 0)).toFixed(1))} %
              </td>
              <td className="px-2 text-sm text-soft max-sm:hidden">
                {ingredient && `${Number(ingredient.figures.abvPct.value.toFixed(1))} %`}
              </td>
              <td className="px-2 text-sm text-soft max-sm:hidden">{part && `${Math.round(part.massG)} g`}</td>
              <td>
                {mayEdit && (
                  <button
                    type="button"
                    className="no-print min-h-8 px-1.5 text-soft hover:bg-shallow max-sm:min-h-11"
                    aria-label={`Leave ${name} out`}
                    disabled={components.length <= FEWEST_IN_A_BLEND}
                    onClick={() => put(withoutPart(recipe, index, cut))}
                  >
                    ×
                  </button>
                )}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
