import { changedSchema, mayDo } from '@conch/contract'
import type { PourLine } from '@conch/core/drink'
import { bySlug, currencyOf, nameIn } from '@conch/core/house'
import { pourGrid, usualMeasures, volumeMlOfAmount } from '@conch/core/measure'
import {
  DEFAULT_LIMIT_STEPS,
  isSweetened,
  type Missing,
  refusedFor,
  SPIRIT_WEIGHTS,
  type StandInAnswer,
  type StandInWeights,
  SWEET_WEIGHTS,
  standInBottles,
  standInLines,
  targetOf,
} from '@conch/core/standin'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useMemo, useState } from 'react'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { toast } from 'sonner'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { drinkQuery, refreshHouse } from '../../app/queries.ts'
import { useShelf, useShelfFor } from '../../app/shelf.ts'
import { useWho } from '../../app/who.ts'
import { countText, moneyText } from '../../graphics/format.ts'
import { SplitBar } from '../../graphics/SplitBar.tsx'
import { StyleLines, stepsText } from '../../graphics/StyleLines.tsx'
import { NearWords, STEP_HINT } from '../../shelf/NearWords.tsx'
import { NeedShelfPart } from '../../shelf/NeedShelf.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import { Empty, Failure } from '../../ui/States.tsx'
import { Computing } from '../../workers/Computing.tsx'
import { useStandInEffect, useStandIns } from '../../workers/compute.ts'
import { NewBlend } from '../blends/index.ts'
import type { ReplaceLine } from '../drink/index.ts'
import { correctedSeconds, InTheGlass } from './InTheGlass.tsx'

/** The spec line that somebody came from. */
interface AskedLine {
  drink: string
  version: number | 'draft' | undefined
  index: number
}

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

/** Bottles that are searched: the nearest by themselves. */
const MOST_SEARCHED = 120

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

const ROW =
  'grid grid-cols-[6.5rem_minmax(0,1fr)_auto] items-center gap-x-3 border-b border-hair/60 py-1.5 pr-1 max-sm:grid-cols-[minmax(0,1fr)_auto] max-sm:[&>span:first-child]:col-span-2'
const COUNT_WORDS = ['one bottle', 'two bottles', 'three bottles']

