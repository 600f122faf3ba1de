import {
  amongOthers,
  balanceOf,
  type Consequence,
  type DrinkDocument,
  type DrinkResult,
  MEASURE_NAMES,
  MEASURES,
  resolveDrink,
  standingOf,
} from '@conch/core/drink'
import { bySlug, type HouseBook, SAFETY_DEFERRAL, type Well } from '@conch/core/house'
import { standardDrinksOf } from '@conch/core/liquid'
import { lookWords } from '@conch/core/palate'
import { useQuery } from '@tanstack/react-query'
import { type ReactNode, useMemo } from 'react'
import { editionQuery, editionsQuery } from '../../app/queries.ts'
import { measureText, mlText } from '../../graphics/format.ts'
import { GlassSection } from '../../graphics/GlassSection.tsx'
import { LookSwatch } from '../../graphics/LookSwatch.tsx'
import { Window } from '../../graphics/Window.tsx'
import { glassAt } from './edits.ts'

interface MarginProps {
  document: DrinkDocument
  book: HouseBook
  well: Pick<Well, 'slug' | 'name'>
  result: DrinkResult
  consequences: Consequence[]
  /** What it is held against: the saved version under a draft. */
  ghost?: { document: DrinkDocument; result: DrinkResult } | undefined
  /** Under the windows: taking the standard from the glass. */
  children?: ReactNode
}

/** The profile that a drink is served in at a well. */
function vesselOf(document: DrinkDocument, book: HouseBook, well: string) {
  if (document.glassProfile) return { profile: document.glassProfile, stemMm: 0 }
  const glass = bySlug(book.glasses, glassAt(document, well))
  return glass && { profile: glass.profile, stemMm: glass.stemMm }
}

/** The consequences of what stands on the sheet: the glass, the windows, and what follows, worst first. */
export function Margin({ document, book, well, result, consequences, ghost, children }: MarginProps) {
  const vessel = vesselOf(document, book, well.slug)
  const ghostVessel = ghost && vesselOf(ghost.document, book, well.slug)
  const ghostFill = ghost?.result.glass?.fill
  return (
    <div>
      {result.glass && vessel ? (
        <figure>
          <GlassSection
            {...vessel}
            glass={result.glass}
            ghost={
              ghostVessel && ghostFill
                ? {
                    profile: isSameProfile(ghostVessel.profile, vessel.profile) ? vessel.profile : ghostVessel.profile,
                    fill: ghostFill,
                  }
                : undefined
            }
            height={250}
          />
          <figcaption className="caption">
            {result.glass.name} at the {well.name}, at hand-over
            {ghost && ' · dashed: the saved version'}
          </figcaption>
          {result.glass.look && <LookLine look={result.glass.look} />}
        </figure>
      ) : (
        <p className="border border-dashed border-hair p-4 text-soft">
          No glass is chosen: the figures are those after the last pour.
        </p>
      )}
      <Figures {...{ document, book, well, result, ghost }} />
      {children}
      <Consequences consequences={consequences} pours={result.pours} />
    </div>
  )
}

/** The liquid as it looks, and when more ice has melted. */
function LookLine({ look }: { look: NonNullable<NonNullable<DrinkResult['glass']>['look']> }) {
  const title = look.assumed.length > 0 ? `assumed: the look of ${look.assumed.join(', ')}` : undefined
  return (
    <p className="mt-1 flex items-center gap-2 text-sm" title={title}>
      <LookSwatch look={look.atHandOver} />
      <span>{lookWords(look.atHandOver)}</span>
      <LookSwatch look={look.after10Min} />
      <span className="text-soft">after 10 min</span>
    </p>
  )
}

const isSameProfile = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)

/** Sour against sweet in ml, and where it lies among the house's other drinks. */
function useBalance(document: DrinkDocument, book: HouseBook, well: string) {
  const newest = useQuery(editionsQuery).data?.[0]?.number
  const poured = useQuery({ ...editionQuery(newest ?? 0), enabled: newest !== undefined }).data
  return useMemo(() => {
    const resolved = resolveDrink(document, book, well)
    const own = resolved.ok ? balanceOf(resolved.drink) : undefined
    const others = poured?.lock.chapters.flatMap((c) => c.drinks.map((d) => d.document)) ?? []
    return own && { ...own, among: amongOthers(document, others, book, well) }
  }, [document, book, well, poured])
}

const AMONG_WORDS = { drier: 'drier than', among: 'among', sweeter: 'sweeter than' }

