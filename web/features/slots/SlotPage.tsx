import { mayDo } from '@conch/contract'
import { drinksWith } from '@conch/core/formula'
import { bySlug, type Ingredient, toSlug } from '@conch/core/house'
import { DEFAULT_LIMIT_STEPS, distanceTo, SPIRIT_WEIGHTS, standInBottles, targetOf } from '@conch/core/standin'
import { outsideBand, resolveSlot, type Slot, STYLE_AXIS_NAMES } from '@conch/core/style'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { useCommands } from '../../app/commands.tsx'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { shortDateText } from '../../graphics/format.ts'
import { StyleLines } from '../../graphics/StyleLines.tsx'
import { IngredientPicker } from '../../shelf/IngredientPicker.tsx'
import { placeOf } from '../../shelf/placeOf.ts'
import { useShownDrinks } from '../../shelf/useShownDrinks.ts'
import { NumberField } from '../../ui/NumberField.tsx'
import { ReasonDialog } from '../../ui/ReasonDialog.tsx'
import { RowButtons } from '../../ui/RowButtons.tsx'
import { Failure } from '../../ui/States.tsx'
import { NearWords } from '../standIn/NearWords.tsx'
import { AxisLine } from '../tasting/AxisLine.tsx'
import { type SlotDraft, useSlotDraft } from './useSlotDraft.ts'

const NEW: Slot = {
  slug: '',
  name: '',
  target: {},
  abvPct: { low: 38, high: 46 },
  candidates: [],
  pick: '',
  refused: [],
}

export function SlotPage() {
  const { slug = '' } = useParams()
  const { house } = useHouse()
  const saved = slug === 'new' ? NEW : bySlug(house.slots, slug)
  if (!saved) return <Failure error={`There is no slot “${slug}”.`} />
  return <OpenSlot key={slug} saved={saved} isNew={slug === 'new'} />
}

/** What a bottle must be: a place on the lines, a strength, what may fill it in which order, and what may not. */
function OpenSlot({ saved, isNew }: { saved: Slot; isNew: boolean }) {
  const { book, well } = useHouse()
  const who = useWho()
  const navigate = useNavigate()
  const draft = useSlotDraft(saved, isNew)
  const { slot, change, problems } = draft
  const mayEdit = mayDo(who.role, 'editHouse')
  const save = async () => {
    if ((await draft.save()) && isNew) navigate(`/slots/${slot.slug}`)
  }
  useCommands(
    () =>
      draft.isChanged ? [{ id: 'save-slot', label: 'Save the slot', group: 'do', keys: 'mod+s', perform: save }] : [],
    [slot, draft.isChanged],
  )
  const poured = resolveSlot(slot, book, well.slug)
  return (
    <div className="grid gap-x-6 px-4 pt-3 pb-8 lg:grid-cols-[minmax(0,1fr)_25rem]">
      <div className="min-w-0">
        <header className="mb-2 flex flex-wrap items-baseline gap-x-3 gap-y-1">
          <p className="caption w-full">
            <Link className="underline" to="/base">
              Base
            </Link>{' '}
            · slot
          </p>
          <h1 className="min-w-0 flex-1 text-3xl break-words">
            {mayEdit ? (
              <input
                aria-label="Name"
                className="inplace w-full"
                maxLength={120}
                placeholder="Name of the slot"
                value={slot.name}
                onChange={(e) => change({ name: e.target.value, ...(isNew ? { slug: toSlug(e.target.value) } : {}) })}
              />
            ) : (
              slot.name
            )}
          </h1>
          {draft.isChanged && (
            <div className="no-print flex flex-wrap items-center gap-1">
              <span role="status" className="text-sm text-soft">
                not saved: kept on this device
              </span>
              <button type="button" className="act act-quiet" disabled={!draft.canUndo} onClick={draft.undo}>
                Undo
              </button>
              <button type="button" className="act act-quiet" onClick={draft.drop}>
                Drop
              </button>
              <button type="button" className="act act-main" disabled={slot.slug === ''} onClick={save}>
                Save the slot
              </button>
            </div>
          )}
        </header>
        {problems.all && (
          <div role="alert" className="mb-3 border-l-4 border-stop pl-3 text-stop">
            {Object.entries(problems)
              .filter(([field]) => field !== 'all' || Object.keys(problems).length === 1)
              .map(([field, message]) => (
                <p key={field}>{message}</p>
              ))}
          </div>
        )}
        <p className="mb-1 text-lg">
          a strength of{' '}
          <NumberField
            label="Lowest strength"
            value={slot.abvPct.low}
            low={0}
            high={100}
            isReadOnly={!mayEdit}
            onChange={(low) => change({ abvPct: { ...slot.abvPct, low } })}
          />{' '}
          to{' '}
          <NumberField
            label="Highest strength"
            value={slot.abvPct.high}
            low={0}
            high={100}
            isReadOnly={!mayEdit}
            onChange={(high) => change({ abvPct: { ...slot.abvPct, high } })}
          />{' '}
          %
          {slot.abvPct.low > slot.abvPct.high && (
            <span role="alert" className="ml-2 text-sm text-stop">
              the low end is above the high one
            </span>
          )}
        </p>
        {(mayEdit || slot.note) && (
          <p className="mb-3 text-sm text-soft">
            {mayEdit ? (
              <input
                aria-label="Note"
                className="inplace w-full"
                maxLength={500}
                placeholder="what it is for, in a sentence"
                value={slot.note ?? ''}
                onChange={(e) => change({ note: e.target.value || undefined })}
              />
            ) : (
              slot.note
            )}
          </p>
        )}
        <Candidates draft={draft} mayEdit={mayEdit} />
        <Refused draft={draft} mayEdit={mayEdit} />
        <Target draft={draft} mayEdit={mayEdit} />
      </div>
      <aside
        aria-label="What fills it"
        className="border-hair max-lg:mt-4 max-lg:border-t max-lg:pt-3 lg:border-l lg:pl-5"
      >
        {poured ? (
          <p className="mb-2">
            <span className="text-soft">tonight at the {well.name}: </span>
            <b className="font-semibold">{poured.ingredient.name}</b>
            {poured.insteadOf && <span className="block text-mind">▲ {poured.insteadOf.name} is out</span>}
            {poured.isOut && (
              <span className="block text-stop">■ and it is out: nothing that may fill it is in stock</span>
            )}
            {(poured.isOut || poured.insteadOf) && (
              <Link className="block underline" to={`/stand-in?slot=${slot.slug}`}>
                find a stand-in
              </Link>
            )}
          </p>
        ) : (
          <p className="mb-2 text-soft">Nothing fills it yet: add a candidate.</p>
        )}
        <StyleLines
          target={slot.target}
          series={slot.candidates.slice(0, 4).flatMap((c) => {
            const i = bySlug(book.ingredients, c.ingredient)
            return i ? [{ label: i.name, profile: book.profiles?.[c.ingredient] ?? {} }] : []
          })}
        />
        <Others slot={slot} mayEdit={mayEdit} onAdd={(ingredient) => addCandidate(draft, ingredient)} />
        <UsedIn slot={slot} />
      </aside>
    </div>
  )
}

