import type { Ingredient } from '@conch/core/house'
import { fruitFor } from '@conch/core/lots'
import { useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import type { LotInMaking } from './makeLotState.ts'

/** How many fruit went in, and how many to buy for a night. */
export function Pressing({
  ingredient,
  lot,
  onChange,
}: {
  ingredient: Ingredient
  lot: LotInMaking
  onChange: (change: Partial<LotInMaking>) => void
}) {
  const { house } = useHouse()
  const [neededMl, setNeededMl] = useState(1500)
  const each = house.fruitYields[ingredient.slug]
  const need = each && fruitFor(neededMl, each)
  return (
    <div className="border-y border-hair py-3 text-lg">
      <p>
        pressed from{' '}
        <NumberField
          label="Fruit pressed"
          value={lot.fruitCount}
          low={1}
          high={10_000}
          digits={0}
          onChange={(fruitCount) => onChange({ fruitCount: Math.round(fruitCount) })}
        />{' '}
        {ingredient.fruit?.name ?? 'fruit'}s{' '}
        <input
          aria-label="Size of the fruit"
          className="inplace w-32 text-base"
          maxLength={40}
          placeholder="small, box of 60 …"
          value={lot.fruitSize ?? ''}
          onChange={(e) => onChange({ fruitSize: e.target.value })}
        />
      </p>
      {each && need && (
        <p className="mt-2 text-sm text-soft">
          For a night of{' '}
          <NumberField
            label="Juice for the night"
            value={neededMl}
            low={10}
            high={100_000}
            step={100}
            digits={0}
            onChange={setNeededMl}
          />{' '}
          ml take <b className="font-semibold text-ink">{need.safe}</b>, so that a poor box still does; {need.mean}{' '}
          would do at {each.mlPerFruit.toFixed(0)} ml each (
          {each.basis === 'measured' ? `${each.pressings} pressings here` : 'assumed: nobody has pressed it here'}).
        </p>
      )}
    </div>
  )
}
