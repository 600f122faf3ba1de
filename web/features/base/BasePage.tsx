import { mayDo } from '@conch/contract'
import { dayText } from '@conch/core/calendar'
import { mixerOfToday, sharesOf } from '@conch/core/formula'
import { currencyOf, type Ingredient, nameApart } from '@conch/core/house'
import { colourWord, resolveSlot } from '@conch/core/palate'
import { depthIn } from '@conch/core/standin'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { flightsQuery, useShelf, useShelfOf } from '../../app/shelf.ts'
import { useWho } from '../../app/who.ts'
import { ClosedMark } from '../../graphics/ClosedMark.tsx'
import { moneyText } from '../../graphics/format.ts'
import { Empty } from '../../ui/States.tsx'
import { NewBlend } from '../blends/index.ts'
import { LotWords } from '../lots/index.ts'

const BLENDS = { shown: 'blend' as const }
const LAST_FLIGHTS = 5

/** What drinks stand on: blends under their code names, slots with what they pour tonight, and the last flights. */
export function BasePage() {
  const { book, house } = useHouse()
  const who = useWho()
  const [isNew, setNew] = useState(false)
  const flights = useQuery(flightsQuery()).data
  const last = flights?.flights.slice(0, LAST_FLIGHTS) ?? []
  const found = useShelf(BLENDS)
  useShelfOf([
    ...house.slots.flatMap((s) => [
      s.pick,
      ...Object.values(s.pickByWell ?? {}),
      ...s.candidates.map((c) => c.ingredient),
    ]),
    ...last.flatMap((f) => f.document.scores.map((s) => s.ingredient)),
  ])
  const blends = book.ingredients.filter((i) => i.kind === 'blend' && found.picked.includes(i.slug))
  return (
    <div className="px-4 pt-4 pb-10">
      <header className="mb-3 flex flex-wrap items-center gap-2">
        <div className="mr-auto">
          <h1 className="text-3xl">Base</h1>
          <p className="caption">
            {found.total} blends · {house.slots.length} slots · {flights?.total ?? 0} flights tasted
          </p>
        </div>
        <Link to="/compare" className="act">
          Compare
        </Link>
        {mayDo(who.role, 'taste') && (
          <Link to="/flight" className="act">
            Taste a flight
          </Link>
        )}
        {mayDo(who.role, 'editHouse') && (
          <>
            <Link to="/slots/new" className="act">
              New slot
            </Link>
            <button type="button" className="act act-main" onClick={() => setNew(true)}>
              New blend
            </button>
          </>
        )}
      </header>
      <div className="grid gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
        <section aria-label="Blends" className="min-w-0">
          <h2 className="border-b border-ink text-lg">Blends</h2>
          {found.isReady && blends.length === 0 && (
            <Empty title="No blend yet">
              Several bottles as one, under a code name: two to six spirits in fixed parts.
            </Empty>
          )}
          <ul>
            {blends.map((b) => (
              <BlendRow key={b.slug} blend={b} />
            ))}
          </ul>
        </section>
        <section aria-label="Slots" className="min-w-0">
          <h2 className="border-b border-ink text-lg">Slots</h2>
          {house.slots.length === 0 && (
            <Empty title="No slot yet">
              What a bottle must be, instead of which one: a place on the lines, a strength, and what may fill it.
            </Empty>
          )}
          <ul>
            {house.slots.map((s) => (
              <SlotRow key={s.slug} slug={s.slug} />
            ))}
          </ul>
          <h2 className="mt-6 border-b border-ink text-lg">Last flights</h2>
          {flights?.total === 0 && <p className="text-soft">Nobody has tasted side by side yet.</p>}
          <ul>
            {last.map((f) => (
              <li key={f.id} className="border-b border-hair/60 py-1 text-sm">
                {f.document.scores
                  .map((s) => book.ingredients.find((i) => i.slug === s.ingredient)?.name ?? s.ingredient)
                  .join(', ')}{' '}
                <span className="text-soft">
                  · {f.by}, {dayText(f.on)}
                  {f.document.note && ` · “${f.document.note}”`}
                </span>
              </li>
            ))}
          </ul>
        </section>
      </div>
      {isNew && <NewBlend onClose={() => setNew(false)} />}
    </div>
  )
}

