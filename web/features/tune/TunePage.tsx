import { type Drink, mayDo } from '@conch/contract'
import { type DrinkDocument, pourName, standardFrom } from '@conch/core/drink'
import { bySlug, currencyOf, type HouseBook } from '@conch/core/house'
import { ownVersionOf } from '@conch/core/lineage'
import { keysOf } from '@conch/core/schema/keysOf'
import {
  askedFor,
  costOfServe,
  TARGETS,
  type Target,
  type TuneAnswer,
  type TuneAsked,
  wellsThatMake,
} from '@conch/core/tune'
import { useQuery } from '@tanstack/react-query'
import { type ReactNode, useMemo, useState } from 'react'
import { Link, useLocation, useNavigate, useParams } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useOpened } from '../../app/lastOpened.ts'
import { drinkQuery } from '../../app/queries.ts'
import { useAddress } from '../../app/useAddress.ts'
import { useWho } from '../../app/who.ts'
import { countText } from '../../graphics/format.ts'
import { PourTonight } from '../../outs/index.ts'
import { NeedShelfFor } from '../../shelf/NeedShelf.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import { Failure, Loading } from '../../ui/States.tsx'
import { useGlass } from '../../workers/compute.ts'
import { type Tuned, useTuned } from '../../workers/tune.ts'
import { type ReplaceLine, withLines } from '../drink/index.ts'
import { TuneAnswers } from './TuneAnswers.tsx'
import { TuneLines } from './TuneLines.tsx'
import { inGlass, NOTHING_ASKED, readWish, type TuneState, tasted, type Wish } from './tuneState.ts'

/** A drink brought to what must be in its glass: the nearest pours that the house's jiggers measure. */
export function TunePage() {
  const { slug = '' } = useParams()
  const drink = useQuery(drinkQuery(slug))
  const { search } = useAddress()
  const { state, key } = useLocation()
  useOpened(drink.data?.name)
  if (drink.isPending) return <Loading what="the drink" />
  if (!drink.data) return <Failure error={drink.error} onRetry={() => drink.refetch()} />
  const { versions, draft, poured, name } = drink.data
  const asked = search.get('v')
  const open =
    asked === 'draft' && draft
      ? 'draft'
      : (versions.find((v) => String(v.number) === asked)?.number ??
        (draft ? 'draft' : (poured?.version ?? ownVersionOf(versions)?.number)))
  const document = open === 'draft' ? draft?.document : versions.find((v) => v.number === open)?.document
  if (!document || open === undefined) return <Failure error={`${name} has nothing written down yet.`} />
  // A stand-in that was found for a line comes with the address.
  const replaceLine = (state as { replaceLine?: ReplaceLine } | null)?.replaceLine
  const replaced = replaceLine && withLines(document, replaceLine)
  return (
    <NeedShelfFor
      key={`${slug} ${open} ${replaced ? key : ''}`}
      what="what it pours"
      documents={replaced ? [document, replaced] : [document]}
    >
      {() => (
        <OpenTuner
          drink={drink.data}
          open={open}
          saved={document}
          standIn={replaced && replaceLine && { document: replaced, line: replaceLine }}
        />
      )}
    </NeedShelfFor>
  )
}

/** A spec with a stand-in for one of its lines. */
interface PouredInstead {
  document: DrinkDocument
  line: ReplaceLine
}

/** "Smith's rum and Amber rum for Pale rum". */
function insteadWords({ line }: PouredInstead, book: HouseBook): string {
  return `${line.lines.map((l) => pourName(l, book)).join(' and ')} for ${pourName(line.was, book)}`
}