function addCandidate({ slot, change }: SlotDraft, ingredient: string): void {
  change({
    candidates: [...slot.candidates, { ingredient }],
    ...(slot.candidates.length === 0 ? { pick: ingredient } : {}),
  })
}

/** How far one bottle is from the slot, or undefined when it was not placed on all its lines. */
function useNearness(slot: Slot) {
  const { book } = useHouse()
  const target = { ...targetOf({ slot }, book), depth: undefined, pricePerLitre: undefined }
  const all = new Map(
    standInBottles({ slot }, { ...book, ingredients: book.ingredients.map(asStocked) }).map((b) => [b.slug, b]),
  )
  return (slug: string) => {
    const bottle = all.get(slug)
    const isPlaced = bottle && Object.keys(slot.target).every((axis) => axis in bottle.style)
    return isPlaced ? distanceTo(target, [{ bottle, volumeMl: 1 }], SPIRIT_WEIGHTS) : undefined
  }
}

/** Near or far has nothing to do with what is in stock tonight. */
const asStocked = ({ stock: _, ...i }: Ingredient): Ingredient => i

function Candidates({ draft, mayEdit }: { draft: SlotDraft; mayEdit: boolean }) {
  const { book } = useHouse()
  const { slot, change } = draft
  const { candidates } = slot
  const nearness = useNearness(slot)
  const outside = outsideBand(slot, book).map((i) => i.slug)
  const taken = new Set([...candidates, ...slot.refused].map((c) => c.ingredient))
  const free = book.ingredients.filter((i) => i.figures.abvPct.value > 0 && !taken.has(i.slug))
  const move = (index: number, by: number) => {
    const next = candidates.filter((_, i) => i !== index)
    const moved = candidates[index]
    if (!moved || index + by < 0 || index + by >= candidates.length) return
    next.splice(index + by, 0, moved)
    change({ candidates: next })
  }
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
      <ol>
        {candidates.map((c, index) => {
          const i = bySlug(book.ingredients, c.ingredient)
          const name = i?.name ?? c.ingredient
          const near = nearness(c.ingredient)
          return (
            <li
              key={c.ingredient}
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
                {outside.includes(c.ingredient) && (
                  <span className="ml-2 text-sm text-mind">▲ {i?.figures.abvPct.value} %: outside the band</span>
                )}
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
                        candidates: candidates.map((x, n) =>
                          n === index ? { ...x, note: e.target.value || undefined } : x,
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
                  <label
                    key={w.slug}
                    className="flex w-20 items-center justify-center gap-1.5 max-sm:min-h-11 max-sm:w-auto"
                  >
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
                  <RowButtons name={name} onMove={(by) => move(index, by)} onLeaveOut={() => leaveOut(c.ingredient)} />
                </span>
              )}
            </li>
          )
        })}
      </ol>
      {mayEdit && (
        <IngredientPicker ingredients={free} onPick={(slug) => addCandidate(draft, slug)}>
          <button type="button" className="act act-quiet mt-1 text-soft">
            Add a candidate
          </button>
        </IngredientPicker>
      )}
    </section>
  )
}

