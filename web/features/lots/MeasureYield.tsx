import type { Batch } from '@conch/core/formula'
import type { Ingredient } from '@conch/core/house'
import { MOST_ABV_FOR_BRIX_PCT } from '@conch/core/lots'
import { RANGES } from '@conch/core/schema/ranges'
import type { ReactNode } from 'react'
import { devices } from '../../devices/devices.ts'
import { useScaleReading, useTray } from '../../devices/useTray.ts'
import { NumberField } from '../../ui/NumberField.tsx'
import type { LotInMaking } from './makeLotState.ts'

/** Further off the recipe than this, the reading is more likely wrong than the syrup. */
const ODD_BRIX = 8

/** What came out: weighed, read, titrated. */
export function MeasureYield({
  ingredient,
  batch,
  factor,
  lot,
  onChange,
}: {
  ingredient: Ingredient
  batch: Batch | undefined
  factor: number
  lot: LotInMaking
  onChange: (change: Partial<LotInMaking>) => void
}) {
  const tray = useTray()
  const readingG = useScaleReading()
  const { measured } = lot
  const set = (change: LotInMaking['measured']) => onChange({ measured: { ...measured, ...change } })
  const brix = devices.refractometer.readBrix()
  const isStrong = (batch?.abvPct ?? ingredient.figures.abvPct.value) > MOST_ABV_FOR_BRIX_PCT
  return (
    <section aria-label="What came out" className="mt-5">
      <h2 className="border-b border-ink text-lg">What came out</h2>
      {batch ? (
        <ReadingRow
          name="weight"
          take={{
            words: 'from the scale',
            label: 'Take the yield from the scale',
            isDisabled: readingG <= 0,
            onTake: () => set({ massG: readingG }),
          }}
        >
          <NumberField
            label="Yield, weighed"
            value={measured.massG}
            low={1}
            high={200_000}
            digits={1}
            onChange={(massG) => set({ massG })}
          />{' '}
          g <span className="text-sm text-soft">by the recipe {Math.round(batch.massG * factor)} g</span>
        </ReadingRow>
      ) : (
        <ReadingRow name="volume">
          <NumberField
            label="Yield in ml"
            value={measured.volumeMl}
            low={1}
            high={200_000}
            step={50}
            digits={0}
            onChange={(volumeMl) => set({ volumeMl })}
          />{' '}
          ml
        </ReadingRow>
      )}
      {isStrong && (
        <ReadingRow name="hydrometer">
          <NumberField
            label="Strength, measured"
            value={measured.abvPct}
            {...RANGES.abvPct}
            step={0.5}
            digits={1}
            onChange={(abvPct) => set({ abvPct })}
          />{' '}
          % ABV {batch && <span className="text-sm text-soft">by the recipe {batch.abvPct.toFixed(1)}, at 20 °C</span>}
        </ReadingRow>
      )}
      {ingredient.kind !== 'blend' && (
        <ReadingRow
          name="refractometer"
          take={{
            words: 'read it',
            label: 'Read the refractometer',
            isDisabled: brix === undefined,
            onTake: () => brix !== undefined && set({ brix }),
          }}
        >
          <NumberField
            label="Brix, measured"
            value={measured.brix}
            {...RANGES.brix}
            step={0.5}
            digits={1}
            onChange={(value) => set({ brix: value })}
          />{' '}
          °Bx {batch && <span className="text-sm text-soft">by the recipe {batch.brix.toFixed(1)}</span>}
          {batch && !isStrong && measured.brix !== undefined && Math.abs(measured.brix - batch.brix) > ODD_BRIX && (
            <span className="block text-sm text-mind">
              ▲ {Math.abs(measured.brix - batch.brix).toFixed(1)} °Bx off the recipe: was the prism clean and zeroed
              with water?
            </span>
          )}
          {isStrong && measured.brix !== undefined && (
            <span className="block text-sm text-mind">
              ▲ with alcohol in it a refractometer does not read sugar: kept, but not used
            </span>
          )}
        </ReadingRow>
      )}
      <ReadingRow
        name="acid"
        take={{
          words: 'read it',
          label: 'Read the titration',
          isDisabled: !tray.acid,
          onTake: () => set(devices.acidMeter.read() ?? {}),
        }}
      >
        <NumberField
          label="Acid, titrated"
          value={measured.acidGPer100Ml}
          {...RANGES.acidGPer100Ml}
          step={0.1}
          digits={2}
          onChange={(acidGPer100Ml) => set({ acidGPer100Ml })}
        />{' '}
        g/100 ml
      </ReadingRow>
    </section>
  )
}

interface ReadingRowProps {
  name: string
  /** Takes the reading from a device. */
  take?: { words: string; label: string; isDisabled: boolean; onTake: () => void }
  children: ReactNode
}

/** One thing that is measured: typed, or taken from its device. */
function ReadingRow({ name, take, children }: ReadingRowProps) {
  return (
    <p className="flex flex-wrap items-center gap-3 border-b border-hair py-1.5">
      <span className="w-28 text-right">{name}</span>
      <span className="flex-1">{children}</span>
      {take && (
        <button
          type="button"
          className="act min-h-11"
          aria-label={take.label}
          disabled={take.isDisabled}
          onClick={take.onTake}
        >
          {take.words}
        </button>
      )}
    </p>
  )
}
