import { mayDo } from '@conch/contract'
import { clockOf } from '@conch/core/calendar'
import { JUICE_HOURS } from '@conch/core/drink'
import type { Glass } from '@conch/core/house'
import { RANGES, type Range } from '@conch/core/schema/ranges'
import { A_TOUCH } from '@conch/core/tune'
import { brimMlOf, heightMmOf } from '@conch/core/vessel'
import { useState } from 'react'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { IDLE_LOCK_MINUTES } from '../../app/useIdleLock.ts'
import { useWho } from '../../app/who.ts'
import { useSaveThing } from '../../foresight/index.ts'
import { sectionPath } from '../../graphics/glassGeometry.ts'
import { NumberField, type NumberFieldProps } from '../../ui/NumberField.tsx'
import { BuildOrderSetting } from './BuildOrderSetting.tsx'
import { ClockSetting } from './ClockSetting.tsx'
import { GlassDialog } from './GlassDialog.tsx'
import { Keeping } from './Keeping.tsx'
import { Measures } from './Measures.tsx'

/** Settings, measures, the wells, and the glasses drawn to one scale. */
export function HousePage() {
  const { house } = useHouse()
  const who = useWho()
  const mayEdit = mayDo(who.role, 'editHouse')
  return (
    <div className="px-4 pt-4 pb-10">
      <header className="mb-2 flex flex-wrap items-center gap-3">
        <h1 className="mr-auto text-3xl">{house.settings.name}</h1>
      </header>
      <Settings mayEdit={mayEdit} />
      <MeasuresOfTheHouse mayEdit={mayEdit} />
      <Wells mayEdit={mayEdit} />
      <Glasses mayEdit={mayEdit} />
      {mayDo(who.role, 'exportHouse') && <Keeping />}
    </div>
  )
}

function Settings({ mayEdit }: { mayEdit: boolean }) {
  const { house } = useHouse()
  const save = useSaveThing()
  const { settings } = house
  const put = (change: Partial<typeof settings>) =>
    save('/api/house/settings', { ...settings, ...change }, house.revisions.settings)
  const kit = (change: Partial<typeof settings.kit>) => put({ kit: { ...settings.kit, ...change } })
  const touch = settings.noteSteps ?? A_TOUCH
  const row = (
    label: string,
    value: number,
    unit: string,
    range: Range,
    onChange: (v: number) => void,
    step = 1,
    digits = 4,
  ) => (
    <span className="whitespace-nowrap">
      <span className="text-soft">{label}</span>{' '}
      <SettledNumber {...{ label, value, ...range, step, digits, mayEdit, onChange }} /> {unit}
    </span>
  )
  return (
    <p className="mb-4 flex flex-wrap gap-x-6 gap-y-1 border-y border-hair py-2">
      {row('ounce', settings.kit.ounceMl, 'ml', RANGES.ounceMl, (ounceMl) => kit({ ounceMl }), 0.5)}
      {row('standard drink', settings.standardDrinkG, 'g', RANGES.standardDrinkG, (standardDrinkG) =>
        put({ standardDrinkG }),
      )}
      {row(
        'a word above',
        settings.standardDrinksLimit,
        'standard drinks',
        RANGES.standardDrinksLimit,
        (standardDrinksLimit) => put({ standardDrinksLimit }),
        0.5,
      )}
      {row('overproof above', settings.overproofPct, '%', RANGES.overproofPct, (overproofPct) => put({ overproofPct }))}
      {row('juice is poured for', settings.juiceHours ?? JUICE_HOURS, 'h', RANGES.juiceHours, (juiceHours) =>
        put({ juiceHours }),
      )}
      {row('fridge', settings.fridgeTemperatureC, '°C', RANGES.fridgeC, (fridgeTemperatureC) =>
        put({ fridgeTemperatureC }),
      )}
      {row('freezer', settings.freezerTemperatureC, '°C', RANGES.freezerC, (freezerTemperatureC) =>
        put({ freezerTemperatureC }),
      )}
      {row(
        'a touch is, sweet',
        touch.sweetGPer100Ml,
        'g/100 ml',
        RANGES.noteSweet,
        (sweetGPer100Ml) => put({ noteSteps: { ...touch, sweetGPer100Ml } }),
        0.1,
      )}
      {row(
        'a touch is, sour',
        touch.sourGPer100Ml,
        'g/100 ml',
        RANGES.noteSour,
        (sourGPer100Ml) => put({ noteSteps: { ...touch, sourGPer100Ml } }),
        0.01,
      )}
      {row(
        'a touch is, strength',
        touch.strengthPct,
        '%',
        RANGES.noteStrength,
        (strengthPct) => put({ noteSteps: { ...touch, strengthPct } }),
        0.1,
      )}
      {row(
        'the screen locks after',
        settings.idleLockMinutes ?? IDLE_LOCK_MINUTES,
        'min (0: never)',
        RANGES.idleLockMinutes,
        (minutes) => put({ idleLockMinutes: Math.round(minutes) }),
        1,
        0,
      )}
      <BuildOrderSetting
        mayEdit={mayEdit}
        order={settings.buildOrder ?? 'cheapestFirst'}
        onChange={(buildOrder) => put({ buildOrder })}
      />
      <ClockSetting mayEdit={mayEdit} clock={clockOf(settings)} onChange={(clock) => put({ clock })} />
    </p>
  )
}

function MeasuresOfTheHouse({ mayEdit }: { mayEdit: boolean }) {
  const { house } = useHouse()
  const save = useSaveThing()
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

/** Wells are changed on the ice bench, where their trials are. */
function Wells({ mayEdit }: { mayEdit: boolean }) {
  const { house } = useHouse()
  return (
    <section aria-label="Wells" className="mb-6">
      <h2 className="mb-1 flex items-baseline border-b border-ink text-lg">
        <span className="mr-auto">Wells</span>
        {mayEdit && (
          <Link className="act act-quiet font-text text-sm font-normal" to="/ice/new">
            Add a well
          </Link>
        )}
      </h2>
      <ul className="flex flex-wrap gap-x-10 gap-y-1">
        {house.wells.map((w) => (
          <li key={w.slug}>
            <Link className="underline" to={`/ice/${w.slug}`}>
              {w.name}
            </Link>{' '}
            <span className="text-sm text-soft">
              {w.roomTemperatureC} °C, {w.stations.length} stations, {w.handOverS} s to the guest
            </span>
          </li>
        ))}
      </ul>
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
