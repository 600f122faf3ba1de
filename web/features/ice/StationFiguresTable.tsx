import { type Calibration, fittedOf, type StationFigures } from '@conch/core/calibration'
import type { StationCalibration } from '@conch/core/house'

/** What a station is like: without trials, as it is counted on, and by the trials that are looked at. */
export function StationFiguresTable({
  standing,
  found,
  start,
}: {
  standing: StationCalibration | undefined
  found: Calibration | undefined
  start: StationFigures
}) {
  const now = fittedOf(found)
  const text = (e: { value: number; low: number; high: number } | undefined, digits: number, times = 1) =>
    e ? (
      <>
        {(e.value * times).toFixed(digits)}{' '}
        <span className="caption">
          {(e.low * times).toFixed(digits)} to {(e.high * times).toFixed(digits)}
        </span>
      </>
    ) : (
      <span className="text-soft">·</span>
    )
  const rows = [
    { label: 'to the ice, W/K', key: 'uaWPerK', digits: 0, times: 1 },
    { label: 'on the ice, % water', key: 'surfaceWaterFraction', digits: 1, times: 100 },
    { label: 'motor, W', key: 'stirringPowerW', digits: 0, times: 1 },
  ] as const
  return (
    <table className="w-full text-sm">
      <thead>
        <tr className="caption text-right">
          <th />
          <th className="pl-3 font-normal">without trials</th>
          <th className="pl-3 font-normal">counted on</th>
          <th className="pl-3 font-normal">with these trials</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((r) => (
          <tr key={r.key} className="border-b border-hair/60 text-right">
            <th scope="row" className="py-1 text-left font-normal text-soft">
              {r.label}
            </th>
            <td>{(start[r.key] * r.times).toFixed(r.digits)}</td>
            <td>{text(standing?.[r.key], r.digits, r.times)}</td>
            <td>{text(now?.[r.key], r.digits, r.times)}</td>
          </tr>
        ))}
        <tr className="text-right">
          <th scope="row" className="py-1 text-left font-normal text-soft">
            dilution
          </th>
          <td />
          <td>{standing ? `±${Math.round(100 * standing.uncertaintyFraction)} %` : ''}</td>
          <td>{now ? `±${Math.round(100 * now.uncertaintyFraction)} %` : ''}</td>
        </tr>
      </tbody>
    </table>
  )
}
