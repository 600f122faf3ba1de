import { bySlug } from '@conch/core/house'
import type { Missing } from '@conch/core/standin'
import { useMemo, useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useShelf } from '../../app/shelf.ts'
import { NeedShelfPart } from '../../shelf/NeedShelf.tsx'
import { Empty, Failure } from '../../ui/States.tsx'
import { NewBlend } from '../blends/index.ts'
import { AllAnswers, Compared, LookedAt, WhatIsFound } from './Answers.tsx'
import { HowItIsWeighed } from './HowItIsWeighed.tsx'
import { HowNear } from './HowNear.tsx'
import { type AskedLine, MOST_SEARCHED, useStandInSearch } from './useStandInSearch.ts'

export function StandInPage() {
  const [search] = useSearchParams()
  const bottle = search.get('bottle')
  const slot = search.get('slot')
  if (bottle === null && slot === null)
    return (
      <Empty title="What is missing?">
        Ask from a spec line, a bottle, a slot or a blend: the nearest one, two and three bottles of the shelf are
        searched.
      </Empty>
    )
  const near = bottle === null ? `slot:${slot}` : `bottle:${bottle}`
  return (
    <NeedShelfPart key={near} what="what is near it" asked={{ near, limit: MOST_SEARCHED }}>
      {() => <Asked bottle={bottle} slot={slot} near={near} />}
    </NeedShelfPart>
  )
}

function Asked({ bottle, slot, near }: { bottle: string | null; slot: string | null; near: string }) {
  const { total } = useShelf(useMemo(() => ({ near, limit: MOST_SEARCHED }), [near]))
  const [search] = useSearchParams()
  const { book } = useHouse()
  const ingredient = bottle === null ? undefined : bySlug(book.ingredients, bottle)
  const inSlot = slot === null ? undefined : bySlug(book.slots ?? [], slot)
  const drink = search.get('drink')
  const v = search.get('v')
  const line: AskedLine | undefined =
    drink === null
      ? undefined
      : { drink, version: v === 'draft' ? 'draft' : v ? Number(v) : undefined, index: Number(search.get('line') ?? 0) }
  if (inSlot) return <Search key={`slot ${slot}`} missing={{ slot: inSlot }} line={line} onShelf={total} />
  if (ingredient) return <Search key={`bottle ${bottle}`} missing={{ ingredient }} line={line} onShelf={total} />
  return <Failure error={`There is no ${slot === null ? 'bottle' : 'slot'} “${slot ?? bottle}”.`} />
}

/** The nearest answers of the shelf to what is missing, and what the one looked at does to the drink. */
function Search({ missing, line, onShelf }: { missing: Missing; line: AskedLine | undefined; onShelf: number }) {
  const search = useStandInSearch(missing, line)
  const [isNaming, setNaming] = useState(false)
  const { name, drink, shown, asked, pouredMl, put } = search
  if (search.isClosed)
    return (
      <Empty title={`${name} is sealed`}>
        How near something comes to it would tell what is in it. A manager can search for its stand-in.
      </Empty>
    )
  return (
    <div className="grid gap-x-6 px-4 pt-3 pb-8 lg:grid-cols-[minmax(0,1fr)_25rem]">
      <div className="min-w-0">
        <p className="caption">
          {line && drink ? (
            <Link className="underline" to={`/drinks/${line.drink}`}>
              {drink.name}
            </Link>
          ) : (
            <Link className="underline" to="/base">
              Base
            </Link>
          )}{' '}
          · stand-in
        </p>
        <h1 className="mb-2 text-3xl">Instead of {name}</h1>
        <HowItIsWeighed search={search} />
        <WhatIsFound search={search} />
        <LookedAt search={search} onName={() => setNaming(true)} />
        <AllAnswers search={search} />
        <Compared search={search} onShelf={onShelf} />
      </div>
      <HowNear search={search} />
      {isNaming && shown && (
        <NewBlend
          recipe={{ by: 'volume', components: shown.parts.map((p) => ({ ingredient: p.slug, amount: p.volumeMl })) }}
          onClose={() => setNaming(false)}
          {...(line && asked
            ? {
                onMade: (slug: string) => {
                  const { slot: _, figures: __, volumeMl: ___, ...rest } = asked
                  const amount = asked.amount ?? { value: pouredMl, unit: 'ml' as const }
                  put([{ ...rest, ingredient: slug, amount }])
                },
              }
            : {})}
        />
      )}
    </div>
  )
}