/** The nearest answers of the shelf to what is missing, and what the one looked at does to the drink. */
function Search({ missing, line, onShelf }: { missing: Missing; line: AskedLine | undefined; onShelf: number }) {
  const { book, house, well } = useHouse()
  const who = useWho()
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const drink = useQuery({ ...drinkQuery(line?.drink ?? ''), enabled: line !== undefined }).data
  const version = drink?.versions.find((v) => v.number === line?.version) ?? drink?.versions.at(-1)
  const document = line?.version === 'draft' ? drink?.draft?.document : version?.document
  useShelfFor([document])
  const asked: PourLine | undefined = line && document?.pours[line.index]
  const { kit, measures } = book.settings
  const currency = currencyOf(book.settings)
  const askedMl =
    asked && document && (asked.volumeMl ?? (asked.amount && volumeMlOfAmount(asked.amount, kit, document.partMl)))
  const [typedMl, setTypedMl] = useState<number>()
  const volumeMl = typedMl ?? askedMl ?? 2 * kit.ounceMl
  const [stepMl, setStepMl] = useState(kit.ounceMl / 4)
  const sweet = isSweetened(missing)
  const own = book.settings.standIn
  const usual: StandInWeights = (sweet ? own?.sweetWeights : own?.weights) ?? (sweet ? SWEET_WEIGHTS : SPIRIT_WEIGHTS)
  const usualLimit = own?.limitSteps ?? DEFAULT_LIMIT_STEPS
  const [weights, setWeights] = useState(usual)
  const [limitSteps, setLimit] = useState(usualLimit)
  const refused = refusedFor(missing, book.slots ?? [])
  const [without, setWithout] = useState<ReadonlySet<string>>(
    () => new Set([...refused.map((r) => r.slug), ...(own?.without ?? [])]),
  )
  const bottles = standInBottles(missing, book, without)
  const target = targetOf(missing, book)
  const units = Math.max(1, Math.round(volumeMl / stepMl))
  const grid = pourGrid(measures ?? usualMeasures(kit))
  const most = grid.at(-1)?.volumeMl ?? 0
  // What is more than two moves can measure is measured in more of them.
  const pourable = Array.from({ length: units }, (_, i) => (i + 1) * stepMl).filter(
    (ml) => ml > most || grid.some((g) => Math.abs(g.volumeMl - ml) < 0.05),
  )
  const notTonight = [...without].filter((slug) => !refused.some((r) => r.slug === slug))
  const isOwn =
    JSON.stringify([weights, limitSteps, notTonight]) === JSON.stringify([usual, usualLimit, own?.without ?? []])
  const keepAsOwn = async () => {
    const standIn = {
      ...own,
      ...(sweet ? { sweetWeights: weights } : { weights }),
      limitSteps,
      without: notTonight,
    }
    await api.put('/api/house/settings', changedSchema, {
      document: { ...house.settings, standIn },
      revision: house.revisions.settings,
    })
    await refreshHouse(queryClient)
    toast('The house weighs stand-ins like this from now on.')
  }
  const isClosed = 'ingredient' in missing && missing.ingredient.closed !== undefined
  const result = useStandIns(
    book,
    isClosed ? undefined : target,
    bottles,
    { volumeMl: units * stepMl, stepMl, weights, limitSteps },
    pourable,
  )
  const answers = result?.byCount.flat() ?? []
  const [chosen, setChosen] = useState<string>()
  const shown = answers.find((a) => keyOf(a) === chosen) ?? bestOf(result?.byCount ?? []) ?? result?.nearest
  const [isNaming, setNaming] = useState(false)
  const name = 'slot' in missing ? missing.slot.name : missing.ingredient.name
  // A bottle that is struck out is not the chosen one any more.
  useEffect(() => {
    if (chosen && result && !answers.some((a) => keyOf(a) === chosen)) setChosen(undefined)
  }, [chosen, result, answers])
  const lines = shown && asked && standInLines(asked, shown, kit.ounceMl)
  const effect = useStandInEffect(book, line && document, line?.index ?? 0, shown, well.slug)
  const seconds = effect?.ok ? correctedSeconds(effect.effect) : undefined
  const put = (pours: PourLine[]) => {
    if (!line || !asked) return
    const replaceLine: ReplaceLine = {
      index: line.index,
      was: { ingredient: asked.ingredient, slot: asked.slot },
      lines: pours,
      ...(seconds === undefined ? {} : { seconds: { well: well.slug, durationS: seconds } }),
    }
    const page = line.version === undefined ? '' : `?v=${line.version}`
    navigate(`/drinks/${line.drink}${page}`, { state: { replaceLine } })
  }
  if (isClosed)
    return (
      <Empty title={`${name} is sealed`}>
        How near something comes to it would tell what is in it. A manager can search for its stand-in.
      </Empty>
    )
  const weight = (key: keyof StandInWeights, label: string) => (
    <span className="whitespace-nowrap">
      <NumberField
        label={`Weight of ${label}`}
        value={weights[key]}
        low={0}
        high={10}
        step={0.5}
        onChange={(w) => setWeights({ ...weights, [key]: w })}
      />{' '}
      {label}
    </span>
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
        <p className="mb-1 flex flex-wrap items-baseline gap-x-3 gap-y-1">
          <span>
            <NumberField
              label="Volume in ml"
              value={volumeMl}
              low={stepMl}
              high={450}
              step={stepMl}
              onChange={setTypedMl}
            />{' '}
            ml in steps of{' '}
            <select
              aria-label="Step"
              className="inplace"
              value={stepMl}
              onChange={(e) => setStepMl(Number(e.target.value))}
            >
              {[kit.ounceMl / 4, kit.ounceMl / 2, 5, 10].map((ml) => (
                <option key={ml} value={ml}>
                  {Number(ml.toFixed(2))} ml
                </option>
              ))}
            </select>
          </span>
          <span className="text-soft">one step on a line counts 1;</span>
          {weight('strength', 'strength')}
          {weight('sugar', 'sugar')}
          {weight('acid', 'acid')}
          {weight('colour', 'colour')}
          {weight('price', 'price')}
          <span className="whitespace-nowrap">
            at most{' '}
            <NumberField label="Limit in steps" value={limitSteps} low={0.1} high={10} step={0.1} onChange={setLimit} />{' '}
            <span title={STEP_HINT}>steps away</span>
          </span>
        </p>
        {refused.length > 0 && (
          <p className="text-sm text-soft">
            refused: {refused.map((r) => `${nameIn(book.ingredients, r.slug)} (${r.reason})`).join('; ')}
          </p>
        )}
        {notTonight.length > 0 && (
          <p className="flex flex-wrap items-baseline gap-1 text-sm">
            <span className="text-soft">without:</span>
            {notTonight.map((slug) => (
              <button
                key={slug}
                type="button"
                className="act min-h-8 text-sm line-through"
                title="take it in again"
                onClick={() => setWithout(new Set([...without].filter((s) => s !== slug)))}
              >
                {nameIn(book.ingredients, slug)}
              </button>
            ))}
          </p>
        )}
        {!isOwn && mayDo(who.role, 'editHouse') && (
          <p className="no-print text-sm">
            <button
              type="button"
              className="act act-quiet text-sm text-soft"
              onClick={() => keepAsOwn().catch((e: Error) => toast.error(e.message))}
            >
              Weigh it like this from now on, and leave those out
            </button>
          </p>
        )}
        {!result && <Computing what="the nearest bottles" />}
        {result && Object.keys(target.style).length === 0 && (
          <p className="mt-2 text-mind">
            ▲ Nobody has placed {name} on a line: only strength, sugar, acid, colour and price are compared, not what it
            tastes of.
          </p>
        )}
        {result?.outcome === 'nothingNear' && (
          <p role="status" className="mt-3 border-l-4 border-mind pl-3">
            <b className="font-semibold">Nothing within {limitSteps} steps.</b> The nearest miss is shown; it would be
            another drink.
          </p>
        )}
        {result?.outcome === 'nothingToTry' && (
          <p role="status" className="mt-3 border-l-4 border-mind pl-3">
            <b className="font-semibold">Nothing of its kind is in stock and was tasted.</b> Taste a flight, or look at
            the back bar.
          </p>
        )}
        {shown && (
          <section aria-label="The answer looked at" className="mt-4">
            <SplitBar
              parts={shown.parts.map((p) => ({
                name: nameIn(book.ingredients, p.slug),
                share: p.volumeMl / (units * stepMl),
              }))}
              volumeMl={units * stepMl}
              stepMl={stepMl}
              ounceMl={kit.ounceMl}
            />
            <p className="mt-1 flex flex-wrap items-baseline gap-x-4">
              <span className="text-lg">{shown.parts.map((p) => nameIn(book.ingredients, p.slug)).join(' and ')}</span>
              <NearWords distance={shown.distance} />
              <span className="text-sm text-soft">
                {shown.abvPct.toFixed(1)} %
                {shown.pricePerLitre !== undefined && `, ${moneyText(shown.pricePerLitre, currency)} a litre`}
              </span>
            </p>
            <div className="no-print mt-2 flex flex-wrap gap-2">
              {lines && mayDo(who.role, 'saveDraft') && (
                <button type="button" className="act act-main" onClick={() => put(lines)}>
                  Pour it in {drink?.name}
                  {seconds !== undefined && `, ${seconds} s at the ${well.name}`}
                </button>
              )}
              {shown.parts.length > 1 && mayDo(who.role, 'editHouse') && (
                <button type="button" className="act" onClick={() => setNaming(true)}>
                  Make a blend of it …
                </button>
              )}
            </div>
          </section>
        )}
        {result && answers.length > 0 && (
          <ol aria-label="All answers" className="mt-4">
            {result.byCount.map((list, k) =>
              list.length === 0 ? (
                <li key={COUNT_WORDS[k]} className={ROW}>
                  <span className="text-sm text-soft">{COUNT_WORDS[k]}</span>
                  <span className="text-sm text-soft">none within {limitSteps} steps</span>
                </li>
              ) : (
                list.map((a, i) => (
                  <li key={keyOf(a)} className={`${ROW} ${a === shown ? 'bg-shoal' : ''}`}>
                    <span className="text-sm text-soft">{i === 0 ? COUNT_WORDS[k] : 'runner-up'}</span>
                    <span className="min-w-0">
                      {a.parts.map((p, n) => (
                        <span key={p.slug} className="inline-block">
                          {n > 0 && <span className="px-1">+</span>}
                          {Number(p.volumeMl.toFixed(1))} ml {nameIn(book.ingredients, p.slug)}
                          <button
                            type="button"
                            className="px-1 text-soft hover:bg-shallow max-sm:min-h-11"
                            aria-label={`Without ${nameIn(book.ingredients, p.slug)}`}
                            title="search without it"
                            onClick={() => setWithout(new Set([...without, p.slug]))}
                          >
                            ×
                          </button>
                        </span>
                      ))}
                      <span className="block">
                        <NearWords distance={a.distance} />
                      </span>
                    </span>
                    <button
                      type="button"
                      className="act min-h-8 text-sm max-sm:min-h-11"
                      disabled={a === shown}
                      onClick={() => setChosen(keyOf(a))}
                    >
                      {a === shown ? 'shown' : 'look at it'}
                    </button>
                  </li>
                ))
              ),
            )}
          </ol>
        )}
        {result && (
          <p className="caption mt-2">
            {countText(result.tried)} mixtures of {bottles.length - result.leftOut.length} bottles compared, none
            skipped that could be nearer
            {onShelf > MOST_SEARCHED &&
              `; only the ${MOST_SEARCHED} nearest by themselves of ${onShelf} on the shelf were taken`}
            {result.leftOut.length > 0 &&
              `; left out, not placed on all lines: ${result.leftOut.map((l) => l.name).join(', ')}`}
          </p>
        )}
      </div>
      <aside aria-label="How near" className="border-hair max-lg:mt-4 max-lg:border-t max-lg:pt-3 lg:border-l lg:pl-5">
        <StyleLines
          target={target.style}
          series={
            shown
              ? [
                  {
                    label: shown.parts.map((p) => nameIn(book.ingredients, p.slug)).join(' and '),
                    profile: exactly(shown.style),
                  },
                ]
              : []
          }
        />
        {shown && <Distances answer={shown} />}
        {document && effect && <InTheGlass document={document} result={effect} seconds={seconds} />}
      </aside>
      {isNaming && shown && (
        <NewBlend
          recipe={{ by: 'volume', components: shown.parts.map((p) => ({ ingredient: p.slug, amount: p.volumeMl })) }}
          onClose={() => setNaming(false)}
          {...(line && asked
            ? {
                onMade: (slug: string) => {
                  const { slot: _, figures: __, volumeMl: ___, ...rest } = asked
                  const amount = asked.amount ?? { value: units * stepMl, unit: 'ml' as const }
                  put([{ ...rest, ingredient: slug, amount }])
                },
              }
            : {})}
        />
      )}
    </div>
  )
}

