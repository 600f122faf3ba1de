import { mayDo } from '@conch/contract'
import { METHODS, type Method } from '@conch/core/cold'
import {
  type DrinkDocument,
  MEASURE_NAMES,
  MEASURES,
  type Standard,
  standardFrom,
  withSeconds,
} from '@conch/core/drink'
import { bySlug, type HouseBook, type Well } from '@conch/core/house'
import { iceWords, missWords, type Swap } from '@conch/core/means'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { drinkQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { measureText } from '../../graphics/format.ts'
import { SecondsWindow } from '../../graphics/SecondsWindow.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import { Failure, Loading } from '../../ui/States.tsx'
import { useSwaps, useWellMeans, type WellMeans } from '../../workers/bench.ts'
import { useGlass } from '../../workers/compute.ts'
import { CurvesOfDrink } from './CurvesOfDrink.tsx'
import { TolerancePanel } from './TolerancePanel.tsx'

/** A drink on the bench: its standard held still, and what every well, method and hand makes of it. */
export function DrinkBenchPage() {
  const { slug = '' } = useParams()
  const { book, well } = useHouse()
  const who = useWho()
  const drink = useQuery(drinkQuery(slug))
  const navigate = useNavigate()
  const [chosen, setChosen] = useState<string>()
  if (drink.isPending) return <Loading what="the drink" />
  if (!drink.data) return <Failure error={drink.error} />
  const { name, versions, draft, poured } = drink.data
  const open = chosen ?? (draft ? 'draft' : String(poured?.version ?? versions.at(-1)?.number))
  const document = open === 'draft' ? draft?.document : versions.find((v) => String(v.number) === open)?.document
  if (!document) return <Failure error={`${name} has nothing written down yet.`} />
  const mayEdit = mayDo(who.role, 'saveDraft')
  const use = (next: DrinkDocument, note: string) =>
    navigate(`/drinks/${slug}`, { state: { useSpec: { document: next, note } } })
  return (
    <div className="px-4 pt-3 pb-10">
      <p className="caption">
        <Link className="underline" to={`/drinks/${slug}`}>
          {name}
        </Link>{' '}
        · on the bench
      </p>
      <header className="mb-2 flex flex-wrap items-baseline gap-3">
        <h1 className="text-3xl">{name}</h1>
        <select
          aria-label="Version"
          className="inplace mr-auto"
          value={open}
          onChange={(e) => setChosen(e.target.value)}
        >
          {draft && <option value="draft">the draft</option>}
          {[...versions].reverse().map((v) => (
            <option key={v.number} value={v.number}>
              v{v.number} {v.label}
              {poured?.version === v.number ? ', poured today' : ''}
            </option>
          ))}
        </select>
      </header>
      <Bench key={`${slug} ${open}`} {...{ slug, document, book, well, mayEdit, use }} />
    </div>
  )
}

interface BenchProps {
  document: DrinkDocument
  book: HouseBook
  well: Well
  mayEdit: boolean
  use: (document: DrinkDocument, note: string) => void
}

function Bench({ slug, document, book, well, mayEdit, use }: BenchProps & { slug: string }) {
  const means = useWellMeans(book, document)
  const here = means?.find((m) => m.well === well.slug)
  const window = here?.ok && here.solved.outcome === 'reached' ? here.solved.window : undefined
  const hasStandard = Object.keys(document.standard).length > 0
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 lg:grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)]">
      <div>
        <StandardOfDrink {...{ document, book, well, mayEdit, use }} />
        {hasStandard && (
          <section aria-label="Seconds at every well" className="mt-4">
            <h2 className="border-b border-ink text-lg">The same glass at every well</h2>
            {!means && <p className="py-3 text-soft">Looking for the seconds …</p>}
            {means?.map((m) => (
              <WellRow key={m.well} means={m} {...{ document, book, mayEdit, use }} />
            ))}
          </section>
        )}
        {hasStandard && <Swaps {...{ document, book, well, mayEdit, use }} />}
      </div>
      <aside className="border-hair max-lg:mt-6 lg:border-l lg:pl-6">
        <CurvesOfDrink {...{ slug, document, book, well }} window={window} />
        {hasStandard && <TolerancePanel {...{ document, book, well }} />}
      </aside>
    </div>
  )
}

