import { nameApart } from '@conch/core/house'
import type { Slot } from '@conch/core/palate'
import { DEFAULT_LIMIT_STEPS } from '@conch/core/standin'
import { useHouse } from '../../app/house.tsx'
import { NearWords } from '../../shelf/NearWords.tsx'
import { useNearness } from './useNearness.ts'

const MOST_OTHERS = 4

/** Bottles of the shelf that come near, and that nobody has put in or refused. */
export function Others({ slot, mayEdit, onAdd }: { slot: Slot; mayEdit: boolean; onAdd: (slug: string) => void }) {
  const { book } = useHouse()
  const nearness = useNearness(slot)
  if (Object.keys(slot.target).length === 0) return null
  const known = new Set([...slot.candidates, ...slot.refused].map((c) => c.ingredient))
  const near = book.ingredients
    .flatMap((i) => {
      const distance = known.has(i.slug) ? undefined : nearness(i.slug)
      return distance && distance.steps <= DEFAULT_LIMIT_STEPS ? [{ i, distance }] : []
    })
    .sort((a, b) => a.distance.steps - b.distance.steps)
    .slice(0, MOST_OTHERS)
  if (near.length === 0) return null
  return (
    <section aria-label="Also near" className="mt-3 border-t border-hair pt-2 text-sm">
      <p className="text-soft">nearest of the others</p>
      <ul>
        {near.map(({ i, distance }) => (
          <li key={i.slug} className="flex items-baseline gap-2">
            <span className="min-w-0 flex-1">
              {nameApart(i, book.ingredients)}: <NearWords distance={distance} />
            </span>
            {mayEdit && (
              <button
                type="button"
                className="act act-quiet text-sm text-soft"
                aria-label={`Add ${nameApart(i, book.ingredients)}`}
                onClick={() => onAdd(i.slug)}
              >
                add
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}
