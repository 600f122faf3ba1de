import { amountSize, type Mix, PART_SIZE, type RecipeComponent, type RecipeMeasure } from '@conch/core/formula'
import { bySlug, type Ingredient, isWeighed, nameIn } from '@conch/core/house'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { mlText } from '../../graphics/format.ts'
import { placeOf } from '../../shelf/placeOf.ts'
import { About } from '../../ui/About.tsx'
import { useMovable } from '../../ui/Moving.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import { ReadField } from '../../ui/ReadField.tsx'
import { RowButtons } from '../../ui/RowButtons.tsx'
import { readComponentAmount } from './readComponent.ts'

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

interface ComponentRowProps {
  by: RecipeMeasure
  component: RecipeComponent
  mix: Mix | undefined
  /** What it comes to, as it computes. */
  part: Part | undefined
  mustStay: boolean
  onChange?: ((change: Partial<RecipeComponent>) => void) | undefined
  onLeaveOut: () => void
}

/** One line of a recipe: how much of what, what that weighs and pours, and how much of it stays in. */
export function ComponentRow({ by, component: c, mix, part, mustStay, onChange, onLeaveOut }: ComponentRowProps) {
  const { house } = useHouse()
  const isReadOnly = !onChange
  const { ref, style, handle } = useMovable(c.ingredient, isReadOnly)
  const ingredient = bySlug(house.ingredients, c.ingredient)
  const name = nameIn(house.ingredients, c.ingredient)
  const isParts = amountSize(by) === PART_SIZE
  return (
    <tr ref={ref} style={style} className="h-9 border-b border-hair/60 text-right" data-component={c.ingredient}>
      <td className="text-[1.05rem] whitespace-nowrap">
        <ReadField
          label={`Amount of ${name}`}
          className="w-20"
          value={c.amount}
          read={(text) =>
            readComponentAmount(text, by, {
              kit: house.settings.kit,
              gPerMl: gPerMlOf(ingredient, part),
            })
          }
          step={isParts ? 0.5 : 10}
          isReadOnly={isReadOnly}
          onChange={(amount) => amount !== undefined && onChange?.({ amount })}
        />{' '}
        <span className="text-sm text-soft">{UNITS[by]}</span>
      </td>
      <td className="pl-4 text-left">
        {ingredient?.recipe || ingredient?.closed ? (
          <Link to={placeOf(ingredient)} className="underline decoration-hair underline-offset-4">
            {name}
          </Link>
        ) : (
          <span className={ingredient ? '' : 'text-stop'}>{name}</span>
        )}
        {mix?.assumed.includes(name) && <About what="one of its figures is assumed" />}
      </td>
      <td className="px-2 text-sm text-soft">{part && gText(part.massG)}</td>
      <td className="px-2 text-sm text-soft max-sm:hidden">{part && ingredient && volumeText(ingredient, part)}</td>
      <td className="px-2 text-sm max-sm:hidden">
        <NumberField
          label={`How much of ${name} stays in`}
          value={100 * (c.staysFraction ?? 1)}
          low={0}
          high={100}
          step={5}
          digits={1}
          isReadOnly={isReadOnly}
          onChange={(pct) => onChange?.({ staysFraction: pct === 100 ? undefined : pct / 100 })}
        />
      </td>
      <td className="text-soft">{!isReadOnly && <RowButtons {...{ name, handle, mustStay, onLeaveOut }} />}</td>
    </tr>
  )
}
