import { type handNow, handOf, isBiased, type Sitting } from '@conch/core/learn'
import { HandTrend } from '../../graphics/HandTrend.tsx'

const pct = (x: number) => `${x < 0 ? '−' : ''}${Math.abs(100 * x).toFixed(1)}`
const dashWords = (offMl: number) =>
  Math.abs(offMl) < 0.05
    ? '; a dash is a dash'
    : `; a dash is ${Math.abs(offMl).toFixed(1)} ml too ${offMl > 0 ? 'much' : 'little'}`
/** So many sittings are a trend; older ones would only make it small. */
const TREND = 12
const day = (at: string) => new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short' }).format(new Date(at))

/** A hand in words: what it pours on average, how it scatters, how sure that is; and how it was before. */
export function HandWords({
  hand,
  sittings,
}: {
  hand: ReturnType<typeof handNow>
  /** For the trend; none: without one. */
  sittings: readonly Sitting[]
}) {
  if (!hand) return <p className="text-lg text-soft">Not measured yet: “how often it lands” assumes a hand for you.</p>
  const { biasFraction: bias, scatterFraction: scatter, count, dash } = hand.hand
  const trend = sittings
    .flatMap((s) => {
      const was = handOf(s.pours)
      return was ? [{ at: s.at, was }] : []
    })
    .slice(-TREND)
  return (
    <>
      <p className="text-xl" data-hand>
        {isBiased(hand.hand)
          ? `It pours ${pct(Math.abs(bias.value))} % too ${bias.value > 0 ? 'much' : 'little'}`
          : 'On average it pours what it should, as far as these pours tell'}{' '}
        <span className="text-soft">
          ({pct(bias.low)} to {pct(bias.high)} %), and scatters by {pct(scatter.value)} % ({pct(scatter.low)} to{' '}
          {pct(scatter.high)} %); {count} pours, the last on {day(hand.at)}
          {dash && dashWords(dash.biasMl)}
        </span>
      </p>
      {trend.length > 1 && (
        <>
          <HandTrend
            points={trend.map(({ at, was: { biasFraction: b } }) => ({
              label: day(at),
              value: 100 * b.value,
              low: 100 * b.low,
              high: 100 * b.high,
            }))}
          />
          <ol className="sr-only" aria-label="How it was">
            {trend.map(({ at, was }) => (
              <li key={at}>
                {day(at)}: {pct(was.biasFraction.value)} % ± {pct(was.scatterFraction.value)} %
              </li>
            ))}
          </ol>
        </>
      )}
    </>
  )
}
