import { INGREDIENT_KINDS, type Ingredient, isWeighed, nameApart } from '@conch/core/house'
import type { Slot } from '@conch/core/palate'
import { keysOf } from '@conch/core/schema/keysOf'
import { hasAllWords } from '@conch/core/text'
import { type ReactNode, useMemo, useState } from 'react'
import { useHouse } from '../app/house.tsx'
import { useKnow, useShelf } from '../app/shelf.ts'
import { FindOne, type Found } from '../ui/FindOne.tsx'
import { useSettled } from '../ui/useSettled.ts'

interface IngredientPickerProps {
  /** What may be chosen; left out: everything. */
  isFree?: (ingredient: Ingredient) => boolean
  /** Where a line may name a slot: what it must be, instead of which bottle. */
  slots?: readonly Slot[]
  onPickSlot?: (slug: string) => void
  /** A recipe may take what is weighed; a drink only what is poured. */
  canWeigh?: boolean
  onPick: (slug: string) => void
  children: ReactNode
}

const SLOT = 'slot '
const TYPING_MS = 120

/** Chooses something of the house by a few letters of any name it ever had. */
export function IngredientPicker({
  isFree = () => true,
  slots = [],
  onPickSlot,
  canWeigh = false,
  onPick,
  children,
}: IngredientPickerProps) {
  const { book } = useHouse()
  const know = useKnow()
  const [typed, setTyped] = useState('')
  const [isOpen, setOpen] = useState(false)
  const words = useSettled(typed.trim(), TYPING_MS)
  const asked = useMemo(
    () => (!isOpen ? undefined : words === '' ? { shown: 'all' as const } : { words }),
    [isOpen, words],
  )
  const found = useShelf(asked)
  const bySlug = useMemo(() => new Map(book.ingredients.map((i) => [i.slug, i])), [book])
  const picked = found.picked.flatMap((slug) => bySlug.get(slug) ?? [])
  const free = picked.filter((i) => isFree(i) && (canWeigh || !isWeighed(i.kind)))
  const bottle = (ingredient: Ingredient): Found => ({
    id: ingredient.slug,
    name: nameApart(ingredient, book.ingredients),
    note: ingredient.figures.abvPct.value > 0 ? `${Number(ingredient.figures.abvPct.value.toFixed(1))} %` : '',
  })
  // What the words lead to stands in the order in which it was found, best first.
  const groups =
    words === ''
      ? keysOf(INGREDIENT_KINDS).map((kind) => ({
          heading: INGREDIENT_KINDS[kind],
          things: free.filter((i) => i.kind === kind).map(bottle),
        }))
      : [{ heading: found.isNear ? 'nothing of that name; near it' : 'on the shelf', things: free.map(bottle) }]
  const inSlots = (onPickSlot ? slots : [])
    .filter((s) => hasAllWords(s.name, words))
    .map(
      (s): Found => ({
        id: SLOT + s.slug,
        name: s.name,
        note: `${s.abvPct.low} to ${s.abvPct.high} %`,
        isItalic: true,
      }),
    )
  const more = found.total - found.picked.length
  const pick = async (id: string) => {
    if (id.startsWith(SLOT)) return onPickSlot?.(id.slice(SLOT.length))
    await know(id)
    onPick(id)
  }
  return (
    <FindOne
      label="Find an ingredient"
      placeholder="rum, lime, syrup …"
      nothing="Nothing of that name. Put it on the back bar first."
      isLooking={typed.trim() !== words || !found.isReady}
      groups={[{ heading: 'slots', things: inSlots }, ...groups]}
      more={more > 0 ? `${more} more: type a few letters` : undefined}
      onWords={setTyped}
      onOpen={(open) => {
        setOpen(open)
        setTyped('')
      }}
      onPick={(id) => void pick(id)}
    >
      {children}
    </FindOne>
  )
}
