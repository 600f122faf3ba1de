import type { Drink } from '@conch/contract'
import { bySlug } from '@conch/core/house'
import { RANGES } from '@conch/core/schema/ranges'
import { useHouse } from '../../app/house.tsx'
import { DrinkPicker } from '../../shelf/DrinkPicker.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import { type TrialProps, usualIceAt } from './trialState.ts'

/** What a trial is of: the station, its speed, and what is made on it. */
export function TrialSubject({
  trial,
  set,
  drink,
  version,
}: TrialProps & { drink: Drink | undefined; version: number | undefined }) {
  const { book } = useHouse()
  const station = bySlug(bySlug(book.wells, trial.well)?.stations ?? [], trial.station)
  return (
    <div className="mb-2 flex flex-wrap items-baseline gap-x-3 gap-y-1 text-lg">
      <select
        aria-label="Station"
        className="inplace"
        value={`${trial.well}/${trial.station}`}
        onChange={(e) => {
          const [w = '', s = ''] = e.target.value.split('/')
          set({
            well: w,
            station: s,
            speed: undefined,
            ice: usualIceAt(book, w, s).map((kind) => ({ kind, massG: undefined })),
          })
        }}
      >
        {book.wells.flatMap((w) =>
          w.stations.map((s) => (
            <option key={`${w.slug}/${s.slug}`} value={`${w.slug}/${s.slug}`}>
              {w.name}: {s.name}
            </option>
          )),
        )}
      </select>
      {(station?.speeds?.length ?? 0) > 0 && (
        <select
          aria-label="Speed"
          className="inplace"
          value={trial.speed ?? ''}
          onChange={(e) => set({ speed: e.target.value || undefined })}
        >
          <option value="">usual speed</option>
          {station?.speeds?.map((s) => (
            <option key={s.slug} value={s.slug}>
              {s.name}
            </option>
          ))}
        </select>
      )}
      <span className="text-soft">making</span>
      <DrinkPicker label="Find what is made" onPick={(d) => set({ drink: d.slug, version: undefined })}>
        <button type="button" className="inplace text-left" aria-label="What is made">
          {trial.drink === '' ? 'a test liquid' : (drink?.name ?? trial.drink)}
        </button>
      </DrinkPicker>
      {trial.drink !== '' && (
        <button type="button" className="act act-quiet text-sm" onClick={() => set({ drink: '', version: undefined })}>
          a test liquid instead
        </button>
      )}
      {drink && drink.versions.length > 1 && (
        <select
          aria-label="Version"
          className="inplace"
          value={version}
          onChange={(e) => set({ version: Number(e.target.value) })}
        >
          {drink.versions.map((v) => (
            <option key={v.number} value={v.number}>
              v{v.number}
            </option>
          ))}
        </select>
      )}
      {trial.drink === '' && (
        <span className="text-sm">
          <NumberField
            label="Strength of the test liquid"
            value={trial.figures.abvPct}
            {...RANGES.abvPct}
            onChange={(abvPct) => set({ figures: { ...trial.figures, abvPct } })}
          />{' '}
          % ·{' '}
          <NumberField
            label="Sugar of the test liquid"
            value={trial.figures.sugarGPer100Ml}
            {...RANGES.sugarGPer100Ml}
            onChange={(sugarGPer100Ml) => set({ figures: { ...trial.figures, sugarGPer100Ml } })}
          />{' '}
          g sugar ·{' '}
          <NumberField
            label="Acid of the test liquid"
            value={trial.figures.acidGPer100Ml}
            {...RANGES.acidGPer100Ml}
            onChange={(acidGPer100Ml) => set({ figures: { ...trial.figures, acidGPer100Ml } })}
          />{' '}
          g acid in 100 ml
        </span>
      )}
    </div>
  )
}
