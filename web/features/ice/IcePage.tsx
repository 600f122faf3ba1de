import { mayDo } from '@conch/contract'
import { ICE_KINDS, METHODS } from '@conch/core/cold'
import { MEASURES } from '@conch/core/drink'
import { gearOf, type HouseBook, type Station, type StationCalibration, type Well } from '@conch/core/house'
import { useMemo } from 'react'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { useMenuDrinks } from '../../shelf/useShownDrinks.ts'
import { useLeavers } from '../../workers/bench.ts'
import { useDriftFigures } from './drifting.ts'
import { StandingWords } from './StandingWords.tsx'

/** The ice bench: how well each station is known, what drifts, and what leaves its standard because of it. */
export function IcePage() {
  const { book } = useHouse()
  const who = useWho()
  const drifting = (book.calibrations ?? []).filter((c) => c.drift)
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 px-4 pt-3 pb-10 lg:grid-cols-[minmax(0,1.7fr)_minmax(0,1fr)]">
      <div>
        <header className="mb-2 flex flex-wrap items-baseline gap-3">
          <h1 className="mr-auto text-3xl">Ice bench</h1>
          <Link className="act" to="/ice/glasses">
            Drinks in glasses
          </Link>
          {mayDo(who.role, 'logTrial') && (
            <Link className="act act-main" to="/ice/trial">
              Weigh a trial
            </Link>
          )}
        </header>
        {book.wells.map((well) => (
          <WellStations key={well.slug} well={well} book={book} />
        ))}
      </div>
      <aside className="border-hair max-lg:mt-6 lg:border-l lg:pl-6">
        <h2 className="text-lg">What drifts</h2>
        {drifting.length === 0 ? (
          <p className="text-soft">
            Nothing: no newer trials speak against what the stations were calibrated to. Two that agree with each other
            and not with the rest would show here.
          </p>
        ) : (
          <ul>
            {drifting.map((c) => (
              <Drifting key={`${c.well} ${c.station} ${c.ice}`} calibration={c} book={book} />
            ))}
          </ul>
        )}
        <h2 className="mt-6 text-lg">How a station is learned</h2>
        <p className="text-sm text-soft">
          Weigh the liquid, weigh the ice, work, strain, weigh again. Two trials move a station from what was shipped,
          four make it trusted. Different seconds tell the motor from the ice. A temperature after each is worth a trial
          more.
        </p>
      </aside>
    </div>
  )
}

function WellStations({ well, book }: { well: Well; book: HouseBook }) {
  const calibrationsOf = (station: Station) =>
    (book.calibrations ?? []).filter((c) => c.well === well.slug && c.station === station.slug)
  const ices = Object.entries(well.ice) as [keyof typeof ICE_KINDS, (typeof well.ice)['crushed']][]
  return (
    <section aria-label={well.name} className="mb-6">
      <h2 className="flex flex-wrap items-baseline gap-x-3 border-b border-ink text-lg">
        {well.name}
        <span className="caption mr-auto font-text font-normal">
          {well.roomTemperatureC} °C ·{' '}
          {ices.length === 0
            ? 'ice as shipped'
            : ices
                .map(([kind, f]) =>
                  f?.surfaceWaterFraction === undefined
                    ? ICE_KINDS[kind].label
                    : `${ICE_KINDS[kind].label} ${(100 * f.surfaceWaterFraction).toFixed(0)} % wet`,
                )
                .join(', ')}
        </span>
        <Link className="font-text text-sm font-normal underline" to={`/ice/${well.slug}`}>
          gear, ice, scoops
        </Link>
      </h2>
      <table className="w-full table-fixed">
        <colgroup>
          <col />
          <col className="w-44 max-sm:hidden" />
          <col className="w-[19rem] max-sm:w-[11rem]" />
        </colgroup>
        <tbody>
          {well.stations.map((station) => {
            const own = calibrationsOf(station)
            const rows: (StationCalibration | undefined)[] = own.length > 0 ? own : [undefined]
            return rows.map((c) => (
              <tr key={`${station.slug} ${c?.ice}`} className="border-b border-hair/60 align-baseline">
                <th scope="row" className="py-1 pr-3 text-left font-normal">
                  <Link className="hover:underline" to={`/ice/${well.slug}/${station.slug}${c ? `?ice=${c.ice}` : ''}`}>
                    {station.name}
                  </Link>{' '}
                  <span className="caption">
                    {METHODS[station.method].label}
                    {c && `, ${ICE_KINDS[c.ice].label}`}
                  </span>
                </th>
                <td className="max-sm:hidden">
                  <Known station={station} calibration={c} />
                </td>
                <td className="text-right text-sm">
                  <StandingWords station={station} calibration={c} />
                </td>
              </tr>
            ))
          })}
        </tbody>
      </table>
    </section>
  )
}

