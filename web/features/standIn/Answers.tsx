import { mayDo } from '@conch/contract'
import { currencyOf, nameIn } from '@conch/core/house'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { countText, moneyText } from '../../graphics/format.ts'
import { SplitBar } from '../../graphics/SplitBar.tsx'
import { PourTonight } from '../../outs/index.ts'
import { NearWords } from '../../shelf/NearWords.tsx'
import { Computing } from '../../workers/Computing.tsx'
import { keyOf, MOST_SEARCHED, type StandInSearch } from './useStandInSearch.ts'

const ROW =
  'grid grid-cols-[6.5rem_minmax(0,1fr)_auto] items-center gap-x-3 border-b border-hair/60 py-1.5 pr-1 max-sm:grid-cols-[minmax(0,1fr)_auto] max-sm:[&>span:first-child]:col-span-2'
const COUNT_WORDS = ['one bottle', 'two bottles', 'three bottles']

/** What the search came to, where that is not a list. */
export function WhatIsFound({ search }: { search: StandInSearch }) {
  const { name, target, result, limitSteps } = search
  return (
    <>
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
    </>
  )
}

/** The one looked at: how it is cut, and what can be done with it. */
export function LookedAt({ search, onName }: { search: StandInSearch; onName: () => void }) {
  const { book, well } = useHouse()
  const who = useWho()
  const currency = currencyOf(book.settings)
  const { kit } = book.settings
  const { shown, lines, drink, effect, seconds, put, pouredMl, stepMl, name, instead } = search
  if (!shown) return null
  return (
    <section aria-label="The answer looked at" className="mt-4">
      <SplitBar
        parts={shown.parts.map((p) => ({
          name: nameIn(book.ingredients, p.slug),
          share: p.volumeMl / pouredMl,
        }))}
        volumeMl={pouredMl}
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
        {drink && (
          <PourTonight
            drink={drink}
            document={effect && instead}
            words={`${shown.parts.map((p) => nameIn(book.ingredients, p.slug)).join(' and ')} for ${name}`}
          />
        )}
        {lines && mayDo(who.role, 'saveDraft') && (
          <button type="button" className="act act-main" disabled={!effect} onClick={() => put(lines)}>
            Pour it in {drink?.name}
            {seconds !== undefined && `, ${seconds} s at the ${well.name}`}
          </button>
        )}
        {lines && mayDo(who.role, 'saveDraft') && (
          <button type="button" className="act" disabled={!effect} onClick={() => put(lines, 'tuner')}>
            … and tune the rest
          </button>
        )}
        {shown.parts.length > 1 && mayDo(who.role, 'editHouse') && (
          <button type="button" className="act" onClick={onName}>
            Make a blend of it …
          </button>
        )}
      </div>
    </section>
  )
}

/** Every answer: the best of one, two and three bottles, and who came second. */
export function AllAnswers({ search }: { search: StandInSearch }) {
  const { book } = useHouse()
  const { result, answers, shown, limitSteps, without, setWithout, setChosen } = search
  if (!result || answers.length === 0) return null
  return (
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
  )
}

/** How many were compared, and what was not. */
export function Compared({ search, onShelf }: { search: StandInSearch; onShelf: number }) {
  const { result, bottles } = search
  if (!result) return null
  return (
    <p className="caption mt-2">
      {countText(result.tried)} mixtures of {bottles.length - result.leftOut.length} bottles compared, none skipped that
      could be nearer
      {onShelf > MOST_SEARCHED &&
        `; only the ${MOST_SEARCHED} nearest by themselves of ${onShelf} on the shelf were taken`}
      {result.leftOut.length > 0 &&
        `; left out, not placed on all lines: ${result.leftOut.map((l) => l.name).join(', ')}`}
    </p>
  )
}
