import type { Batch, BatchSize } from '@conch/core/formula'
import { useDrinksOn } from '../../shelf/useShownDrinks.ts'
import { NumberField } from '../../ui/NumberField.tsx'

/** A quiet night, until somebody says better. */
const FORECAST = 12

/** How large the batch shall be: a yield, bottles, so many drinks, tonight's forecast, or what is left of one component. */
export function SizeChoice({
  slug,
  batch,
  size,
  onChange,
}: {
  slug: string
  batch: Batch
  size: BatchSize
  onChange: (size: BatchSize) => void
}) {
  const tonight = useTonight(slug)
  const number = (label: string, value: number, unit: string, change: (n: number) => void) => (
    <span className="whitespace-nowrap">
      <NumberField label={label} value={value} low={0.1} high={200_000} step={10} digits={1} onChange={change} /> {unit}
    </span>
  )
  return (
    <div className="mb-3 border-y border-hair py-2">
      <p className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <span className="text-soft">so much:</span>
        <select
          aria-label="Size of the batch"
          className="inplace"
          value={size.to}
          onChange={(e) => {
            const to = e.target.value as BatchSize['to']
            const part = batch.parts[0]
            if (to === 'yieldMl') onChange({ to, volumeMl: Math.round(batch.volumeMl) })
            if (to === 'yieldG') onChange({ to, massG: Math.round(batch.massG) })
            if (to === 'bottles') onChange({ to, count: 1, bottleMl: 700 })
            if (to === 'drinks') onChange({ to, count: 40, pourMl: 15 })
            if (to === 'tonight') onChange({ to, drinks: tonight })
            if (to === 'left' && part) onChange({ to, ingredient: part.slug, massG: Math.round(part.massG) })
          }}
        >
          <option value="yieldMl">to a volume</option>
          <option value="yieldG">to a weight</option>
          <option value="bottles">bottles to fill</option>
          <option value="drinks">for a number of drinks</option>
          <option value="tonight" disabled={tonight.length === 0}>
            for tonight’s drinks
          </option>
          <option value="left">what is left of one component</option>
        </select>
        {size.to === 'yieldMl' &&
          number('Yield in ml', size.volumeMl, 'ml', (volumeMl) => onChange({ ...size, volumeMl }))}
        {size.to === 'yieldG' && number('Yield in g', size.massG, 'g', (massG) => onChange({ ...size, massG }))}
        {size.to === 'bottles' && (
          <>
            <NumberField
              label="Bottles"
              value={size.count}
              low={1}
              high={500}
              onChange={(count) => onChange({ ...size, count })}
            />
            {number('Size of a bottle', size.bottleMl, 'ml each', (bottleMl) => onChange({ ...size, bottleMl }))}
          </>
        )}
        {size.to === 'drinks' && (
          <>
            {number('Number of drinks', size.count, 'drinks', (count) => onChange({ ...size, count }))}
            {number('Poured in each', size.pourMl, 'ml each', (pourMl) => onChange({ ...size, pourMl }))}
          </>
        )}
        {size.to === 'left' && (
          <>
            <select
              aria-label="Component that is left"
              className="inplace"
              value={size.ingredient}
              onChange={(e) => onChange({ ...size, ingredient: e.target.value })}
            >
              {batch.parts.map((p) => (
                <option key={p.slug} value={p.slug}>
                  {p.name}
                </option>
              ))}
            </select>
            {number('Left in g', size.massG, 'g', (massG) => onChange({ ...size, massG }))}
          </>
        )}
      </p>
      {size.to === 'tonight' && (
        <ul aria-label="Tonight’s drinks" className="mt-1">
          {size.drinks.map((d, i) => (
            <li key={d.name} className="flex flex-wrap items-baseline gap-x-3">
              <NumberField
                label={`How many ${d.name}`}
                value={d.count}
                low={0}
                high={2000}
                digits={0}
                onChange={(count) =>
                  onChange({ ...size, drinks: size.drinks.map((x, n) => (n === i ? { ...x, count } : x)) })
                }
              />
              <span>× {d.name}</span>
              <span className="text-sm text-soft">{Number(d.pourMl.toFixed(1))} ml each</span>
            </li>
          ))}
          <li className="mt-1 font-semibold">
            {Math.round(size.drinks.reduce((sum, d) => sum + d.count * d.pourMl, 0))} ml in all
          </li>
        </ul>
      )}
    </div>
  )
}

/** The drinks that pour it by name, with how much goes into each. */
function useTonight(slug: string): { name: string; count: number; pourMl: number }[] {
  return (useDrinksOn({ on: [slug] }) ?? []).flatMap(({ name, pours, serves }) => {
    const pourMl = pours.filter((p) => p.slug === slug && !p.slot).reduce((sum, p) => sum + p.volumeMl, 0)
    return pourMl > 0 ? [{ name, count: FORECAST * serves, pourMl: pourMl / serves }] : []
  })
}
