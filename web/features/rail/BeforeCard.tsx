import { BUILD_ORDERS, SAFETY_DEFERRAL } from '@conch/core/house'
import { missWords } from '@conch/core/means'
import { type AskedFor, MOST_GOES, type PlannedLoad, type Round } from '@conch/core/service'
import { useEffect, useMemo, useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { flagSchema, readStored, writeStored } from '../../app/stored.ts'
import { giveBackOrders } from '../../devices/orders.ts'
import { usePlan } from '../../workers/round.ts'
import { apart, canJoin, earlier, grouped, joined, type Loads, lettered } from './loads.ts'
import { RailFoot } from './RailFoot.tsx'
import { changeRound, leaveRound, ORDERED } from './railRound.ts'
import { SECOND_TAP_MS } from './secondTap.ts'

const minutes = (s: number) =>
  s < 90 ? `${Math.round(s)} s` : `${Math.floor(s / 60)} min ${Math.round((s % 60) / 10) * 10} s`

/** Before the first pour: what the guest is told, what stands in the way, and the order in which it is made. */
export function BeforeCard({
  round,
  dark,
  onBegin,
  onPark,
}: {
  round: Round
  /** What ran out, in a sentence. */
  dark: string | undefined
  onBegin: () => void
  onPark: () => void
}) {
  const { book } = useHouse()
  const { loads, ticks } = round
  const isOrdered = ticks.includes(ORDERED)
  // Each load is asked for by itself once it is settled; before that the same drinks belong together.
  const groups = useMemo(() => (isOrdered ? loads.map((l) => [l]) : grouped(loads)), [loads, isOrdered])
  const asked = useMemo(
    () =>
      groups.map(
        (of): AskedFor => ({
          name: of[0]?.document.name ?? '',
          document: (of[0] as Loads[number]).document,
          glasses: of.reduce((sum, l) => sum + l.glasses, 0),
        }),
      ),
    [groups],
  )
  const order = useMemo(
    () => (isOrdered ? loads.map(({ glasses, goes }, of) => ({ of, glasses, ...(goes && { goes }) })) : undefined),
    [loads, isOrdered],
  )
  const planned = usePlan(asked, order, book, round.well, round.key)
  useEffect(() => {
    if (isOrdered || !planned?.outcome.ok) return
    const next = planned.outcome.plan.loads.flatMap(({ of, made }) => {
      const load = groups[of]?.[0]
      return load ? [{ ...load, glasses: made.glasses }] : []
    })
    changeLoads(() => next)
  }, [isOrdered, planned, groups])
  // Changed by hand, the plan of before is of other loads.
  const isOfThese = planned?.loads.join('|') === loads.map((l) => `${l.glasses} ${l.document.name}`).join('|')
  const plan = planned?.outcome.ok && isOfThese ? planned.outcome.plan : undefined
  const problem = planned && !planned.outcome.ok ? planned.outcome : undefined
  const lines = planned?.said ?? []
  // What is in a tin is not taken apart any more.
  const hasBegun = ticks.some((t) => /^(pour|ice|chill):/.test(t))
  const buildOrder = book.settings.buildOrder ?? 'cheapestFirst'
  const isOrderTold = useToldOnce()
  const isSeen = useSeen()
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <div className="min-h-0 flex-1 overflow-y-auto px-4 py-3">
        <h1 className="text-3xl">Before you pour{round.words ? `, for ${round.words}` : ''}</h1>
        <ul aria-label="To be said and minded" className="mt-2 text-2xl">
          {lines.map((c) => (
            <li
              key={`${c.name} ${c.text}`}
              className={`border-l-4 pl-3 ${c.weight === 'stop' ? 'border-stop text-stop' : 'border-mind'}`}
            >
              {round.loads.length > 1 && <span className="text-soft">{c.name}: </span>}
              {c.text}
            </li>
          ))}
        </ul>
        {dark && (
          <p role="alert" className="mt-2 border-l-4 border-stop pl-3 text-2xl text-stop">
            {dark}
          </p>
        )}
        {planned && !problem && lines.length === 0 && (
          <p className="mt-2 text-xl text-soft">No allergen of the list is known in what is poured.</p>
        )}
        {planned && (
          <p className="mt-1 text-base text-soft">Of what is poured; look at the garnish yourself. {SAFETY_DEFERRAL}</p>
        )}
        {problem && (
          <p role="alert" className="mt-3 border-l-4 border-stop pl-3 text-2xl">
            {asked[problem.of]?.name} cannot be made like this: {problem.words}
          </p>
        )}
        {!isOrderTold && (
          <p className="mt-3 text-lg text-soft">
            This house pours {BUILD_ORDERS[buildOrder].label}: {BUILD_ORDERS[buildOrder].reason}. Ice comes last.
          </p>
        )}
        <h2 className="mt-4 text-2xl">In this order</h2>
        <ol className="mt-1">
          {round.loads.map((load, i) => (
            <li key={load.id} className="flex flex-wrap items-center gap-x-3 border-b border-hair py-1">
              <span className="min-w-0 flex-1 max-sm:basis-full">
                <span className="text-2xl">
                  {load.glasses > 1 && `${load.glasses} × `}
                  {load.document.name}
                  {load.glasses > 1 && <span className="text-lg text-soft"> in one go</span>}
                </span>
                <LoadWords
                  load={isOrdered ? plan?.loads[i] : undefined}
                  glasses={load.glasses}
                  isBegun={load.goes !== undefined}
                />
              </span>
              {load.glasses > 1 && !hasBegun && (
                <button type="button" className="rail-quiet" onClick={() => changeLoads((now) => apart(now, load.id))}>
                  apart
                </button>
              )}
              {!hasBegun && canJoin(round.loads, i) && (
                <button type="button" className="rail-quiet" onClick={() => changeLoads((now) => joined(now, i))}>
                  in one go
                </button>
              )}
              {round.loads.length > 1 && (
                <button
                  type="button"
                  className="rail-quiet text-2xl text-ink"
                  aria-label={`${load.document.name} earlier`}
                  disabled={i === 0}
                  onClick={() => changeLoads((now) => earlier(now, i))}
                >
                  ↑
                </button>
              )}
            </li>
          ))}
        </ol>
        {isOrdered && plan && round.loads.length > 1 && (
          <p className="mt-2 text-lg text-soft">
            About {minutes(plan.takesS)} from the first ice; the first glass waits {minutes(plan.waitS)}, and{' '}
            {Math.round(plan.meltedG)} g of ice melt in the glasses that wait.
          </p>
        )}
      </div>
      <div className="grid shrink-0 grid-cols-[8rem_1fr] gap-2 px-3 pb-2">
        {hasBegun ? (
          <button type="button" className="rail-act" onClick={onPark}>
            Put aside
          </button>
        ) : (
          <button type="button" className="rail-act" onClick={() => giveBackOrders(leaveRound(round))}>
            Not now
          </button>
        )}
        <button
          type="button"
          className="rail-act rail-main"
          disabled={!isSeen || !isOrdered || (problem !== undefined && !hasBegun)}
          onClick={onBegin}
        >
          {lines.some((c) => c.isSafety) ? 'Said: begin' : 'Begin'}
        </button>
      </div>
      <RailFoot />
    </main>
  )
}

