import { mayDo } from '@conch/contract'
import { METHODS, type Method } from '@conch/core/cold'
import type { Glass, Station, Well } from '@conch/core/house'
import { brimMlOf, heightMmOf } from '@conch/core/vessel'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { toast } from 'sonner'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { houseQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { sectionPath } from '../../graphics/glassGeometry.ts'
import { NumberField, type NumberFieldProps } from '../../ui/NumberField.tsx'
import { GlassDialog } from './GlassDialog.tsx'
import { Measures } from './Measures.tsx'

/** Settings, wells with their stations, and the glasses, drawn to one scale. */
export function HousePage() {
  const { house } = useHouse()
  const who = useWho()
  const mayEdit = mayDo(who.role, 'editHouse')
  return (
    <div className="px-4 pt-4 pb-10">
      <header className="mb-2 flex flex-wrap items-center gap-3">
        <h1 className="mr-auto text-3xl">{house.settings.name}</h1>
        {mayDo(who.role, 'exportHouse') && (
          <a className="act" href="/api/export" download="house.json">
            Take a copy of the whole house
          </a>
        )}
      </header>
      <Settings mayEdit={mayEdit} />
      <MeasuresOfTheHouse mayEdit={mayEdit} />
      <div className="grid gap-x-10 xl:grid-cols-2">
        {house.wells.map((well) => (
          <WellSheet key={well.slug} well={well} mayEdit={mayEdit} />
        ))}
      </div>
      <Glasses mayEdit={mayEdit} />
    </div>
  )
}

/** Saves one thing of the house; a refusal is told where one looks. */
function useSave() {
  const queryClient = useQueryClient()
  return async (path: string, document: unknown, revision: number) => {
    try {
      await api.put(path, { document, revision })
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error))
    } finally {
      await queryClient.invalidateQueries({ queryKey: houseQuery.queryKey })
    }
  }
}

function Settings({ mayEdit }: { mayEdit: boolean }) {
  const { house } = useHouse()
  const save = useSave()
  const { settings } = house
  const put = (change: Partial<typeof settings>) =>
    save('/api/house/settings', { ...settings, ...change }, house.revisions.settings)
  const kit = (change: Partial<typeof settings.kit>) => put({ kit: { ...settings.kit, ...change } })
  const row = (
    label: string,
    value: number,
    unit: string,
    low: number,
    high: number,
    onChange: (v: number) => void,
    step = 1,
    digits = 4,
  ) => (
    <span className="whitespace-nowrap">
      <span className="text-soft">{label}</span>{' '}
      <SettledNumber {...{ label, value, low, high, step, digits, mayEdit, onChange }} /> {unit}
    </span>
  )
  return (
    <p className="mb-4 flex flex-wrap gap-x-6 gap-y-1 border-y border-hair py-2">
      {row('ounce', settings.kit.ounceMl, 'ml', 25, 35, (ounceMl) => kit({ ounceMl }), 0.5)}
      {row('standard drink', settings.standardDrinkG, 'g', 6, 20, (standardDrinkG) => put({ standardDrinkG }))}
      {row(
        'a word above',
        settings.standardDrinksLimit,
        'standard drinks',
        0.5,
        10,
        (standardDrinksLimit) => put({ standardDrinksLimit }),
        0.5,
      )}
      {row('overproof above', settings.overproofPct, '%', 40, 80, (overproofPct) => put({ overproofPct }))}
      {row('fridge', settings.fridgeTemperatureC, '°C', -5, 12, (fridgeTemperatureC) => put({ fridgeTemperatureC }))}
      {row('freezer', settings.freezerTemperatureC, '°C', -40, -5, (freezerTemperatureC) =>
        put({ freezerTemperatureC }),
      )}
    </p>
  )
}

function MeasuresOfTheHouse({ mayEdit }: { mayEdit: boolean }) {
  const { house } = useHouse()
  const save = useSave()
  return (
    <Measures
      mayEdit={mayEdit}
      onChange={(change) => save('/api/house/settings', { ...house.settings, ...change }, house.revisions.settings)}
    />
  )
}

/** A number of the house: saved when one leaves it. */
function SettledNumber({ mayEdit, ...props }: { mayEdit: boolean } & Omit<NumberFieldProps, 'isReadOnly'>) {
  return <NumberField {...props} isReadOnly={!mayEdit} isSettling />
}

const STATION_FIGURES = [
  { key: 'uaWPerK', label: 'to the ice', unit: 'W/K', high: 2000, step: 5 },
  { key: 'stirringPowerW', label: 'stirring', unit: 'W', high: 2000, step: 5 },
  { key: 'vesselJPerK', label: 'vessel', unit: 'J/K', high: 5000, step: 10 },
] as const