const SCALE_TIMES = 2
/** The conductance beside the shipped one, on one scale for all stations: a half to twice of it. */
function Known({ station, calibration }: { station: Station; calibration: StationCalibration | undefined }) {
  const preset = METHODS[station.method]
  const width = 150
  const x = (w: number) => {
    const log = Math.log(w / preset.uaWPerK) / Math.log(SCALE_TIMES)
    return Math.min(width - 2, Math.max(2, ((log + 1) / 2) * width))
  }
  const own = gearOf(station).uaWPerK ?? preset.uaWPerK
  const e = calibration?.uaWPerK ?? {
    value: own,
    low: own * (1 - 2 * preset.uncertaintyFraction),
    high: own * (1 + 2 * preset.uncertaintyFraction),
  }
  const label = `to the ice ${e.value.toFixed(0)} W/K, ${e.low.toFixed(0)} to ${e.high.toFixed(0)}; shipped ${preset.uaWPerK}`
  return (
    <svg width={width} height={16} role="img" aria-label={label} className="align-middle">
      <title>{label}</title>
      <path d={`M0 8H${width}`} stroke="var(--hair)" />
      <path d={`M${width / 2} 2V14`} stroke="var(--hair)" strokeDasharray="2 2" />
      <path
        d={`M${x(e.low)} 8H${x(e.high)}`}
        stroke={calibration ? 'var(--ink)' : 'var(--soft)'}
        strokeWidth={calibration ? 3 : 1}
        strokeDasharray={calibration ? undefined : '3 2'}
      />
      <path
        d={`M${x(e.value)} 2V14`}
        stroke={calibration?.drift ? 'var(--stop)' : calibration ? 'var(--ink)' : 'var(--soft)'}
        strokeWidth={2.4}
      />
    </svg>
  )
}

function Drifting({ calibration, book }: { calibration: StationCalibration; book: HouseBook }) {
  const well = book.wells.find((w) => w.slug === calibration.well)
  const station = well?.stations.find((s) => s.slug === calibration.station)
  const menu = useMenuDrinks()
  const documents = useMemo(() => menu?.map((d) => d.document), [menu])
  const figures = useDriftFigures(calibration)
  const leavers = useLeavers(book, documents, calibration, figures)
  if (!well || !station) return null
  return (
    <li className="border-b border-hair/60 py-2">
      <Link className="font-semibold underline" to={`/ice/${well.slug}/${station.slug}?ice=${calibration.ice}`}>
        {station.name}, {well.name}
      </Link>{' '}
      <span className="caption">{ICE_KINDS[calibration.ice].label}</span>
      <p className="text-sm">
        <StandingWords station={station} calibration={calibration} />
      </p>
      {leavers === undefined ? (
        <p className="caption">Looking which drinks that takes out of their standard …</p>
      ) : leavers.length === 0 ? (
        <p className="text-sm text-soft">No drink of the next menu leaves its standard by it.</p>
      ) : (
        <ul aria-label="Drinks that leave their standard" className="mt-1">
          {leavers.map((l) => (
            <li key={l.name} className="text-sm">
              <span aria-hidden="true" className="text-mind">
                ▲
              </span>{' '}
              {l.name} <span className="caption">{l.measures.map((m) => MEASURES[m].label).join(', ')}</span>
            </li>
          ))}
        </ul>
      )}
    </li>
  )
}
