import { bySlug, type Ingredient, nameIn } from '@conch/core/house'
import { outsideBand } from '@conch/core/palate'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { IngredientPicker } from '../../shelf/IngredientPicker.tsx'
import { NearWords } from '../../shelf/NearWords.tsx'
import { placeOf } from '../../shelf/placeOf.ts'
import { MovingList, useMovable } from '../../ui/Moving.tsx'
import { RowButtons } from '../../ui/RowButtons.tsx'
import { useNearness } from './useNearness.ts'
import type { SlotDraft } from './useSlotDraft.ts'

/** Puts a bottle in last; the first of all is the house pick. */
export function addCandidate({ slot, change }: SlotDraft, ingredient: string): void {
  change({
    candidates: [...slot.candidates, { ingredient }],
    ...(slot.candidates.length === 0 ? { pick: ingredient } : {}),
  })
}

/** What may fill a slot, ranked, with the house pick and each well's own. */
export function Candidates({ draft, mayEdit }: { draft: SlotDraft; mayEdit: boolean }) {
  const { book } = useHouse()
  const { slot, change } = draft
  const { candidates } = slot
  const nearness = useNearness(slot)
  const outside = outsideBand(slot, book).map((i) => i.slug)
  const taken = new Set([...candidates, ...slot.refused].map((c) => c.ingredient))
  const isFree = (i: Ingredient) => i.figures.abvPct.value > 0 && !taken.has(i.slug)
  const leaveOut = (slug: string) => {
    const next = candidates.filter((c) => c.ingredient !== slug)
    const pickByWell = Object.fromEntries(Object.entries(slot.pickByWell ?? {}).filter(([, pick]) => pick !== slug))
    change({ candidates: next, pick: slot.pick === slug ? (next[0]?.ingredient ?? '') : slot.pick, pickByWell })
  }
  return (
    <section aria-label="Candidates">
      <h2 className="flex items-baseline gap-3 border-b border-ink text-lg">
        <span className="flex-1">May fill it, in this order</span>
        {book.wells.map((w) => (
          <span key={w.slug} className="caption w-20 text-center font-text font-normal max-sm:hidden">
            {w.name}
          </span>
        ))}
        {mayEdit && <span className="w-24 max-sm:hidden" />}
      </h2>
      {candidates.length === 0 && <p className="py-1 text-soft">A slot needs a candidate.</p>}
      <MovingList
        list={candidates}
        idOf={(c) => c.ingredient}
        nameOf={(slug) => nameIn(book.ingredients, slug)}
        onChange={(next) => change({ candidates: next })}
      >
        <ol>
          {candidates.map((c) => (
            <CandidateRow
              key={c.ingredient}
              candidate={c}
              draft={draft}
              mayEdit={mayEdit}
              near={nearness(c.ingredient)}
              isOutside={outside.includes(c.ingredient)}
              onLeaveOut={() => leaveOut(c.ingredient)}
            />
          ))}
        </ol>
      </MovingList>
      {mayEdit && (
        <IngredientPicker isFree={isFree} onPick={(slug) => addCandidate(draft, slug)}>
          <button type="button" className="act act-quiet mt-1 text-soft">
            Add a candidate
          </button>
        </IngredientPicker>
      )}
    </section>
  )
}

interface CandidateRowProps {
  candidate: SlotDraft['slot']['candidates'][number]
  draft: SlotDraft
  mayEdit: boolean
  near: ReturnType<ReturnType<typeof useNearness>>
  /** Stronger or weaker than the slot's band. */
  isOutside: boolean
  onLeaveOut: () => void
}

/** One that may fill the slot: how near it is, what to mind with it, and which wells pour it. */
function CandidateRow({ candidate: c, draft, mayEdit, near, isOutside, onLeaveOut }: CandidateRowProps) {
  const { book } = useHouse()
  const { slot, change } = draft
  const { ref, style, handle } = useMovable(c.ingredient, !mayEdit)
  const i = bySlug(book.ingredients, c.ingredient)
  const name = nameIn(book.ingredients, c.ingredient)
  return (
    <li
      ref={ref}
      style={style}
      className="flex items-center gap-3 border-b border-hair/60 py-1 max-sm:flex-wrap"
      data-candidate={c.ingredient}
    >
      <span className="min-w-0 flex-1 max-sm:flex-none max-sm:basis-full">
        {i ? (
          <Link to={placeOf(i)} className="hover:underline">
            {name}
          </Link>
        ) : (
          name
        )}{' '}
        {slot.pick === c.ingredient && <span className="text-sm text-soft">house pick</span>}
        {(i?.stock === 'out' || i?.stock === 'discontinued') && (
          <span className="ml-2 text-sm text-stop">{i.stock}</span>
        )}
        {isOutside && <span className="ml-2 text-sm text-mind">▲ {i?.figures.abvPct.value} %: outside the band</span>}
        <span className="block">
          {near ? (
            <NearWords distance={near} />
          ) : (
            <span className="text-sm text-soft">not placed on all its lines</span>
          )}
        </span>
        {mayEdit ? (
          <input
            aria-label={`Note on ${name}`}
            className="inplace w-full text-sm text-soft"
            maxLength={200}
            placeholder="what to mind with it"
            value={c.note ?? ''}
            onChange={(e) =>
              change({
                candidates: slot.candidates.map((x) =>
                  x.ingredient === c.ingredient ? { ...x, note: e.target.value || undefined } : x,
                ),
              })
            }
          />
        ) : (
          c.note && <span className="block text-sm text-soft">{c.note}</span>
        )}
      </span>
      {book.wells.map((w, n) => {
        const isPick = (slot.pickByWell?.[w.slug] ?? slot.pick) === c.ingredient
        return (
          <label key={w.slug} className="flex w-20 items-center justify-center gap-1.5 max-sm:min-h-11 max-sm:w-auto">
            <input
              type="radio"
              name={`pick ${w.slug}`}
              className="h-5 w-5 accent-ink"
              aria-label={`${name} at the ${w.name}`}
              disabled={!mayEdit}
              checked={isPick}
              onChange={() => {
                // The first well's pick is the house's; another well's is its own only where it differs.
                if (n === 0) return change({ pick: c.ingredient })
                const { [w.slug]: _, ...others } = slot.pickByWell ?? {}
                change({
                  pickByWell: c.ingredient === slot.pick ? others : { ...others, [w.slug]: c.ingredient },
                })
              }}
            />
            <span className="text-sm sm:hidden">{w.name}</span>
          </label>
        )
      })}
      {mayEdit && (
        <span className="w-24 max-sm:ml-auto">
          <RowButtons {...{ name, handle, onLeaveOut }} />
        </span>
      )}
    </li>
  )
}