const GROUNDS = ['bg-buff', 'bg-shoal', 'bg-shallow', 'bg-paper', 'bg-hair/50', 'bg-buff/50']

function BlendRow({ blend }: { blend: Ingredient }) {
  const { book, house, today } = useHouse()
  const kept = house.ingredients.find((i) => i.slug === blend.slug) ?? blend
  const mixed = kept.recipe ? mixerOfToday(house, today).freshMixOf(blend.slug) : undefined
  const currency = currencyOf(book.settings)
  const perLitre =
    mixed?.ok && mixed.mix.cost.unknown.length === 0 ? (1000 * mixed.mix.cost.value) / mixed.mix.volumeMl : kept.price
  const depth = depthIn(kept, book)
  const out = kept.recipe?.components.filter((c) => {
    const stock = book.ingredients.find((i) => i.slug === c.ingredient)?.stock
    return stock === 'out' || stock === 'discontinued'
  })
  return (
    <li className="border-b border-hair/60 py-2">
      <Link to={`/blends/${blend.slug}`} className="flex flex-wrap items-baseline gap-x-3 hover:underline">
        <span className="text-lg">{blend.name}</span>
        {blend.isSealed && (
          <span className="flex items-center gap-1 self-center text-sm text-soft">
            <ClosedMark /> sealed
          </span>
        )}
        <span className="ml-auto text-sm">
          {blend.figures.abvPct.value.toFixed(1)} %{depth !== undefined && `, ${colourWord(depth)}`}
          {perLitre !== undefined && `, ${moneyText(perLitre, currency)} a litre`}
        </span>
      </Link>
      {kept.recipe && (
        <div className="mt-1 flex h-4 border border-ink" aria-hidden="true">
          {sharesOf(kept.recipe).map((s, i) => (
            <span
              key={s.ingredient}
              className={`${GROUNDS[i % GROUNDS.length]} ${i > 0 ? 'border-l border-ink' : ''}`}
              style={{ width: `${100 * s.share}%` }}
            />
          ))}
        </div>
      )}
      <p className="mt-1 flex flex-wrap gap-x-3 text-sm">
        <span className="min-w-0 flex-1 text-soft">
          {kept.recipe
            ? kept.recipe.components
                .map((c) => book.ingredients.find((i) => i.slug === c.ingredient)?.name ?? c.ingredient)
                .join(', ')
            : 'what is in it is for managers'}
        </span>
        {out && out.length > 0 && (
          <span className="text-stop">
            out: {out.map((c) => book.ingredients.find((i) => i.slug === c.ingredient)?.name).join(', ')}
          </span>
        )}
        <LotWords lot={book.mixes?.[blend.slug]?.lot} />
      </p>
    </li>
  )
}

function SlotRow({ slug }: { slug: string }) {
  const { book, well } = useHouse()
  const slot = book.slots?.find((s) => s.slug === slug)
  if (!slot) return null
  const poured = resolveSlot(slot, book, well.slug)
  return (
    <li className="border-b border-hair/60 py-2">
      <Link to={`/slots/${slug}`} className="flex flex-wrap items-baseline gap-x-3 hover:underline">
        <span className="text-lg">{slot.name}</span>
        <span className="ml-auto text-sm text-soft">
          {slot.abvPct.low} to {slot.abvPct.high} %
        </span>
      </Link>
      <p className="flex flex-wrap gap-x-3 text-sm">
        <span className={poured?.isOut ? 'text-stop' : ''}>
          {poured
            ? `${nameApart(poured.ingredient, book.ingredients)} at the ${well.name}`
            : 'nothing that it names is here'}
          {poured?.isOut && ': out'}
        </span>
        {poured?.insteadOf && (
          <span className="text-mind">▲ {nameApart(poured.insteadOf, book.ingredients)} is out</span>
        )}
        <span className="ml-auto text-soft">
          {slot.candidates.length === 1 ? 'one candidate' : `${slot.candidates.length} candidates`}
          {slot.refused.length > 0 && `, ${slot.refused.length} refused`}
        </span>
      </p>
    </li>
  )
}