function WellSheet({ well, mayEdit }: { well: Well; mayEdit: boolean }) {
  const { house } = useHouse()
  const save = useSave()
  const put = (change: Partial<Well>) =>
    save(`/api/wells/${well.slug}`, { ...well, ...change }, house.revisions.wells[well.slug] ?? 0)
  const putStation = (slug: string, change: Partial<Station>) =>
    put({ stations: well.stations.map((s) => (s.slug === slug ? { ...s, ...change } : s)) })
  return (
    <section aria-label={well.name} className="mb-6">
      <h2 className="flex flex-wrap items-baseline gap-x-4 border-b border-ink text-lg">
        {well.name}
        <span className="font-text text-sm font-normal">
          <SettledNumber
            label={`Room temperature of the ${well.name}`}
            value={well.roomTemperatureC}
            low={-10}
            high={45}
            step={1}
            digits={1}
            mayEdit={mayEdit}
            onChange={(roomTemperatureC) => put({ roomTemperatureC })}
          />{' '}
          °C ·{' '}
          <SettledNumber
            label={`Seconds to the guest at the ${well.name}`}
            value={well.handOverS}
            low={0}
            high={120}
            step={5}
            digits={0}
            mayEdit={mayEdit}
            onChange={(handOverS) => put({ handOverS })}
          />{' '}
          s to the guest
        </span>
      </h2>
      <table className="w-full text-sm">
        <thead>
          <tr className="caption text-right">
            <th className="text-left font-normal">station</th>
            {STATION_FIGURES.map((f) => (
              <th key={f.key} className="font-normal">
                {f.label}, {f.unit}
              </th>
            ))}
            <th className="font-normal">dilution</th>
          </tr>
        </thead>
        <tbody>
          {well.stations.map((s) => {
            const preset = METHODS[s.method as Method]
            return (
              <tr key={s.slug} className="border-b border-hair/60 text-right">
                <th scope="row" className="text-left font-normal">
                  {s.name}{' '}
                  <span className="caption">{METHODS[s.method].label === s.name ? '' : METHODS[s.method].label}</span>
                </th>
                {STATION_FIGURES.map((f) => {
                  const own = s.parameters[f.key]
                  return (
                    <td
                      key={f.key}
                      className={own === undefined ? 'text-soft italic' : ''}
                      title={own === undefined ? 'the shipped preset' : 'this station’s own'}
                    >
                      <SettledNumber
                        label={`${s.name}, ${f.label}`}
                        value={own ?? preset[f.key]}
                        low={0}
                        high={f.high}
                        step={f.step}
                        digits={1}
                        mayEdit={mayEdit}
                        onChange={(v) => putStation(s.slug, { parameters: { ...s.parameters, [f.key]: v } })}
                      />
                    </td>
                  )
                })}
                <td>±{Math.round(100 * (s.dilutionUncertaintyFraction ?? METHODS[s.method].uncertaintyFraction))} %</td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <p className="caption mt-1">Slanted: the shipped preset, not this station’s own figure.</p>
    </section>
  )
}

function Glasses({ mayEdit }: { mayEdit: boolean }) {
  const { house } = useHouse()
  const [open, setOpen] = useState<Glass | 'new'>()
  const tallest = Math.max(...house.glasses.map((g) => heightMmOf(g.profile) + g.stemMm), 100)
  const scale = 150 / tallest
  return (
    <section aria-label="Glasses">
      <h2 className="mb-2 flex items-baseline border-b border-ink text-lg">
        <span className="mr-auto">Glasses</span>
        {mayEdit && (
          <button type="button" className="act act-quiet font-text text-sm font-normal" onClick={() => setOpen('new')}>
            Add a glass
          </button>
        )}
      </h2>
      <ul className="flex flex-wrap items-end gap-x-8 gap-y-4">
        {house.glasses.map((g) => {
          const widest = Math.max(...g.profile.map((p) => p.radiusMm))
          const tall = heightMmOf(g.profile)
          return (
            <li key={g.slug}>
              <button type="button" onClick={() => setOpen(g)} className="flex flex-col items-center hover:bg-shoal">
                <svg width={(2 * widest + 6) * scale} height={(tall + g.stemMm + 4) * scale} aria-hidden="true">
                  <g transform={`scale(${scale}) translate(${widest + 3} 2)`} stroke="var(--ink)" strokeWidth={1.4}>
                    <path d={sectionPath(g.profile, 0, tall)} fill={g.isOpaque ? 'var(--buff)' : 'var(--shoal)'} />
                    {g.stemMm > 0 && <path d={`M0 ${tall}V${tall + g.stemMm}M-24 ${tall + g.stemMm}H24`} fill="none" />}
                  </g>
                </svg>
                <span>{g.name}</span>
                <span className="caption">{Math.round(brimMlOf(g.profile))} ml to the brim</span>
              </button>
            </li>
          )
        })}
      </ul>
      {open && (
        <GlassDialog glass={open === 'new' ? undefined : open} mayEdit={mayEdit} onClose={() => setOpen(undefined)} />
      )}
    </section>
  )
}
