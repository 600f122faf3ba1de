import { dayText } from '@conch/core/calendar'
import { bySlug, type Ingredient, nameIn } from '@conch/core/house'
import { useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { IngredientPicker } from '../../shelf/IngredientPicker.tsx'
import { NearWords } from '../../shelf/NearWords.tsx'
import { ReasonDialog } from '../../ui/ReasonDialog.tsx'
import { useNearness } from './useNearness.ts'
import type { SlotDraft } from './useSlotDraft.ts'

/** What looks right and is not, with the reason. */
export function Refused({ draft, mayEdit }: { draft: SlotDraft; mayEdit: boolean }) {
  const { book, today } = useHouse()
  const who = useWho()
  const { slot, change } = draft
  const [asked, setAsked] = useState<Ingredient>()
  const nearness = useNearness(slot)
  const taken = new Set([...slot.candidates, ...slot.refused].map((c) => c.ingredient))
  const isFree = (i: Ingredient) => i.figures.abvPct.value > 0 && !taken.has(i.slug)
  if (!mayEdit && slot.refused.length === 0) return null
  return (
    <section aria-label="Refused" className="mt-4">
      <h2 className="border-b border-ink text-lg">Must not fill it</h2>
      <ul>
        {slot.refused.map((r) => {
          const name = nameIn(book.ingredients, r.ingredient)
          const near = nearness(r.ingredient)
          return (
            <li
              key={r.ingredient}
              className="flex items-baseline gap-3 border-b border-hair/60 py-1"
              data-refused={r.ingredient}
            >
              <span className="min-w-0 flex-1">
                <span className="text-stop">✕</span> {name}: {r.reason}{' '}
                <span className="text-sm text-soft">
                  ({r.by}, {dayText(r.on)})
                </span>
                {near && (
                  <span className="block text-sm text-soft">
                    <NearWords distance={near} />
                  </span>
                )}
              </span>
              {mayEdit && (
                <button
                  type="button"
                  className="act act-quiet text-sm text-soft"
                  onClick={() => change({ refused: slot.refused.filter((x) => x !== r) })}
                >
                  take it back
                </button>
              )}
            </li>
          )
        })}
      </ul>
      {mayEdit && (
        <IngredientPicker isFree={isFree} onPick={(slug) => setAsked(bySlug(book.ingredients, slug))}>
          <button type="button" className="act act-quiet mt-1 text-soft">
            Refuse a bottle …
          </button>
        </IngredientPicker>
      )}
      {asked && (
        <ReasonDialog
          title={`${asked.name} must not fill it?`}
          lead="The look-alikes are what people reach for at eleven at night. The reason is kept with your name."
          main="Refuse it"
          onClose={() => setAsked(undefined)}
          onReason={(reason) => {
            change({ refused: [...slot.refused, { ingredient: asked.slug, reason, by: who.name, on: today }] })
            setAsked(undefined)
          }}
        />
      )}
    </section>
  )
}
