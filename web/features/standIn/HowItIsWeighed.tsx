import { mayDo } from '@conch/contract'
import { nameIn } from '@conch/core/house'
import { RANGES } from '@conch/core/schema/ranges'
import type { StandInWeights } from '@conch/core/standin'
import { toast } from 'sonner'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { STEP_HINT } from '../../shelf/NearWords.tsx'
import { NumberField } from '../../ui/NumberField.tsx'

import type { StandInSearch } from './useStandInSearch.ts'

/** How much, in which steps, what each counts, and what is left out. */
export function HowItIsWeighed({ search }: { search: StandInSearch }) {
  const { book } = useHouse()
  const who = useWho()
  const { kit } = book.settings
  const { volumeMl, setTypedMl, stepMl, setStepMl, weights, setWeights, limitSteps, setLimit } = search
  const { refused, without, setWithout, notTonight, isOwn, keepAsOwn } = search
  const weight = (key: keyof StandInWeights, label: string) => (
    <span className="whitespace-nowrap">
      <NumberField
        label={`Weight of ${label}`}
        value={weights[key]}
        {...RANGES.standInWeight}
        step={0.5}
        onChange={(w) => setWeights({ ...weights, [key]: w })}
      />{' '}
      {label}
    </span>
  )
  return (
    <>
      <p className="mb-1 flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <span>
          <NumberField
            label="Volume in ml"
            value={volumeMl}
            low={stepMl}
            high={450}
            step={stepMl}
            onChange={setTypedMl}
          />{' '}
          ml in steps of{' '}
          <select
            aria-label="Step"
            className="inplace"
            value={stepMl}
            onChange={(e) => setStepMl(Number(e.target.value))}
          >
            {[kit.ounceMl / 4, kit.ounceMl / 2, 5, 10].map((ml) => (
              <option key={ml} value={ml}>
                {Number(ml.toFixed(2))} ml
              </option>
            ))}
          </select>
        </span>
        <span className="text-soft">one step on a line counts 1;</span>
        {weight('strength', 'strength')}
        {weight('sugar', 'sugar')}
        {weight('acid', 'acid')}
        {weight('colour', 'colour')}
        {weight('price', 'price')}
        <span className="whitespace-nowrap">
          at most{' '}
          <NumberField
            label="Limit in steps"
            value={limitSteps}
            {...RANGES.standInSteps}
            step={0.1}
            onChange={setLimit}
          />{' '}
          <span title={STEP_HINT}>steps away</span>
        </span>
      </p>
      {refused.length > 0 && (
        <p className="text-sm text-soft">
          refused: {refused.map((r) => `${nameIn(book.ingredients, r.slug)} (${r.reason})`).join('; ')}
        </p>
      )}
      {notTonight.length > 0 && (
        <p className="flex flex-wrap items-baseline gap-1 text-sm">
          <span className="text-soft">without:</span>
          {notTonight.map((slug) => (
            <button
              key={slug}
              type="button"
              className="act min-h-8 text-sm line-through"
              title="take it in again"
              onClick={() => setWithout(new Set([...without].filter((s) => s !== slug)))}
            >
              {nameIn(book.ingredients, slug)}
            </button>
          ))}
        </p>
      )}
      {!isOwn && mayDo(who.role, 'editHouse') && (
        <p className="no-print text-sm">
          <button
            type="button"
            className="act act-quiet text-sm text-soft"
            onClick={() => keepAsOwn().catch((e: Error) => toast.error(e.message))}
          >
            Weigh it like this from now on, and leave those out
          </button>
        </p>
      )}
    </>
  )
}
