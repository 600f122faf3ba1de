import { frothFromRuler, frothingOf, type Ingredient, isWeighed } from '@conch/core/house'
import { lookOf, lookWords } from '@conch/core/palate'
import { RANGES } from '@conch/core/schema/ranges'
import { useState } from 'react'
import { LookSwatch } from '../graphics/LookSwatch.tsx'
import { NumberField } from '../ui/NumberField.tsx'
import type { PartOfBottle } from './partOfBottle.ts'

/** How much something froths, and how it looks: as things like it do, until somebody here says so. */
export function FrothAndLook(props: PartOfBottle) {
  if (isWeighed(props.draft.kind)) return null
  return (
    <div className="mb-3 flex flex-wrap items-baseline gap-x-6 gap-y-1">
      <FrothOf {...props} />
      <LookOf {...props} />
    </div>
  )
}

function FrothOf({ draft, mayEdit, set }: PartOfBottle) {
  const [isMeasuring, setMeasuring] = useState(false)
  const froths = frothingOf(draft)
  return (
    <span>
      <span className="text-soft">froths</span>{' '}
      <NumberField
        label="Froth, ml for each ml"
        value={froths?.mlPerMl ?? 0}
        {...RANGES.frothMlPerMl}
        step={0.1}
        digits={2}
        isReadOnly={!mayEdit}
        onChange={(frothMlPerMl) => set({ frothMlPerMl, frothBasis: 'assumed' })}
      />{' '}
      ml for a ml
      {froths && <span className="caption">, {froths.isAssumed ? 'assumed' : 'measured'}</span>}{' '}
      {mayEdit && (
        <button
          type="button"
          className="text-sm underline"
          aria-expanded={isMeasuring}
          onClick={() => setMeasuring(!isMeasuring)}
        >
          by a ruler
        </button>
      )}
      {isMeasuring && (
        <Ruler
          onMeasured={(frothMlPerMl) => {
            set({ frothMlPerMl, frothBasis: 'measured' })
            setMeasuring(false)
          }}
        />
      )}
    </span>
  )
}

/** A tin shaken dry and hard until the froth stands, and a ruler. */
function Ruler({ onMeasured }: { onMeasured: (mlPerMl: number) => void }) {
  const [reading, setReading] = useState({ volumeMl: 60, heightMm: 10, tinDiameterMm: 85 })
  const put = (change: Partial<typeof reading>) => setReading({ ...reading, ...change })
  const mlPerMl = Math.min(3, frothFromRuler(reading))
  return (
    <span className="mt-1 block border-l-2 border-hair pl-3">
      <span className="caption block">Shake it hard without ice until the froth stands, then measure at once.</span>
      <NumberField
        label="Of it in the tin, ml"
        value={reading.volumeMl}
        low={10}
        high={500}
        step={5}
        digits={0}
        onChange={(volumeMl) => put({ volumeMl })}
      />{' '}
      ml, froth{' '}
      <NumberField
        label="Height of the froth, mm"
        value={reading.heightMm}
        low={0}
        high={150}
        step={1}
        digits={0}
        onChange={(heightMm) => put({ heightMm })}
      />{' '}
      mm high in a tin of{' '}
      <NumberField
        label="Inner diameter of the tin, mm"
        value={reading.tinDiameterMm}
        low={30}
        high={200}
        step={1}
        digits={0}
        onChange={(tinDiameterMm) => put({ tinDiameterMm })}
      />{' '}
      mm{' '}
      <button type="button" className="act text-sm" onClick={() => onMeasured(Number(mlPerMl.toFixed(2)))}>
        take {mlPerMl.toFixed(2)} ml for a ml
      </button>
    </span>
  )
}

const CLOUDS = [
  { cloudiness: 0, label: 'clear' },
  { cloudiness: 0.2, label: 'hazy' },
  { cloudiness: 0.55, label: 'cloudy' },
  { cloudiness: 0.9, label: 'opaque' },
] as const

function LookOf({ draft, mayEdit, set }: PartOfBottle) {
  const look = lookOf(draft)
  const nearest = CLOUDS.reduce((best, c) =>
    Math.abs(c.cloudiness - look.cloudiness) < Math.abs(best.cloudiness - look.cloudiness) ? c : best,
  )
  const put = (change: Partial<NonNullable<Ingredient['look']>>) =>
    set({ look: { colour: look.colour, cloudiness: look.cloudiness, ...change } })
  return (
    <span className="inline-flex flex-wrap items-center gap-x-2">
      <span className="text-soft">in a small glass</span>
      {mayEdit ? (
        <input
          type="color"
          aria-label="Colour in a small glass"
          className="size-8 cursor-pointer border border-hair bg-transparent p-0.5"
          value={look.colour}
          onChange={(e) => put({ colour: e.target.value })}
        />
      ) : (
        <LookSwatch look={look} />
      )}
      <select
        aria-label="How clear it is"
        className="inplace"
        disabled={!mayEdit}
        value={nearest.cloudiness}
        onChange={(e) => put({ cloudiness: Number(e.target.value) })}
      >
        {CLOUDS.map((c) => (
          <option key={c.label} value={c.cloudiness}>
            {c.label}
          </option>
        ))}
      </select>
      <span className="caption">
        {look.isAssumed ? `${lookWords(look)}: assumed` : 'as you say'}
        {!look.isAssumed && mayEdit && (
          <button type="button" className="ml-1 underline" onClick={() => set({ look: undefined })}>
            as things like it
          </button>
        )}
      </span>
    </span>
  )
}