const keyOf = (a: StandInAnswer) => a.parts.map((p) => `${p.slug} ${p.volumeMl}`).join(' ')

/** A further bottle is opened only for this much nearer, in steps. */
const WORTH_A_BOTTLE = 0.15

/** The nearest, but with fewer bottles where a further one hardly helps. */
function bestOf(byCount: readonly StandInAnswer[][]): StandInAnswer | undefined {
  let best: StandInAnswer | undefined
  for (const [answer] of byCount) {
    if (answer && (!best || answer.distance.steps < best.distance.steps - WORTH_A_BOTTLE)) best = answer
  }
  return best
}

const exactly = (style: StandInAnswer['style']) =>
  Object.fromEntries(
    Object.entries(style).map(([axis, value]) => [axis, { value, low: value, high: value, tasters: 1 }]),
  )

/** What is not on the lines, in steps each. */
function Distances({ answer }: { answer: StandInAnswer }) {
  const { strength, sugar, acid, colour, price } = answer.distance
  const rows: [string, number | undefined][] = [
    ['strength', strength],
    ['sugar', sugar],
    ['acid', acid],
    ['colour', colour],
    ['dearer by', price],
  ]
  return (
    <table className="mt-2 w-full text-sm" aria-label="Distance of the rest">
      <tbody>
        <tr className="text-soft">
          {rows.map(([label]) => (
            <th key={label} scope="col" className="text-center font-normal">
              {label}
            </th>
          ))}
        </tr>
        <tr>
          {rows.map(([label, steps]) => (
            <td
              key={label}
              className={`text-center ${steps !== undefined && Math.abs(steps) > 1 ? 'font-semibold text-mind' : ''}`}
            >
              {steps === undefined ? '·' : stepsText(steps)}
            </td>
          ))}
        </tr>
      </tbody>
    </table>
  )
}
