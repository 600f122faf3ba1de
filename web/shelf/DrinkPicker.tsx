import type { DrinkListing } from '@conch/contract'
import { useQuery } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'
import { drinkPageQuery } from '../app/queries.ts'
import { FindOne } from '../ui/FindOne.tsx'
import { useSettled } from '../ui/useSettled.ts'

/** So many at a glance; more letters lead further. */
const MOST_FOUND = 30
const TYPING_MS = 120

interface DrinkPickerProps {
  label: string
  /** Those that are not offered, by slug. */
  without?: ReadonlySet<string>
  onPick: (drink: DrinkListing) => void
  children: ReactNode
}

/** Chooses one of the house's drinks by a few letters, a slip of the finger allowed. */
export function DrinkPicker({ label, without, onPick, children }: DrinkPickerProps) {
  const [typed, setTyped] = useState('')
  const [isOpen, setOpen] = useState(false)
  const words = useSettled(typed.trim(), TYPING_MS)
  const query = useQuery({ ...drinkPageQuery({ words, made: 'yes', limit: MOST_FOUND }), enabled: isOpen })
  const found = query.data
  const rows = (found?.rows ?? []).filter((d) => !without?.has(d.slug))
  const more = (found?.total ?? 0) - (found?.rows.length ?? 0)
  const heading = found?.isNear
    ? 'nothing of that name; near it'
    : more > 0
      ? `the first of ${found?.total}: type for more`
      : 'drinks'
  return (
    <FindOne
      label={label}
      placeholder="a drink …"
      nothing="No drink is called that."
      groups={[{ heading, things: rows.map((d) => ({ id: d.slug, name: d.name, note: `v${d.ownVersion}` })) }]}
      onWords={setTyped}
      onOpen={(open) => {
        setOpen(open)
        setTyped('')
      }}
      isLooking={typed.trim() !== words || query.isPlaceholderData || query.isPending}
      onPick={(slug) => {
        const drink = rows.find((d) => d.slug === slug)
        if (drink) onPick(drink)
      }}
    >
      {children}
    </FindOne>
  )
}
