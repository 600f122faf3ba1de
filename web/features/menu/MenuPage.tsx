import { mayDo } from '@conch/contract'
import { nightText } from '@conch/core/calendar'
import { type DrinkDocument, MEASURE_NAMES, type MeasureName, standingOf } from '@conch/core/drink'
import { hasLeft, type LockedDrink } from '@conch/core/menu'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { editionQuery, editionsQuery, modelQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { measureText } from '../../graphics/format.ts'
import { Seal } from '../../graphics/Seal.tsx'
import { Window } from '../../graphics/Window.tsx'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { type GlassAnswer, useGlasses } from '../../workers/compute.ts'

/** The windows of a line, few enough to be read at a glance. */
const ON_A_LINE: MeasureName[] = ['strengthPct', 'sweetGPer100Ml', 'sourGPer100Ml', 'dilutionPct', 'temperatureC']

/** The poured menu at the well one stands at: what was promised, and what would be in the glass now. */
export function MenuPage() {
  const editions = useQuery(editionsQuery)
  const newest = editions.data?.[0]
  if (editions.isPending) return <Loading what="the menu" />
  if (editions.error) return <Failure error={editions.error} onRetry={() => editions.refetch()} />
  if (!newest) {
    return (
      <Empty title="No menu has been published yet">
        Write a{' '}
        <Link className="underline" to="/drinks">
          drink
        </Link>
        , save a version of it, put it on the{' '}
        <Link className="underline" to="/next">
          next edition
        </Link>
        , and publish. From then on this page shows what is poured.
      </Empty>
    )
  }
  return <PouredMenu number={newest.number} />
}

/** Once, after the ice is computed anew: the way to what that moved, for whoever may say what becomes of it. */
function ModelNews() {
  const mayAnswer = mayDo(useWho().role, 'publishEdition')
  const moved = useQuery({ ...modelQuery, enabled: mayAnswer }).data
  if (!moved?.edition || moved.isAnswered || moved.drinks.length === 0) return null
  const left = moved.drinks.filter((d) => d.measures.some(hasLeft)).length
  return (
    <p className="mb-3 border border-mind px-3 py-1.5 text-sm">
      <b>Ice is computed anew.</b> {moved.drinks.length} of these drinks come out otherwise, {left} outside the
      standard:{' '}
      <Link className="underline" to="/next">
        what it moved, and what becomes of the standards
      </Link>
    </p>
  )
}

function PouredMenu({ number }: { number: number }) {
  const { book, well, clock } = useHouse()
  const edition = useQuery(editionQuery(number))
  const drinks = useMemo(() => edition.data?.lock.chapters.flatMap((c) => c.drinks) ?? [], [edition.data])
  const documents = useMemo<DrinkDocument[]>(() => drinks.map((d) => d.document), [drinks])
  const answers = useGlasses(documents.length > 0 ? documents : undefined, book, well.slug)
  if (edition.isPending) return <Loading what="the menu" />
  if (!edition.data) return <Failure error={edition.error} onRetry={() => edition.refetch()} />
  const { lock, name, publishedAt } = edition.data
  const answerOf = new Map(drinks.map((d, i) => [d.drink, answers?.[i]]))
  const adrift = drinks.filter((d) => isAdrift(d, answerOf.get(d.drink)))
  return (
    <div className="px-4 pt-4 pb-10">
      <ModelNews />
      <header className="mb-4 flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-3xl">{book.settings.name}</h1>
        <p className="flex items-center gap-1.5 text-soft">
          <Seal title="poured today" /> {name}, since {nightText(publishedAt, clock)}
        </p>
        <p className="ml-auto text-sm" role="status">
          {answers &&
            (adrift.length === 0
              ? `Every drink holds its standard at the ${well.name}.`
              : `${adrift.length} of ${drinks.length} outside their standard at the ${well.name}.`)}
        </p>
      </header>
      <div className="gap-x-10 xl:columns-2">
        {lock.chapters.map((chapter) => (
          <section key={chapter.name} className="mb-6 break-inside-avoid">
            <h2 className="mb-0.5 flex items-end gap-x-2 border-b border-ink pb-0.5 text-lg">
              <span className="flex-1">{chapter.name}</span>
              <span className="flex gap-2 font-text text-[11px] font-normal text-soft max-sm:hidden" aria-hidden="true">
                {['strength', 'sweet', 'sour', 'dilution', 'cold'].map((w) => (
                  <span key={w} className="w-[46px] text-center">
                    {w}
                  </span>
                ))}
              </span>
              <span className="w-16" />
            </h2>
            <ul>
              {chapter.drinks.map((d) => (
                <MenuLine key={d.drink} drink={d} answer={answerOf.get(d.drink)} well={well.slug} />
              ))}
            </ul>
          </section>
        ))}
      </div>
      <p className="caption max-w-2xl">
        Each window: the band is the standard, the mark is what the drink would be at the {well.name} now, the dotted
        ring what the edition locked. Press a line to open the drink.
      </p>
    </div>
  )
}

function isAdrift(drink: LockedDrink, answer: GlassAnswer | undefined): boolean {
  if (!answer?.ok) return answer !== undefined
  return (
    answer.consequences.some((c) => c.weight === 'stop' && !c.isSafety) ||
    MEASURE_NAMES.some((m) =>
      ['below', 'above'].includes(standingOf(answer.result.predictions[m], drink.document.standard[m])),
    )
  )
}

function MenuLine({ drink, answer, well }: { drink: LockedDrink; answer: GlassAnswer | undefined; well: string }) {
  const locked = drink.byWell[well]?.result.predictions
  const now = answer?.ok ? answer.result.predictions : locked
  const stop = answer?.ok ? answer.consequences.find((c) => c.weight === 'stop') : undefined
  const isOut = isAdrift(drink, answer)
  return (
    <li className="border-b border-hair/60">
      <Link
        to={`/drinks/${drink.drink}?v=${drink.version}`}
        className="flex min-h-10 flex-wrap items-center gap-x-2 py-1 hover:bg-shoal max-sm:min-h-14"
      >
        <span className="min-w-0 flex-1 max-sm:basis-full">
          <span className={`block truncate text-[1.05rem] ${isOut ? 'text-stop' : ''}`} title={drink.name}>
            {drink.name}
          </span>
          {stop && <span className="block text-sm leading-tight text-stop">{stop.text}</span>}
          {answer && !answer.ok && (
            <span className="block text-sm text-stop">cannot be made here: {answer.problems[0]?.message}</span>
          )}
        </span>
        <span className="flex gap-2 max-sm:flex-1">
          {ON_A_LINE.map((m) => {
            const was = locked?.[m]
            const is = now?.[m]
            const hasMoved = was && is && measureText(m, was.value) !== measureText(m, is.value)
            return (
              <Window
                key={m}
                measure={m}
                predicted={is}
                band={drink.document.standard[m]}
                ghost={hasMoved ? was : undefined}
                width={46}
                height={14}
              />
            )
          })}
        </span>
        <span className="w-16 text-right">
          {now?.strengthPct ? measureText('strengthPct', now.strengthPct.value) : ''}
        </span>
      </Link>
    </li>
  )
}