/** A second tap on the button before would pass over what the guest has to hear. */
function useSeen(): boolean {
  const [isSeen, setSeen] = useState(false)
  useEffect(() => {
    const timer = setTimeout(() => setSeen(true), SECOND_TAP_MS)
    return () => clearTimeout(timer)
  }, [])
  return isSeen
}

const TOLD = 'conch:told-order'

/** The reason for the order is said once on a device. */
function useToldOnce(): boolean {
  const [isTold] = useState(() => readStored(TOLD, flagSchema) ?? false)
  useEffect(() => writeStored(TOLD, true), [])
  return isTold
}

/** What is to be known of one load: too full, too watery after its wait. */
function LoadWords({
  load,
  glasses,
  isBegun,
}: {
  load: PlannedLoad | undefined
  glasses: number
  /** Something of it is in a vessel: in so many goes as it was begun in. */
  isBegun: boolean
}) {
  if (!load) return <span className="block text-lg text-soft">reckoning …</span>
  const { made, waitS, afterWait } = load
  const isFull = made.holdsMl !== undefined && made.fullMl > made.holdsMl
  const waits = waitS > 0 ? `waits ${minutes(waitS)}` : 'goes out at once'
  const isOff = afterWait.worst > 1 && afterWait.worst > made.worst
  return (
    <span className="block text-lg text-soft">
      {made.durationS !== undefined &&
        `${Number(made.durationS.toFixed(1))} s${made.goes > 1 ? ' each' : glasses > 1 ? ' for all' : ''} · `}
      {waits}
      {isOff && (
        <b className="font-semibold text-mind">
          {' '}
          and is then {afterWait.misses.map(missWords).join(', ')}: make it later, or apart
        </b>
      )}
      {afterWait.worst <= 1 && waitS > 0 && ' and stays in its window'}
      {made.goes > 1 && (
        <b className="block font-semibold text-ink">
          in {made.goes} goes of {Math.round(made.fullMl)} ml with their ice: it works with{' '}
          {Math.round(made.holdsMl ?? 0)}
        </b>
      )}
      {isFull && (
        <b className="block font-semibold text-stop">
          ■ {Math.round(made.fullMl)} ml with its ice, and it works with {Math.round(made.holdsMl ?? 0)}:{' '}
          {isBegun ? 'begun all at once' : `too much for ${MOST_GOES} goes, too`}
        </b>
      )}
      {made.glass && made.glass.fill.overflowMl >= 1 && (
        <b className="block font-semibold text-stop">■ runs over by {Math.round(made.glass.fill.overflowMl)} ml</b>
      )}
    </span>
  )
}

const changeLoads = (change: (loads: Loads) => Loads) =>
  changeRound((round) => ({
    ...round,
    loads: lettered(change(round.loads)),
    ticks: [...round.ticks.filter((t) => t !== ORDERED), ORDERED],
  }))
