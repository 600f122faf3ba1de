import { INGREDIENT_KINDS, type Ingredient, type IngredientKind, isWeighed, nameApart } from '@conch/core/house'
import type { Slot } from '@conch/core/style'
import type { ReactNode } from 'react'
import { FindOne, type Found } from '../ui/FindOne.tsx'

interface IngredientPickerProps {
  ingredients: readonly Ingredient[]
  /** Where a line may name a slot: what it must be, instead of which bottle. */
  slots?: readonly Slot[]
  onPickSlot?: (slug: string) => void
  /** A recipe may take what is weighed; a drink only what is poured. */
  canWeigh?: boolean
  onPick: (slug: string) => void
  children: ReactNode
}

const SLOT = 'slot '

/** Chooses something of the house by a few letters of any name it ever had. */
export function IngredientPicker({
  ingredients,
  slots = [],
  onPickSlot,
  canWeigh = false,
  onPick,
  children,
}: IngredientPickerProps) {
  const bottle = (ingredient: Ingredient): Found => ({
    id: ingredient.slug,
    name: nameApart(ingredient, ingredients),
    words: `${ingredient.formerNames.join(' ')} ${ingredient.note ?? ''}`,
    note: ingredient.figures.abvPct.value > 0 ? `${Number(ingredient.figures.abvPct.value.toFixed(1))} %` : '',
  })
  const groups = (Object.keys(INGREDIENT_KINDS) as IngredientKind[]).map((kind) => ({
    heading: INGREDIENT_KINDS[kind],
    things: ingredients.filter((i) => i.kind === kind && (canWeigh || !isWeighed(i.kind))).map(bottle),
  }))
  const inSlots = (onPickSlot ? slots : []).map(
    (s): Found => ({ id: SLOT + s.slug, name: s.name, note: `${s.abvPct.low} to ${s.abvPct.high} %`, isItalic: true }),
  )
  return (
    <FindOne
      label="Find an ingredient"
      placeholder="rum, lime, syrup …"
      nothing="Nothing of that name. Put it on the back bar first."
      groups={[{ heading: 'slots', things: inSlots }, ...groups]}
      onPick={(id) => (id.startsWith(SLOT) ? onPickSlot?.(id.slice(SLOT.length)) : onPick(id))}
    >
      {children}
    </FindOne>
  )
}
