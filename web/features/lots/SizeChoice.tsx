import type { BatchSize, Mix } from '@conch/core/formula'
import { NumberField } from '../../ui/NumberField.tsx'

/** How large the batch shall be: a yield, so many drinks, or what is left of one component. */
export function SizeChoice({
  mix,
  size,
  onChange,
}: {
  mix: Mix
  size: BatchSize
  onChange: (size: BatchSize) => void
}) {
  const number = (label: string, value: number, unit: string, change: (n: number) => void) => (
    <span className="whitespace-nowrap">
      <NumberField label={label} value={value} low={0.1} high={200_000} step={10} digits={1} onChange={change} /> {unit}
    </span>
  )
  return (
    <p className="mb-3 flex flex-wrap items-baseline gap-x-3 gap-y-1 border-y border-hair py-2">
      <span className="text-soft">so much:</span>
      <select
        aria-label="Size of the batch"
        className="inplace"
        value={size.to}
        onChange={(e) => {
          const to = e.target.value as BatchSize['to']
          const part = mix.parts[0]
          if (to === 'yieldMl') onChange({ to, volumeMl: Math.round(mix.volumeMl) })
          if (to === 'yieldG') onChange({ to, massG: Math.round(mix.massG) })
          if (to === 'drinks') onChange({ to, count: 40, pourMl: 15 })
          if (to === 'left' && part) onChange({ to, ingredient: part.ingredient.slug, massG: Math.round(part.massG) })
        }}
      >
        <option value="yieldMl">to a volume</option>
        <option value="yieldG">to a weight</option>
        <option value="drinks">for a number of drinks</option>
        <option value="left">what is left of one component</option>
      </select>
      {size.to === 'yieldMl' &&
        number('Yield in ml', size.volumeMl, 'ml', (volumeMl) => onChange({ ...size, volumeMl }))}
      {size.to === 'yieldG' && number('Yield in g', size.massG, 'g', (massG) => onChange({ ...size, massG }))}
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
            {mix.parts.map((p) => (
              <option key={p.ingredient.slug} value={p.ingredient.slug}>
                {p.ingredient.name}
              </option>
            ))}
          </select>
          {number('Left in g', size.massG, 'g', (massG) => onChange({ ...size, massG }))}
        </>
      )}
    </p>
  )
}