function Refused({ draft, mayEdit }: { draft: SlotDraft; mayEdit: boolean }) {
  const { book, today } = useHouse()
  const who = useWho()
  const { slot, change } = draft
  const [asked, setAsked] = useState<Ingredient>()
  const nearness = useNearness(slot)
  const taken = new Set([...slot.candidates, ...slot.refused].map((c) => c.ingredient))
  const free = book.ingredients.filter((i) => i.figures.abvPct.value > 0 && !taken.has(i.slug))
  if (!mayEdit && slot.refused.length === 0) return null
  return (
    <section aria-label="Refused" className="mt-4">
      <h2 className="border-b border-ink text-lg">Must not fill it</h2>
      <ul>
        {slot.refused.map((r) => {
          const name = bySlug(book.ingredients, r.ingredient)?.name ?? r.ingredient
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
                  ({r.by}, {shortDateText(r.on)})
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
        <IngredientPicker ingredients={free} onPick={(slug) => setAsked(bySlug(book.ingredients, slug))}>
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

/** What it shall taste like: the target put on the lines, as bottles are. */
function Target({ draft, mayEdit }: { draft: SlotDraft; mayEdit: boolean }) {
  const { book } = useHouse()
  const { slot, change } = draft
  if (!mayEdit) return null
  return (
    <section aria-label="What it shall taste like" className="mt-4">
      <h2 className="mb-1 flex items-baseline gap-3 border-b border-ink text-lg">
        <span className="flex-1">What it shall taste like</span>
        <span className="caption font-text font-normal">tap a line; small: the house pick</span>
      </h2>
      {STYLE_AXIS_NAMES.map((axis) => (
        <div key={axis} className="relative">
          <AxisLine
            axis={axis}
            active={0}
            onActivate={() => {}}
            onPlace={(_, place) => change({ target: { ...slot.target, [axis]: place } })}
            places={[
              { letter: '◆', name: 'wanted', place: slot.target[axis], before: book.profiles?.[slot.pick]?.[axis] },
            ]}
          />
          {slot.target[axis] !== undefined && (
            <button
              type="button"
              className="act act-quiet absolute top-1 right-0 text-sm text-soft"
              onClick={() => {
                const { [axis]: _, ...others } = slot.target
                change({ target: others })
              }}
            >
              does not matter
            </button>
          )}
        </div>
      ))}
    </section>
  )
}

const MOST_OTHERS = 4

/** Bottles of the shelf that come near, and that nobody has put in or refused. */
function Others({ slot, mayEdit, onAdd }: { slot: Slot; mayEdit: boolean; onAdd: (slug: string) => void }) {
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
              {i.name}: <NearWords distance={distance} />
            </span>
            {mayEdit && (
              <button
                type="button"
                className="act act-quiet text-sm text-soft"
                aria-label={`Add ${i.name}`}
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

function UsedIn({ slot }: { slot: Slot }) {
  const shown = useShownDrinks()
  const drinks = shown.filter((d) => d.document.pours.some((p) => p.slot === slot.slug))
  const byBottle = drinksWith(new Set(slot.candidates.map((c) => c.ingredient)), shown).filter(
    ({ drink }) => !drinks.includes(drink),
  )
  return (
    <section aria-label="Where it is used" className="mt-3 border-t border-hair pt-2 text-sm">
      <p>
        <span className="text-soft">named by </span>
        {drinks.length === 0 ? 'no drink yet' : drinks.map((d, i) => <Name key={d.slug} d={d} isFirst={i === 0} />)}
      </p>
      {byBottle.length > 0 && (
        <p>
          <span className="text-soft">its bottles insisted on by </span>
          {byBottle.map(({ drink }, i) => (
            <Name key={drink.slug} d={drink} isFirst={i === 0} />
          ))}
        </p>
      )}
    </section>
  )
}

function Name({ d, isFirst }: { d: { slug: string; name: string }; isFirst: boolean }) {
  return (
    <>
      {!isFirst && ', '}
      <Link className="underline decoration-hair underline-offset-4" to={`/drinks/${d.slug}`}>
        {d.name}
      </Link>
    </>
  )
}