/** What is held still; or, without, the glass that could be. */
function StandardOfDrink({ document, book, well, mayEdit, use }: BenchProps) {
  const answer = useGlass(document, book, well.slug)
  const [typed, setTyped] = useState<Standard>()
  const bands = MEASURE_NAMES.filter((m) => document.standard[m])
  const here = answer?.ok ? standardFrom(answer.result.predictions) : undefined
  if (typed)
    return (
      <TypedStandard
        standard={typed}
        usual={here ?? {}}
        onChange={setTyped}
        onCancel={() => setTyped(undefined)}
        onHold={() => use({ ...document, standard: typed }, 'The standard as it was typed.')}
      />
    )
  return (
    <section aria-label="Standard" className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      {bands.length === 0 ? (
        <span className="text-soft">Nothing is held still: this drink has no standard.</span>
      ) : (
        <span className="text-soft">held still</span>
      )}
      {bands.map((m) => (
        <span key={m} className="whitespace-nowrap">
          <span className="caption">{MEASURES[m].label}</span>{' '}
          <span className="border-b-2 border-standard">
            {String(document.standard[m]?.low).replace('-', '−')} to {measureText(m, document.standard[m]?.high ?? 0)}
          </span>
        </span>
      ))}
      {mayEdit && (
        <>
          <button
            type="button"
            className={`act text-sm ${bands.length > 0 ? 'act-quiet' : ''}`}
            disabled={!here}
            onClick={() =>
              here && use({ ...document, standard: here }, `The glass at the ${well.name} is the standard now.`)
            }
          >
            The glass at the {well.name} is the one
          </button>
          <button type="button" className="act act-quiet text-sm" onClick={() => setTyped({ ...document.standard })}>
            Type it …
          </button>
        </>
      )}
    </section>
  )
}

