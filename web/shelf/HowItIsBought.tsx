import { currencyOf, type Ingredient, isWeighed, STOCK_STATES } from '@conch/core/house'
import { type ReadFigure, readPrice, readSize } from '@conch/core/reading'
import { RANGES } from '@conch/core/schema/ranges'
import { useHouse } from '../app/house.tsx'
import { useWho } from '../app/who.ts'
import { ReadField } from '../ui/ReadField.tsx'
import type { PartOfBottle } from './partOfBottle.ts'

const DAYS = RANGES.bottleKeepsDays
const DENSITY = RANGES.densityGPerMl

const readDays = (text: string): ReadFigure =>
  /^\d+$/.test(text.trim()) && Number(text) <= DAYS.high
    ? { ok: true, value: Number(text) }
    : { ok: false, reason: `a whole number of days, at most ${DAYS.high}` }
const readDensity = (text: string): ReadFigure => {
  const value = Number(text.replace(',', '.'))
  return value >= DENSITY.low && value <= DENSITY.high
    ? { ok: true, value }
    : { ok: false, reason: `${DENSITY.low} to ${DENSITY.high} g/ml` }
}

/** What weighs, costs and keeps, and whether it is there. */
export function HowItIsBought({ draft, mayEdit, set }: PartOfBottle) {
  const { house, today } = useHouse()
  const who = useWho()
  return (
    <div className="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-1">
      <span>
        <span className="text-soft">density</span>{' '}
        <ReadField
          label="Density"
          isOptional
          className="w-16"
          value={draft.densityGPerMl?.value}
          read={readDensity}
          isReadOnly={!mayEdit}
          onChange={(value) =>
            set({
              densityGPerMl: value === undefined ? undefined : { value, basis: 'measured', on: today, by: who.name },
            })
          }
        />{' '}
        g/ml
      </span>
      <span>
        <span className="text-soft">bought in</span>{' '}
        <ReadField
          label="Size"
          isOptional
          className="w-16"
          value={draft.size}
          read={readSize}
          isReadOnly={!mayEdit}
          onChange={(size) => set({ size })}
        />{' '}
        {isWeighed(draft.kind) ? 'g' : 'ml'} <span className="text-soft">for</span>{' '}
        <ReadField
          label="Price"
          isOptional
          className="w-16"
          value={draft.price}
          read={readPrice}
          isReadOnly={!mayEdit}
          onChange={(price) => set({ price })}
        />{' '}
        {currencyOf(house.settings)}
      </span>
      <span>
        <span className="text-soft">keeps</span>{' '}
        <ReadField
          label="Days it keeps"
          isOptional
          className="w-12"
          value={draft.keepsDays}
          read={readDays}
          isReadOnly={!mayEdit}
          onChange={(keepsDays) => set({ keepsDays })}
        />{' '}
        days
      </span>
      <select
        aria-label="Stock"
        className="inplace"
        value={draft.stock ?? ''}
        onChange={(e) => set({ stock: (e.target.value || undefined) as Ingredient['stock'] })}
      >
        <option value="">stock not counted</option>
        {Object.entries(STOCK_STATES).map(([key, label]) => (
          <option key={key} value={key}>
            {label}
          </option>
        ))}
      </select>
      {(draft.kind === 'garnish' || draft.kind === 'produce') && (
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={draft.isFoodGrade ?? true}
            onChange={(e) => set({ isFoodGrade: e.target.checked })}
          />
          food grade
        </label>
      )}
    </div>
  )
}
