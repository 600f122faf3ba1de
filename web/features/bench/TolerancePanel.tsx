import { type DrinkDocument, MEASURES } from '@conch/core/drink'
import type { HouseBook, Well } from '@conch/core/house'
import { CAUSES, SKILLS, type SkillName, type Tolerance } from '@conch/core/means'
import { keysOf } from '@conch/core/schema/keysOf'
import { useState } from 'react'
import { countText, measureText } from '../../graphics/format.ts'
import { useTolerance } from '../../workers/bench.ts'
import { useOwnHand } from '../learn/index.ts'

const RUNS = 10_000
const SEED = 20_011

/** How often a hand lands in the standard, what throws it out, and what one change would help most. */
export function TolerancePanel({ document, book, well }: { document: DrinkDocument; book: HouseBook; well: Well }) {
  const [chosen, setChosen] = useState<SkillName | 'own'>()
  const own = useOwnHand()
  // Once it is measured, it stands in.
  const whose = chosen ?? (own ? 'own' : 'trained')
  const skill = whose === 'own' ? 'trained' : whose
  const hand =
    whose === 'own' && own
      ? { biasFraction: own.hand.biasFraction.value, scatterFraction: own.hand.scatterFraction.value }
      : undefined
  const { progress, answer, start, stop } = useTolerance(book, document, well.slug, document.standard)
  const { pourFraction, secondsFraction, iceFraction } = SKILLS[skill]
  return (
    <section aria-label="How often it lands" className="mt-5">
      <h2 className="border-b border-ink text-lg">How often it lands</h2>
      <p className="flex flex-wrap items-center gap-2 py-2">
        <select
          aria-label="Whose hand"
          className="inplace"
          value={whose}
          onChange={(e) => setChosen(e.target.value as SkillName | 'own')}
        >
          {own && <option value="own">your own hand</option>}
          {keysOf(SKILLS).map((k) => (
            <option key={k} value={k}>
              {SKILLS[k].label}
            </option>
          ))}
        </select>
        {progress === undefined ? (
          <button type="button" className="act" onClick={() => start({ skill, hand, runs: RUNS, seed: SEED })}>
            Make it {countText(RUNS)} times
          </button>
        ) : (
          <>
            <progress className="h-2 w-32" value={progress} max={1} aria-label="Makings done" />
            <button type="button" className="act" onClick={stop}>
              Stop
            </button>
          </>
        )}
      </p>
      <p className="caption">
        {hand && own ? (
          <>
            Your own hand, by {own.hand.count} test pours: {hand.biasFraction < 0 ? '−' : '+'}
            {Math.abs(100 * hand.biasFraction).toFixed(1)} % on average, ±{(100 * hand.scatterFraction).toFixed(1)} %;
            seconds, ice and temperatures as of a trained hand, assumed.
          </>
        ) : (
          <>
            A {SKILLS[skill].label}: pours ±{Math.round(100 * pourFraction)} %, seconds ±
            {Math.round(100 * secondsFraction)} %, ice ±{Math.round(100 * iceFraction)} %, everything within 1.5 K;
            assumed, not measured in this house.
          </>
        )}
      </p>
      {answer && <Answer answer={answer} document={document} />}
    </section>
  )
}

function Answer({ answer, document }: { answer: Tolerance; document: DrinkDocument }) {
  const { inFraction, inLow, inHigh, leading, causes, measures } = answer
  const band = leading && document.standard[leading]
  const best = [...causes].sort((a, b) => b.halvedInFraction - a.halvedInFraction)[0]
  const gain = best ? best.halvedInFraction - inFraction : 0
  const outs = Object.entries(measures)
    .map(([m, v]) => ({ measure: m as keyof typeof MEASURES, out: v.belowFraction + v.aboveFraction, ...v }))
    .filter((m) => m.out >= 0.005)
    .sort((a, b) => b.out - a.out)
  return (
    <div className="mt-2" aria-live="polite">
      <p>
        <b className="font-display text-2xl">{Math.round(100 * inFraction)} of 100</b> glasses in the standard{' '}
        <span className="caption">
          ({(100 * inLow).toFixed(1)} to {(100 * inHigh).toFixed(1)}, after {countText(answer.runs)})
        </span>
      </p>
      {outs.length > 0 && (
        <p className="text-sm text-soft">
          out most often by{' '}
          {outs
            .slice(0, 3)
            .map((m) => `${MEASURES[m.measure].label} (${(100 * m.out).toFixed(0)} %)`)
            .join(', ')}
        </p>
      )}
      {leading && band && (
        <figure className="mt-2">
          <Tornado answer={answer} band={band} />
          <figcaption className="caption">
            {MEASURES[leading].label}, {MEASURES[leading].unit}: nine of ten glasses when only this varies; the band is
            the standard.
          </figcaption>
        </figure>
      )}
      {best && gain >= 0.01 ? (
        <p className="mt-2">
          One change helps most: <b className="font-semibold">{CAUSES[best.cause].help}</b>. Half the scatter of{' '}
          {CAUSES[best.cause].label} makes it {Math.round(100 * best.halvedInFraction)} of 100.
        </p>
      ) : (
        <p className="mt-2 text-soft">No single change helps by as much as one glass in a hundred.</p>
      )}
    </div>
  )
}

const ROW = 22
/** Causes as bars on the measure that leaves its band most, the widest first. */
function Tornado({ answer, band }: { answer: Tolerance; band: { low: number; high: number } }) {
  const { causes, leading } = answer
  if (!leading) return null
  const low = Math.min(band.low, ...causes.map((c) => c.low))
  const high = Math.max(band.high, ...causes.map((c) => c.high))
  const pad = (high - low) * 0.08
  const left = 118
  const width = 360
  const x = (v: number) => left + ((v - low + pad) / (high - low + 2 * pad)) * (width - left)
  const height = causes.length * ROW + 18
  const label = causes
    .map((c) => `${CAUSES[c.cause].label}: ${measureText(leading, c.low)} to ${measureText(leading, c.high)}`)
    .join('; ')
  return (
    <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label={label} className="w-full max-w-[30rem]">
      <rect x={x(band.low)} y={0} width={x(band.high) - x(band.low)} height={causes.length * ROW} fill="var(--band)" />
      <path
        d={`M${x(band.low)} 0V${causes.length * ROW}M${x(band.high)} 0V${causes.length * ROW}`}
        stroke="var(--standard)"
      />
      {causes.map((c, i) => (
        <g key={c.cause}>
          <text x={0} y={i * ROW + 15} fontSize={12} fill="var(--ink)">
            {CAUSES[c.cause].label}
          </text>
          <rect
            x={x(c.low)}
            y={i * ROW + 5}
            width={Math.max(1.5, x(c.high) - x(c.low))}
            height={ROW - 10}
            fill="var(--ink)"
          />
        </g>
      ))}
      {[band.low, band.high].map((v) => (
        <text key={v} x={x(v)} y={height - 5} fontSize={11} textAnchor="middle" fill="var(--standard)">
          {measureText(leading, v)}
        </text>
      ))}
    </svg>
  )
}