/** Bands typed by hand: each measure held or left free. */
function TypedStandard({
  standard,
  usual,
  onChange,
  onCancel,
  onHold,
}: {
  standard: Standard
  usual: Standard
  onChange: (standard: Standard) => void
  onCancel: () => void
  onHold: () => void
}) {
  const wrong = MEASURE_NAMES.find((m) => standard[m] && (standard[m]?.low ?? 0) > (standard[m]?.high ?? 0))
  return (
    <section aria-label="Standard" className="border border-hair p-3">
      <table>
        <tbody>
          {MEASURE_NAMES.map((m) => {
            const band = standard[m]
            const { label, unit, digits, tolerance } = MEASURES[m]
            const set = (end: 'low' | 'high') => (value: number) =>
              onChange({ ...standard, [m]: { low: 0, high: 0, ...band, [end]: value } })
            const number = (end: 'low' | 'high') => (
              <NumberField
                label={`${label}, ${end}`}
                value={band?.[end]}
                low={-50}
                high={5000}
                step={tolerance / 4}
                digits={digits}
                onChange={set(end)}
              />
            )
            return (
              <tr key={m}>
                <td className="pr-3">
                  <label className="flex items-center gap-2">
                    <input
                      type="checkbox"
                      checked={band !== undefined}
                      onChange={(e) => {
                        const { [m]: _, ...others } = standard
                        onChange(e.target.checked ? { ...standard, [m]: usual[m] ?? { low: 0, high: 0 } } : others)
                      }}
                    />
                    {label}
                  </label>
                </td>
                <td>
                  {band ? (
                    <>
                      {number('low')} to {number('high')} {unit}
                    </>
                  ) : (
                    <span className="text-soft">free</span>
                  )}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {wrong && (
        <p role="alert" className="text-stop">
          {MEASURES[wrong].label}: the low end must not be above the high end.
        </p>
      )}
      <div className="mt-2 flex gap-2">
        <button type="button" className="act act-main" disabled={wrong !== undefined} onClick={onHold}>
          Hold this still
        </button>
        <button type="button" className="act" onClick={onCancel}>
          As it was
        </button>
      </div>
    </section>
  )
}

const seconds = (s: number) => `${s < 10 ? s.toFixed(1) : Math.round(s)} s`

function WellRow({ means, document, book, mayEdit, use }: { means: WellMeans } & Omit<BenchProps, 'well'>) {
  const well = bySlug(book.wells, means.well)
  const method = document.stages[0]?.method
  if (!well) return null
  if (!means.ok)
    return (
      <p className="border-b border-hair py-2">
        {well.name}: <span className="text-stop">{means.problems[0]?.message}</span>
      </p>
    )
  const { solved, writtenS, misses } = means
  const reached = solved.outcome === 'reached' ? solved : undefined
  const endS = reached
    ? Math.max(reached.isOpenEnded ? reached.window.highS : reached.window.highS * 1.4, writtenS * 1.3, 4)
    : Math.max(writtenS * 2, 6)
  const drifting = book.calibrations?.find(
    (c) => c.drift && c.well === well.slug && well.stations.some((s) => s.slug === c.station && s.method === method),
  )
  const sentence = reached
    ? `${seconds(reached.window.lowS)} to ${reached.isOpenEnded ? 'as long as one likes' : seconds(reached.window.highS)}`
    : solved.outcome === 'cannotBeReached'
      ? 'cannot be reached'
      : 'nothing is chilled'
  return (
    <div className="border-b border-hair py-2" data-well={well.slug}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h3 className="w-28 text-base">{well.name}</h3>
        <b className="font-display text-xl">{sentence}</b>
        <span className={misses.length > 0 ? 'text-stop' : 'text-soft'}>
          as written {seconds(writtenS)}
          {misses.length > 0 && `: ${misses.map(missWords).join(', ')}`}
        </span>
        {reached && mayEdit && (Math.abs(reached.durationS - writtenS) > 0.05 || reached.iceTimes !== 1) && (
          <button
            type="button"
            className="act ml-auto"
            onClick={() =>
              use(
                withSeconds(solvedIce(document, well.slug, reached.iceTimes), well.slug, reached.durationS),
                `${reached.durationS} s at the ${well.name}: in the middle of its window.`,
              )
            }
          >
            Use {seconds(reached.durationS)}
            {reached.iceTimes !== 1 && ` and ${Math.round(100 * reached.iceTimes)} % of the ice`}
          </button>
        )}
      </div>
      <SecondsWindow
        window={reached?.window}
        isOpenEnded={reached?.isOpenEnded ?? false}
        writtenS={writtenS}
        solvedS={reached?.durationS}
        endS={endS}
        label={`${well.name}: ${sentence}, as written ${seconds(writtenS)}`}
      />
      {reached && (
        <p className="text-sm text-soft">
          {reached.tooShort.length > 0 && <>shorter: {[...new Set(reached.tooShort.map(missWords))].join(', ')}. </>}
          {reached.tooLong.length > 0 && <>longer: {[...new Set(reached.tooLong.map(missWords))].join(', ')}. </>}
          {reached.iceTimes !== 1 && (
            <>With the ice as written no seconds do it; with {Math.round(100 * reached.iceTimes)} % of it they do. </>
          )}
          {(method === 'flashBlend' || method === 'fullBlend') &&
            reached.tooLong.length > 0 &&
            'Beyond it: froth and water. '}
        </p>
      )}
      {solved.outcome === 'cannotBeReached' && (
        <div className="text-sm">
          <p>
            Nearest: {seconds(solved.nearest.durationS)}
            {solved.iceTimes !== 1 && ` with ${Math.round(100 * solved.iceTimes)} % of the ice`}, still{' '}
            {[...new Set(solved.misses.map(missWords))].join(', ')}
            {solved.misses.map((m) =>
              m.measure === 'overflow'
                ? ` (${Math.round(m.value)} ml)`
                : ` (${MEASURES[m.measure].label} ${measureText(m.measure, m.value)})`,
            )}
            .
          </p>
          {solved.helps.length === 0 ? (
            <p className="text-soft">
              No single change that was tried comes nearer: the pours themselves have to change.
            </p>
          ) : (
            <ul>
              {solved.helps.map((h) => (
                <li key={h.words}>
                  {h.worst <= 1 ? '→ ' : '~ '}
                  {h.words} {h.worst <= 1 ? `reaches it, ${seconds(h.durationS)}` : 'comes nearer'}
                </li>
              ))}
            </ul>
          )}
        </div>
      )}
      {drifting && (
        <p className="text-sm text-stop">
          Its station is drifting: weigh a trial before you trust these seconds.{' '}
          <Link className="underline" to={`/ice/${drifting.well}/${drifting.station}`}>
            See why
          </Link>
        </p>
      )}
    </div>
  )
}

/** The spec with so many times its ice at one well, to five grams. */
function solvedIce(document: DrinkDocument, well: string, times: number): DrinkDocument {
  const [stage, ...rest] = document.stages
  if (!stage || times === 1) return document
  const ice = stage.byWell?.[well]?.ice ?? stage.ice ?? (stage.method ? METHODS[stage.method].usual.ice : [])
  const scaled = ice.map((p) => ({ ...p, massG: Math.max(5, Math.round((p.massG * times) / 5) * 5) }))
  return {
    ...document,
    stages: [{ ...stage, byWell: { ...stage.byWell, [well]: { ...stage.byWell?.[well], ice: scaled } } }, ...rest],
  }
}

function Swaps({ document, book, well, mayEdit, use }: BenchProps) {
  const answer = useSwaps(book, document, well.slug)
  return (
    <section aria-label="By another method" className="mt-5">
      <h2 className="border-b border-ink text-lg">By another method, at the {well.name}</h2>
      {!answer && <p className="py-3 text-soft">Trying every method …</p>}
      {answer && !answer.ok && <p className="text-stop">{answer.problems[0]?.message}</p>}
      {answer?.ok && (
        <div className="overflow-x-auto">
          <table className="w-full min-w-[36rem]">
            <tbody>
              {answer.swaps.map((s) => (
                <SwapRow key={s.method} swap={s} use={mayEdit ? use : undefined} wellName={well.name} />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  )
}

function SwapRow({ swap, use, wellName }: { swap: Swap; use: BenchProps['use'] | undefined; wellName: string }) {
  const { solved, method, isOwn, ice, cannotMatch, hasStation, document } = swap
  const label = METHODS[method as Method].label
  const at =
    solved.outcome === 'reached' ? solved.at : solved.outcome === 'cannotBeReached' ? solved.nearest : undefined
  return (
    <tr className="border-b border-hair/60 align-baseline">
      <th scope="row" className={`py-1.5 pr-3 text-left whitespace-nowrap ${isOwn ? '' : 'font-normal'}`}>
        {label}
        {isOwn && <span className="caption block font-normal">as it is written</span>}
        {!hasStation && <span className="caption block font-normal">no such gear here</span>}
      </th>
      <td className="pr-3 whitespace-nowrap">
        {solved.outcome === 'reached' ? (
          <>
            <b className="font-display text-lg">{seconds(solved.durationS)}</b>
            <span className="caption block">
              {seconds(solved.window.lowS)} to {solved.isOpenEnded ? '…' : seconds(solved.window.highS)}
            </span>
          </>
        ) : (
          <span className="text-stop">not to be reached</span>
        )}
      </td>
      <td className="pr-3 text-sm">
        {iceWords(ice)}
        {!isOwn && document.serveIce.length > 0 && (
          <span className="caption block">and {iceWords(document.serveIce)} in the glass</span>
        )}
        {solved.outcome === 'cannotBeReached' && (
          <span className="block text-stop">{[...new Set(solved.misses.map(missWords))].slice(0, 3).join(', ')}</span>
        )}
      </td>
      <td className="text-right text-sm whitespace-nowrap">
        {at?.predictions.temperatureC && measureText('temperatureC', at.predictions.temperatureC.value)}
      </td>
      <td className="pl-3 text-sm text-soft">{cannotMatch.join(' · ')}</td>
      <td className="text-right">
        {use && !isOwn && solved.outcome === 'reached' && (
          <button
            type="button"
            className="act act-quiet text-sm"
            aria-label={`Use ${label}`}
            onClick={() => use(document, `${label} at the ${wellName}, solved to the same standard.`)}
          >
            use it
          </button>
        )}
      </td>
    </tr>
  )
}
