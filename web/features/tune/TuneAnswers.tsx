import { type DrinkDocument, MEASURE_NAMES, MEASURES, type Standard } from '@conch/core/drink'
import { bySlug, currencyOf, type HouseBook, type Well } from '@conch/core/house'
import { missWords } from '@conch/core/means'
import { nearestOnGrid, pourGrid, usualMeasures } from '@conch/core/measure'
import { type TuneAnswer, type TuneAsked, type TuneResult, unpricedLines } from '@conch/core/tune'
import type { ReactNode } from 'react'
import { bareMeasureText, measureText, mlText, moneyText } from '../../graphics/format.ts'
import { GlassSection } from '../../graphics/GlassSection.tsx'
import { Window } from '../../graphics/Window.tsx'
import { type GlassAnswer, useGlasses } from '../../workers/compute.ts'
import { glassAt } from '../drink/index.ts'

interface TuneAnswersProps {
  result: Exclude<TuneResult, { outcome: 'contradiction' | 'problem' | 'noStandard' }>
  /** As it is written down: the dashed glass. */
  saved: DrinkDocument
  /** What was tuned, which may have another glass or a stand-in already, and to what. */
  asked: Omit<TuneAsked, 'book'>
  book: HouseBook
  well: Well
  /** What a serve costs now, where that is known. */
  costNow: number | undefined
  onUse: ((answer: TuneAnswer) => void) | undefined
  /** What else can be done with one. */
  also?: ((answer: TuneAnswer) => ReactNode) | undefined
}

/** Two or three ways beside each other: what moves, the glass with the one of now dashed, what it costs and gives up. */
export function TuneAnswers({ result, saved, asked, book, well, costNow, onUse, also }: TuneAnswersProps) {
  const { standard } = asked
  const isOther = asked.document !== saved
  const answers =
    result.outcome === 'found'
      ? result.answers
      : result.outcome === 'meets'
        ? [result.answer]
        : result.closest
          ? [result.closest]
          : []
  const glasses = useGlasses([saved, ...answers.map((a) => a.document)], book, well.slug, true)
  const [now, ...then] = glasses
  return (
    <section aria-label="Answers">
      <h2 className="border-b border-ink text-lg">{HEADS[result.outcome]}</h2>
      {result.outcome === 'none' && (
        <p className="mt-1 text-sm text-soft">
          {answers.length > 0
            ? 'This comes nearest. Unlock a line, widen a window, or let something be put in.'
            : 'Nothing that was tried can be made.'}
        </p>
      )}
      <ol className="mt-2 grid gap-5" style={{ gridTemplateColumns: 'repeat(auto-fit, minmax(14.500rem, 1fr))' }}>
        {answers.map((answer, i) => (
          <li key={i} className="min-w-0 border-t-2 border-ink pt-2">
            <Moved answer={answer} book={book} />
            <Section answer={answer} glass={then[i]} now={now} {...{ saved, book, well }} />
            <Windows answer={answer} standard={standard} book={book} />
            <GivesUp {...{ answer, standard, book, well, costNow }} />
            {onUse && (isOther || answer.lines.length > 0) && (
              <button type="button" className={`act mt-2 ${i === 0 ? 'act-main' : ''}`} onClick={() => onUse(answer)}>
                Take this as a draft
              </button>
            )}{' '}
            {also?.(answer)}
          </li>
        ))}
      </ol>
    </section>
  )
}

const HEADS = {
  meets: 'It is there already',
  found: 'What does it',
  none: 'Nothing within three lines does it',
} as const

/** How a pour is measured: "½ oz + a bar spoon". */
function movesText(volumeMl: number, { settings: { measures, kit } }: HouseBook): string {
  const pour = nearestOnGrid(volumeMl, pourGrid(measures ?? usualMeasures(kit)))
  if (!pour || Math.abs(pour.volumeMl - volumeMl) > 0.05) return ''
  return pour.moves.map((m) => `${m.name} ${mlText(m.volumeMl)}`).join(' + ')
}

function Moved({ answer, book }: { answer: TuneAnswer; book: HouseBook }) {
  return (
    <ul>
      {answer.lines.map((l) => (
        <li key={l.index}>
          <b className="font-semibold">{l.name}</b> {l.fromMl === 0 ? 'put in: ' : `${mlText(l.fromMl)} → `}
          <b className="font-semibold">{mlText(l.toMl)}</b>
          <span className="caption block">{movesText(l.toMl, book)}</span>
        </li>
      ))}
      {answer.lines.length === 0 && <li>Nothing has to move.</li>}
    </ul>
  )
}

