import type { HouseClock } from '@conch/core/calendar'
import { HOURS, hourText, ZONES } from './zones.ts'

/** Where the house's clock hangs, and when its night ends: it decides what "today" is on every device. */
export function ClockSetting({
  mayEdit,
  clock,
  onChange,
}: {
  mayEdit: boolean
  clock: HouseClock
  onChange: (clock: HouseClock) => void
}) {
  if (!mayEdit)
    return (
      <span>
        <span className="text-soft">time of</span> {clock.timeZone}, <span className="text-soft">the day turns at</span>{' '}
        {hourText(clock.dayTurnsAtHour)}
      </span>
    )
  // A zone by another of its names is still the house's.
  const zones = ZONES.includes(clock.timeZone) ? ZONES : [clock.timeZone, ...ZONES]
  return (
    <span>
      <label className="whitespace-nowrap">
        <span className="text-soft">time of</span>{' '}
        <select
          className="inplace"
          value={clock.timeZone}
          onChange={(e) => onChange({ ...clock, timeZone: e.target.value })}
        >
          {zones.map((zone) => (
            <option key={zone}>{zone}</option>
          ))}
        </select>
      </label>
      {', '}
      <label className="whitespace-nowrap">
        <span className="text-soft">the bar’s day turns at</span>{' '}
        <select
          className="inplace"
          value={clock.dayTurnsAtHour}
          onChange={(e) => onChange({ ...clock, dayTurnsAtHour: Number(e.target.value) })}
        >
          {HOURS.map((hour) => (
            <option key={hour} value={hour}>
              {hourText(hour)}
            </option>
          ))}
        </select>
      </label>
    </span>
  )
}