function Figures({
  document,
  book,
  well,
  result,
  ghost,
}: Pick<MarginProps, 'document' | 'book' | 'well' | 'result' | 'ghost'>) {
  const { standardDrinkG } = book.settings
  const drinks = standardDrinksOf(result.serve.alcoholG, standardDrinkG)
  const balance = useBalance(document, book, well.slug)
  return (
    <table className="mt-2 w-full" aria-label="In the glass">
      <tbody>
        {MEASURE_NAMES.map((name) => {
          const predicted = result.predictions[name]
          if (!predicted) return null
          const band = document.standard[name]
          const standing = standingOf(predicted, band)
          const was = ghost?.result.predictions[name]
          const hasMoved = was !== undefined && measureText(name, was.value) !== measureText(name, predicted.value)
          return (
            <tr key={name} data-measure={name} className="h-[25px]">
              <th scope="row" className="pr-2 text-left text-sm font-normal text-soft">
                {MEASURES[name].label}
              </th>
              <td>
                <Window measure={name} predicted={predicted} band={band} ghost={hasMoved ? was : undefined} isAlone />
              </td>
              <td
                className={`pl-3 text-right whitespace-nowrap ${standing === 'below' || standing === 'above' ? 'font-semibold text-stop' : ''}`}
              >
                {measureText(name, predicted.value)}
                {hasMoved && (
                  <span className="caption block leading-none font-normal">was {measureText(name, was.value)}</span>
                )}
              </td>
            </tr>
          )
        })}
        <tr className="h-[25px] border-t border-hair">
          <th scope="row" className="text-left text-sm font-normal text-soft">
            {result.serve.serves > 1 ? 'each guest' : 'a serve'}
          </th>
          <td colSpan={2} className="text-right" data-testid="standard-drinks">
            {drinks.toFixed(1)} standard drinks · {result.serve.sugarG.toFixed(0)} g sugar
          </td>
        </tr>
        {balance && (
          <tr title={balance.remark}>
            <th scope="row" className="text-left align-baseline text-sm font-normal text-soft">
              sour to sweet
            </th>
            <td colSpan={2} className="text-right" data-testid="balance">
              {mlText(balance.sourMl)} to {mlText(balance.sweetMl)}
              {result.serve.sugarToAcid !== undefined && ` · sugar to acid ${result.serve.sugarToAcid.toFixed(1)}`}
              {balance.among && (
                <span className="caption block leading-tight">
                  {AMONG_WORDS[balance.among.standing]} the {balance.among.others} others on the menu,{' '}
                  {balance.among.low.toFixed(1)} to {balance.among.high.toFixed(1)}
                </span>
              )}
            </td>
          </tr>
        )}
        <tr>
          <th scope="row" className="text-left text-sm font-normal text-soft">
            after 10 min
          </th>
          <td colSpan={2} className="text-right">
            {result.glass
              ? `${measureText('strengthPct', result.glass.after10Min.abvPct)} · ${measureText('temperatureC', result.glass.after10Min.temperatureC)}${offText(result.glass.after10Min.temperatureOffK)}`
              : '—'}
          </td>
        </tr>
      </tbody>
    </table>
  )
}

/** How far minutes in the hand may be off. */
const offText = (offK: number | undefined) => (offK !== undefined && offK >= 0.05 ? ` ± ${offK.toFixed(1)}` : '')

const MARKS: Record<Consequence['weight'], { mark: string; tone: string; word: string }> = {
  stop: { mark: '■', tone: 'text-stop font-semibold', word: 'stop' },
  mind: { mark: '▲', tone: 'text-mind', word: 'mind' },
  note: { mark: '·', tone: 'text-soft', word: 'note' },
}

/** The windows already show which measure left its standard, or only just has not: here they are one line each. */
function asOne(consequences: Consequence[], code: Consequence['code'], words: string): Consequence[] {
  const drifts = consequences.filter((c) => c.code === code)
  const first = drifts[0]
  if (!first || drifts.length === 1) return consequences
  const names = drifts.map((c) => MEASURE_NAMES.map((m) => MEASURES[m].label).find((label) => c.text.startsWith(label)))
  const one = { ...first, text: `${words}: ${names.join(', ')}` }
  return consequences.filter((c) => c.code !== code || c === first).map((c) => (c === first ? one : c))
}

export function Consequences({
  consequences: all,
  pours,
}: {
  consequences: Consequence[]
  pours: DrinkResult['pours']
}) {
  if (all.length === 0) return null
  const short = asOne(asOne(all, 'drift', 'outside the standard'), 'edge', 'inside the standard, but only just')
  const consequences = short.filter((c) => c.code !== 'assumed')
  // Once, however often it is poured.
  const assumed = [...new Map(pours.filter((p) => p.assumed.length > 0).map((p) => [p.name, p])).values()]
  return (
    <section aria-label="What follows from it" className="mt-2 border-t border-hair pt-2">
      <ul>
        {consequences.map((c) => (
          <li key={c.text} className={`flex gap-2 text-sm leading-snug ${MARKS[c.weight].tone}`}>
            <span aria-hidden="true" className="w-3 shrink-0 text-center">
              {MARKS[c.weight].mark}
            </span>
            <span className="sr-only">{MARKS[c.weight].word}:</span>
            <span>{c.text}</span>
          </li>
        ))}
      </ul>
      {assumed.length > 0 && <Assumed pours={assumed} />}
      {consequences.some((c) => c.isSafety) && <p className="caption mt-1.5">{SAFETY_DEFERRAL}</p>}
    </section>
  )
}

/** What is only assumed is one quiet line, which opens. */
function Assumed({ pours }: { pours: DrinkResult['pours'] }) {
  return (
    <details className="ml-5 text-sm text-soft">
      <summary className="cursor-pointer">
        {pours.length === 1 ? 'one thing has figures that are' : `${pours.length} things have figures that are`} only
        assumed
      </summary>
      <ul>
        {pours.map((p) => (
          <li key={p.name}>
            {p.name} ({p.assumed.join(', ')})
          </li>
        ))}
      </ul>
    </details>
  )
}