/** What is asked for by a wish: the document that is tuned, and what must be in its glass; or why nothing can be. */
function useAsked(drink: Drink, document: DrinkDocument, state: TuneState) {
  const { book, well } = useHouse()
  const { wish, lines, mayAdd, keepRatio, mostCost, isEverywhere } = state
  const likeNumber = wish.startsWith('like:') ? Number(wish.slice('like:'.length)) : undefined
  const like = drink.versions.find((v) => v.number === likeNumber)?.document
  const now = useGlass(document, book, well.slug, 'tuned')
  const liked = useGlass(like, book, well.slug, `like ${likeNumber}`)
  const asItIs = useMemo(() => costOfServe(document, book, well.slug), [document, book, well.slug])
  const asked = useMemo(() => {
    if (!now?.ok) return undefined
    const glass = wish.startsWith('glass:') ? wish.slice('glass:'.length) : undefined
    const tuned = glass ? inGlass(document, well.slug, glass) : document
    const target: Target = wish in TARGETS ? (wish as Target) : 'standard'
    const own = askedFor(target, document, {
      predictions: now.result.predictions,
      alcoholG: now.result.serve.alcoholG,
      standardDrinkG: book.settings.standardDrinkG,
      cost: asItIs,
      touch: book.settings.noteSteps,
    })
    const likeStandard = liked?.ok ? tasted(standardFrom(liked.result.predictions)) : undefined
    if (likeNumber !== undefined && !likeStandard) return undefined
    const part = likeStandard ? { standard: likeStandard } : glass ? { ...own, standard: tasted(own.standard) } : own
    const asked: Omit<TuneAsked, 'book'> = {
      ...part,
      document: tuned,
      wells: glass || !isEverywhere ? [well.slug] : wellsThatMake(tuned, book, well.slug),
      lines,
      mayAdd,
      ...(keepRatio ? { keepRatio } : {}),
      ...(mostCost === undefined ? {} : { mostCost: Math.min(mostCost, part.mostCost ?? mostCost) }),
    }
    return asked
  }, [
    now,
    liked,
    document,
    wish,
    lines,
    mayAdd,
    keepRatio,
    mostCost,
    isEverywhere,
    asItIs,
    book,
    well.slug,
    likeNumber,
  ])
  const refused = [now, liked].find((answer) => answer && !answer.ok)
  return { asked, problem: refused && !refused.ok ? refused.problems[0]?.message : undefined }
}

function OpenTuner({
  drink,
  open,
  saved,
  standIn,
}: {
  drink: Drink
  open: number | 'draft'
  /** As it is written down, before anything stands in for anything. */
  saved: DrinkDocument
  standIn: PouredInstead | undefined
}) {
  const { book, well } = useHouse()
  const document = standIn?.document ?? saved
  const who = useWho()
  const navigate = useNavigate()
  const { search, put } = useAddress()
  const [rest, setRest] = useState<Omit<TuneState, 'wish'>>(NOTHING_ASKED)
  const wish = readWish(search.get('to'))
  const state = useMemo(() => ({ ...rest, wish }), [rest, wish])
  const { asked, problem } = useAsked(drink, document, state)
  const tuned = useTuned(book, asked)
  const costNow = useMemo(() => costOfServe(saved, book, well.slug), [saved, book, well.slug])
  const wordsOf = (answer: TuneAnswer) => {
    const glass = wish.startsWith('glass:') ? bySlug(book.glasses, wish.slice('glass:'.length)) : undefined
    return [
      ...(standIn ? [insteadWords(standIn, book)] : []),
      ...(glass ? [`in the ${glass.name}`] : []),
      ...answer.lines.map((l) => `${l.name} ${round(l.fromMl)} → ${round(l.toMl)} ml`),
    ].join(', ')
  }
  const use = (answer: TuneAnswer) =>
    void navigate(`/drinks/${drink.slug}?v=${open}`, {
      state: { useSpec: { document: answer.document, note: `${wordsOf(answer)}.` } },
    })
  const which = open === 'draft' ? 'The draft' : `Version ${open}`
  return (
    <div className="px-4 pt-3 pb-10">
      <p className="caption">
        <Link className="underline" to={`/drinks/${drink.slug}?v=${open}`}>
          {which}
        </Link>
        {standIn && `, with ${insteadWords(standIn, book)}`} · tuned
      </p>
      <header className="mb-3 flex flex-wrap items-center gap-x-3 gap-y-1">
        <h1 className="text-3xl break-words">{drink.name}</h1>
        <span className="text-soft">has to meet</span>
        <Wished {...{ drink, open, wish }} onWish={(to) => put({ to: to === 'standard' ? undefined : to })} />
        <label className="flex min-h-9 items-center gap-1.5 text-sm max-sm:min-h-11">
          <input
            type="checkbox"
            checked={rest.isEverywhere}
            disabled={wish.startsWith('glass:') || book.wells.length < 2}
            onChange={(e) => setRest({ ...rest, isEverywhere: e.target.checked })}
          />
          at every well
        </label>
        <span className="flex items-center gap-1.5 text-sm">
          at most
          <NumberField
            label="Cost of a serve at most"
            value={rest.mostCost}
            low={0}
            high={1000}
            step={0.1}
            digits={2}
            onChange={(mostCost) => setRest({ ...rest, mostCost: mostCost > 0 ? mostCost : undefined })}
          />
          {currencyOf(book.settings)} a serve
        </span>
      </header>
      <div className="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,25rem)_minmax(0,1fr)]">
        <TuneLines document={document} book={book} state={state} onChange={(c) => setRest({ ...rest, ...c })} />
        <div className="max-lg:order-first">
          {problem && (
            <p role="status" className="text-stop">
              At the {well.name} it cannot be made: {problem}
            </p>
          )}
          <Progress tuned={tuned} />
          {tuned.result && asked && (
            <Result
              {...{ asked, saved, costNow }}
              result={tuned.result}
              onUse={mayDo(who.role, 'saveDraft') ? use : undefined}
              also={(answer) => <PourTonight drink={drink} document={answer.document} words={wordsOf(answer)} />}
            />
          )}
        </div>
      </div>
    </div>
  )
}

