import { dayText } from '@conch/core/calendar'
import { type Calibration, fittedOf, type StationFigures, type Trial } from '@conch/core/calibration'
import { massGOf } from '@conch/core/liquid'
import { isExcluded } from '@conch/core/trials'
import { type MeasuredIce, waterOf } from './trialWater.ts'

/** Every trial of a station with one ice, newest first, with what is left over between it and the line. */
export function TrialTable({
  trials,
  figures,
  found,
  measuredIce,
  isNew,
  mayJudge,
  nameOf,
  onLeaveOut,
  onTakeIn,
}: {
  trials: Trial[]
  figures: StationFigures
  found: Calibration | undefined
  measuredIce: MeasuredIce
  isNew: (t: Trial) => boolean
  mayJudge: boolean
  nameOf: (slug: string) => string
  onLeaveOut: (t: Trial) => void
  onTakeIn: (t: Trial) => void
}) {
  const residualOf = (id: number) => fittedOf(found)?.residuals.find((r) => r.id === id)
  const offs = trials.flatMap((t) => waterOf(t, figures, measuredIce)?.offG ?? [])
  const widest = Math.max(5, ...offs.map(Math.abs))
  return (
    <div className="overflow-x-auto">
      <table className="mt-3 w-full min-w-[42rem] text-sm [&_td]:px-1.5 [&_th]:pr-1.5" aria-label="Trials">
        <thead>
          <tr className="caption text-right">
            <th className="text-left font-normal">trial</th>
            <th className="text-left font-normal">made</th>
            <th className="pl-3 font-normal">s</th>
            <th className="pl-3 font-normal">before, g</th>
            <th className="pl-3 font-normal">ice, g</th>
            <th className="pl-3 font-normal">after, g</th>
            <th className="pl-3 font-normal">°C</th>
            <th className="pl-3 font-normal">water, g</th>
            <th className="w-36 font-normal">off the line, g</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {[...trials].reverse().map((t) => {
            const water = waterOf(t, figures, measuredIce)
            const d = t.document
            const out = isExcluded(t)
            const reason = t.events.at(-1)?.event
            // Newer ones that differ are what drifting is: they are not odd, the machine may be.
            const isOdd = residualOf(t.id)?.isOutlier && !out && !isNew(t)
            return (
              <tr key={t.id} className={`border-b border-hair/60 text-right ${out ? 'text-soft' : ''}`}>
                <th scope="row" className="text-left font-normal whitespace-nowrap">
                  {t.id} <span className="caption">{dayText(t.on)}</span>
                </th>
                <td className="text-left">
                  {d.drink ? nameOf(d.drink) : 'test liquid'}
                  {d.note && <span className="caption"> · {d.note}</span>}
                  {isNew(t) && !out && <span className="caption text-stop"> newer</span>}
                  {isOdd && <span className="block text-mind">does not go with the others: look at its weights</span>}
                  {out && reason?.kind === 'excluded' && (
                    <span className="caption block">left out: {reason.reason}</span>
                  )}
                </td>
                <td>{d.durationS}</td>
                <td>{massGOf(d.liquid).toFixed(0)}</td>
                <td>{d.ice.reduce((sum, p) => sum + p.massG, 0).toFixed(0)}</td>
                <td>{d.afterG.toFixed(0)}</td>
                <td>{d.afterC === undefined ? '·' : d.afterC.toFixed(1).replace('-', '−')}</td>
                <td>{water?.measuredG.toFixed(0) ?? '·'}</td>
                <td>{water ? <OffBar off={water.offG} widest={widest} isOut={out} /> : 'outside the model'}</td>
                <td>
                  {mayJudge && (
                    <button
                      type="button"
                      className="act act-quiet text-sm"
                      aria-label={out ? `Take trial ${t.id} in` : `Leave trial ${t.id} out`}
                      onClick={() => (out ? onTakeIn(t) : onLeaveOut(t))}
                    >
                      {out ? 'take in' : 'leave out …'}
                    </button>
                  )}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
    </div>
  )
}

/** What is left over between a weight and the line: to the right, more water than was fitted. */
function OffBar({ off, widest, isOut }: { off: number; widest: number; isOut: boolean }) {
  const width = 96
  const x = width / 2 + (off / widest) * (width / 2 - 2)
  return (
    <span className="inline-flex items-center gap-2">
      <svg width={width} height={14} aria-hidden="true">
        <path d={`M${width / 2} 0V14`} stroke="var(--hair)" />
        <path d={`M${width / 2} 7H${x}`} stroke={isOut ? 'var(--hair)' : 'var(--ink)'} strokeWidth={5} />
      </svg>
      <span className="w-10">{`${off < 0 ? '−' : '+'}${Math.abs(off).toFixed(1)}`}</span>
    </span>
  )
}