function Section({
  answer,
  glass,
  now,
  saved,
  book,
  well,
}: {
  answer: TuneAnswer
  glass: GlassAnswer | undefined
  now: GlassAnswer | undefined
  saved: DrinkDocument
  book: HouseBook
  well: Well
}) {
  if (!glass) return <div className="late h-[190px] text-soft">…</div>
  if (!glass.ok || !glass.result.glass) return null
  const vessel = (d: DrinkDocument) => {
    const found = bySlug(book.glasses, glassAt(d, well.slug))
    const profile = d.glassProfile ?? found?.profile
    return profile && { profile, stemMm: found?.stemMm ?? 0 }
  }
  const is = vessel(answer.document)
  const was = vessel(saved)
  const wasFill = now?.ok ? now.result.glass?.fill : undefined
  if (!is) return null
  return (
    <GlassSection
      {...is}
      glass={glass.result.glass}
      ghost={was && wasFill ? { profile: was.profile, fill: wasFill } : undefined}
      height={190}
      maxWidth={270}
      hasLabels={false}
    />
  )
}

/** Every window that it is tuned to, at every well. */
function Windows({ answer, standard, book }: { answer: TuneAnswer; standard: Standard; book: HouseBook }) {
  const measures = MEASURE_NAMES.filter((m) => standard[m])
  return (
    <table className="mt-1 w-full text-sm" aria-label="In the glass">
      <thead className={answer.glasses.length > 1 ? 'caption' : 'sr-only'}>
        <tr>
          <td />
          {answer.glasses.map((g) => (
            <th key={g.well} scope="col" className="text-left font-normal">
              {bySlug(book.wells, g.well)?.name ?? g.well}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {measures.map((m) => (
          <tr key={m}>
            <th scope="row" className="pr-2 text-left font-normal text-soft">
              {MEASURES[m].label}
            </th>
            {answer.glasses.map((g) => (
              <td key={g.well}>
                <span className="flex items-center gap-1.5">
                  <Window measure={m} predicted={g.predictions[m]} band={standard[m]} width={40} height={14} isAlone />
                  {g.predictions[m] && bareMeasureText(m, g.predictions[m].value)}
                </span>
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** Nearer to an end of a window than this part of it: at its edge. */
const EDGE = 0.08

/** What is at the edge, what is missed, and what it costs. */
function GivesUp({
  answer,
  standard,
  book,
  well,
  costNow,
}: {
  answer: TuneAnswer
  standard: Standard
  book: HouseBook
  well: Well
  costNow: number | undefined
}) {
  const misses = answer.glasses.flatMap((g) =>
    g.misses.map((m) => {
      const at = answer.glasses.length > 1 ? ` at the ${bySlug(book.wells, g.well)?.name ?? g.well}` : ''
      const by = m.measure === 'overflow' ? mlText(m.value) : measureText(m.measure, m.value)
      return `${missWords(m)}${at} (${by})`
    }),
  )
  const atEdge = MEASURE_NAMES.flatMap((m) => {
    const band = standard[m]
    const isAt = answer.glasses.some(({ predictions }) => {
      const value = predictions[m]?.value
      return (
        band && value !== undefined && Math.min(value - band.low, band.high - value) < EDGE * (band.high - band.low)
      )
    })
    return isAt ? [MEASURES[m].label] : []
  })
  const currency = currencyOf(book.settings)
  const cost =
    answer.cost === undefined
      ? `what it costs is not known: no price for ${unpricedLines(answer.document, book, well.slug).join(', ')}`
      : costNow === undefined || Math.abs(answer.cost - costNow) < 0.005
        ? `${moneyText(answer.cost, currency)} a serve`
        : `${moneyText(answer.cost, currency)} a serve, ${moneyText(Math.abs(answer.cost - costNow), currency)} ${answer.cost < costNow ? 'less' : 'more'} than now`
  return (
    <ul className="mt-1 text-sm text-soft">
      {misses.map((m) => (
        <li key={m} className="text-stop">
          {m}
        </li>
      ))}
      {misses.length === 0 && atEdge.length > 0 && <li>close to the edge, a hand may leave it: {atEdge.join(', ')}</li>}
      <li>{cost}</li>
      <li>{answer.alcoholG.toFixed(1)} g alcohol a serve</li>
    </ul>
  )
}