const round = (ml: number) => Number(ml.toFixed(1))

function Wished({
  drink,
  open,
  wish,
  onWish,
}: {
  drink: Drink
  open: number | 'draft'
  wish: Wish
  onWish: (wish: Wish) => void
}) {
  const { book, well } = useHouse()
  return (
    <select
      aria-label="What it has to meet"
      className="field w-auto max-w-72"
      value={wish}
      onChange={(e) => onWish(readWish(e.target.value))}
    >
      <optgroup label="in this glass">
        {keysOf(TARGETS).map((t) => (
          <option key={t} value={t}>
            {TARGETS[t]}
          </option>
        ))}
      </optgroup>
      <optgroup label={`in another glass, at the ${well.name}`}>
        {book.glasses.map((g) => (
          <option key={g.slug} value={`glass:${g.slug}`}>
            the same taste in the {g.name}
          </option>
        ))}
      </optgroup>
      <optgroup label="as another version is">
        {drink.versions
          .filter((v) => v.number !== open)
          .map((v) => (
            <option key={v.number} value={`like:${v.number}`}>
              like version {v.number} {v.label}
            </option>
          ))}
      </optgroup>
    </select>
  )
}

function Progress({ tuned: { progress, stop } }: { tuned: Tuned }) {
  if (progress === undefined) return null
  return (
    <p role="status" className="late flex items-center gap-3 text-soft">
      <progress value={progress} max={1} aria-label="Searched" className="h-2 w-40" /> searching …
      <button type="button" className="act min-h-8 text-sm max-sm:min-h-11" onClick={stop}>
        Stop
      </button>
    </p>
  )
}

/** Whether nothing is missed but what seconds and ice decide. */
const isOnlyTheIce = (closest: TuneAnswer | undefined) =>
  closest?.glasses.every((g) => g.misses.every((m) => m.measure === 'dilutionPct' || m.measure === 'temperatureC')) ??
  false

function Result({
  result,
  asked,
  saved,
  costNow,
  onUse,
  also,
}: {
  result: NonNullable<Tuned['result']>
  asked: Omit<TuneAsked, 'book'>
  saved: DrinkDocument
  costNow: number | undefined
  onUse: ((answer: TuneAnswer) => void) | undefined
  also: (answer: TuneAnswer) => ReactNode
}) {
  const { book, well } = useHouse()
  if (result.outcome === 'contradiction') return <p className="text-mind">This cannot be: {result.reason}.</p>
  if (result.outcome === 'problem') return <p className="text-stop">{result.problems[0]?.message}</p>
  if (result.outcome === 'noStandard')
    return <p className="text-soft">Nothing is promised about this glass yet: hold a standard first.</p>
  return (
    <>
      {result.outcome === 'none' && isOnlyTheIce(result.closest) && (
        <p className="mb-2">
          Its pours are right; what is off is the ice and the seconds.{' '}
          <Link className="underline" to="../bench" relative="path">
            On the bench
          </Link>
        </p>
      )}
      <TuneAnswers {...{ result, saved, book, well, costNow, onUse, also }} asked={asked} />
      {result.outcome !== 'meets' && (
        <p className="caption mt-4">
          {countText(result.effort.looked)} sets of pours looked at, {countText(result.effort.made)} made again by the
          full model; up to three lines, exactly.
        </p>
      )}
    </>
  )
}
