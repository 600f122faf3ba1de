import { mayDo, type PouredMenu } from '@conch/contract'
import { nightText } from '@conch/core/calendar'
import { MEASURE_NAMES, type Predicted, standingOf } from '@conch/core/drink'
import { hasLeft } from '@conch/core/menu'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { modelQuery, pouredMenuQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { measureText } from '../../graphics/format.ts'
import { Seal } from '../../graphics/Seal.tsx'
import { Window } from '../../graphics/Window.tsx'
import { darkAt, standsWords, useOuts, useStands } from '../../outs/index.ts'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { inColumns, useColumnCount } from './inColumns.ts'

/** The windows of a line, few enough to be read at a glance. */
const ON_A_LINE = ['strengthPct', 'sweetGPer100Ml', 'sourGPer100Ml', 'dilutionPct', 'temperatureC'] as const
const HEADS: Record<(typeof ON_A_LINE)[number], string> = {
  strengthPct: 'strength',
  sweetGPer100Ml: 'sweet',
  sourGPer100Ml: 'sour',
  dilutionPct: 'dilution',
  temperatureC: 'cold',
}

/** The poured menu at the well one stands at: what was promised, and what would be in the glass now. */
export function MenuPage() {
  const { well } = useHouse()
  const menu = useQuery(pouredMenuQuery(well.slug))
  if (menu.isPending) return <Loading what="the menu" />
  if (!menu.data) return <Failure error={menu.error} onRetry={() => menu.refetch()} />
  const { edition, chapters } = menu.data
  if (!edition) {
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
  return <Poured edition={edition} chapters={chapters} />
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

type Chapter = PouredMenu['chapters'][number]
type Line = Chapter['drinks'][number]

function Poured({ edition, chapters }: { edition: NonNullable<PouredMenu['edition']>; chapters: Chapter[] }) {
  const { book, well, clock } = useHouse()
  const tonight = useOuts().tonight
  const dark = tonight ? darkAt(tonight, well.slug).length : 0
  const drinks = chapters.flatMap((c) => c.drinks)
  const parts = chapters.map((c) => ({ of: c, things: c.drinks }))
  const count = useColumnCount()
  const waiting = drinks.filter((d) => !d.now || d.now.isOld)
  const adrift = drinks.filter(isAdrift)
  const status =
    waiting.length > 0
      ? `${waiting.length} of ${drinks.length} being computed again …`
      : adrift.length === 0
        ? `Every drink holds its standard at the ${well.name}.`
        : `${adrift.length} of ${drinks.length} outside their standard at the ${well.name}.`
  return (
    <div className="px-4 pt-4 pb-10">
      <ModelNews />
      <header className="mb-4 flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-3xl">{book.settings.name}</h1>
        <p className="flex items-center gap-1.5 text-soft">
          <Seal title="poured today" /> {edition.name}, since {nightText(edition.publishedAt, clock)}
        </p>
        <p className="ml-auto text-sm" role="status">
          {dark > 0 && (
            <Link className="mr-3 font-semibold text-stop underline" to="/out">
              {dark} dark tonight
            </Link>
          )}
          {status}{' '}
          {adrift.length > 0 && waiting.length === 0 && (
            <Link className="underline" to="/adrift">
              What moved them
            </Link>
          )}
        </p>
      </header>
      <div className="grid items-start gap-x-10" style={{ gridTemplateColumns: `repeat(${count}, minmax(0, 1fr))` }}>
        {inColumns(parts, count, linesOf).map((column, n) => (
          <div key={n}>
            {column.map(({ of, things, isContinued }) => (
              <section key={of.name} className="mb-6" aria-label={isContinued ? `${of.name}, continued` : of.name}>
                <ChapterHead name={of.name} isContinued={isContinued} />
                <ul>
                  {things.map((d) => (
                    <MenuLine key={d.drink} drink={d} />
                  ))}
                </ul>
              </section>
            ))}
          </div>
        ))}
      </div>
      <p className="caption max-w-2xl">
        Each window: the band is the standard, the mark is what the drink would be at the {well.name} now, the dotted
        ring what the edition locked. Press a line to open the drink.
      </p>
    </div>
  )
}

/** The chapter's name above its lines, and what each window is of. */
function ChapterHead({ name, isContinued }: { name: string; isContinued: boolean }) {
  return (
    <h2 className="mb-0.5 flex items-end gap-x-2 border-b border-ink pb-0.5 text-lg">
      <span className="flex-1">
        {name}
        {isContinued && <span className="caption font-text font-normal">, continued</span>}
      </span>
      <span className="flex gap-2 font-text text-[11px] font-normal text-soft max-sm:hidden" aria-hidden="true">
        {ON_A_LINE.map((m) => (
          <span key={m} className="w-[46px] text-center">
            {HEADS[m]}
          </span>
        ))}
      </span>
      <span className="w-16" />
    </h2>
  )
}

/** How high a drink stands on the page, in lines. */
const linesOf = ({ now }: Line) => (now && !now.isOld && (now.stops.length > 0 || now.problem) ? 1.7 : 1)

/** What is old says nothing of now. */
function isAdrift({ now, standard }: Line): boolean {
  if (!now || now.isOld) return false
  return (
    now.problem !== undefined ||
    now.stops.some((s) => !s.isSafety) ||
    MEASURE_NAMES.some((m) => ['below', 'above'].includes(standingOf(now.predictions[m], standard[m])))
  )
}

const asMark = (value: number | undefined): Predicted | undefined =>
  value === undefined ? undefined : { value, low: value, high: value }

function MenuLine({ drink }: { drink: Line }) {
  const { standard, locked = {} } = drink
  // What was true before something changed is not shown as if it were true now.
  const now = drink.now?.isOld ? undefined : drink.now
  const [stop] = now?.stops ?? []
  const strength = now?.predictions.strengthPct
  const { well } = useHouse()
  const { at, choice } = useStands(drink.drink, well.slug)
  const stands = standsWords(at, choice)
  const isDark = at?.state === 'dark' || at?.state === 'off'
  return (
    <li className="border-b border-hair/60">
      <Link
        to={`/drinks/${drink.drink}?v=${at?.state === 'instead' ? 'tonight' : drink.version}`}
        className="flex min-h-10 flex-wrap items-center gap-x-2 py-1 hover:bg-shoal max-sm:min-h-14"
      >
        <span className="min-w-0 flex-1 max-sm:basis-full">
          <span
            className={`block truncate text-[1.05rem] ${isDark ? 'text-soft line-through decoration-1' : isAdrift(drink) ? 'text-stop' : ''}`}
            title={drink.name}
          >
            {drink.name}
          </span>
          {stands && (
            <span className={`block text-sm leading-tight ${isDark ? 'text-stop' : 'text-soft'}`}>
              {isDark && <b className="font-semibold">dark: </b>}
              {stands}
            </span>
          )}
          {!isDark && stop && <span className="block text-sm leading-tight text-stop">{stop.text}</span>}
          {!isDark && now?.problem && (
            <span className="block text-sm text-stop">cannot be made here: {now.problem}</span>
          )}
        </span>
        <span className={`flex gap-2 max-sm:flex-1 ${isDark ? 'opacity-40' : ''}`}>
          {ON_A_LINE.map((m) => {
            const was = locked[m]
            const is = now?.predictions[m]
            const hasMoved = was !== undefined && (!is || measureText(m, was) !== measureText(m, is.value))
            return (
              <Window
                key={m}
                measure={m}
                predicted={is}
                band={standard[m]}
                ghost={hasMoved ? asMark(was) : undefined}
                width={46}
                height={14}
              />
            )
          })}
        </span>
        <span className={`w-16 text-right ${now ? '' : 'text-sm text-soft italic'}`}>
          {strength ? measureText('strengthPct', strength.value) : now ? '' : 'computing'}
        </span>
      </Link>
    </li>
  )
}
