import { dayText } from '@conch/core/calendar'
import type { Recipe } from '@conch/core/formula'
import { RANGES, times } from '@conch/core/schema/ranges'
import { useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { NumberField } from '../../ui/NumberField.tsx'
import { ReasonDialog } from '../../ui/ReasonDialog.tsx'

interface HowItIsMadeProps {
  recipe: Recipe
  onChange?: ((next: Partial<Recipe>) => void) | undefined
}

/** Steps, boiling down, losses, stirring and days: each a sentence with its numbers where they stand. */
export function HowItIsMade({ recipe, onChange }: HowItIsMadeProps) {
  const isReadOnly = !onChange
  return (
    <dl className="mt-4 grid grid-cols-[4.500rem_minmax(0,1fr)] items-baseline gap-x-3 gap-y-2 [&>dt]:text-right [&>dt]:text-sm [&>dt]:text-soft">
      <dt>steps</dt>
      <dd>
        <Steps {...{ recipe, onChange }} />
      </dd>
      <dt>boil</dt>
      <dd>
        <Boil {...{ recipe, onChange }} />
      </dd>
      <dt>loss</dt>
      <dd>
        <NumberField
          label="Lost in pan and sieve"
          value={100 * (recipe.lossFraction ?? 0)}
          {...times(RANGES.lossFraction, 100)}
          step={1}
          isReadOnly={isReadOnly}
          onChange={(pct) => onChange?.({ lossFraction: pct === 0 ? undefined : pct / 100 })}
        />{' '}
        % <span className="text-soft">stays in pan and sieve</span>
      </dd>
      <dt>stir</dt>
      <dd>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            disabled={isReadOnly}
            checked={recipe.isEmulsion ?? false}
            onChange={(e) => onChange?.({ isEmulsion: e.target.checked || undefined })}
          />
          an emulsion: every spec says to stir it before the pour
        </label>
      </dd>
      <dt>keeps</dt>
      <dd>
        <NumberField
          label="Days it keeps"
          value={recipe.keepsDays}
          {...RANGES.mixKeepsDays}
          step={1}
          digits={0}
          isReadOnly={isReadOnly}
          onChange={(days) => onChange?.({ keepsDays: Math.round(days) })}
        />{' '}
        days <span className="text-soft">by the house; what is fresh in it shortens them</span>
        <Decision {...{ recipe, onChange }} />
      </dd>
    </dl>
  )
}

/** What is done, in order, with its heat and its minutes. */
function Steps({ recipe, onChange }: HowItIsMadeProps) {
  const steps = recipe.steps ?? []
  const setStep = (index: number, change: Partial<(typeof steps)[number]>) =>
    onChange?.({ steps: steps.map((s, i) => (i === index ? { ...s, ...change } : s)) })
  return (
    <>
      <ol className="list-decimal pl-5">
        {steps.map((s, i) => (
          <li key={i} className="py-0.5">
            {!onChange ? (
              <>
                {s.text}
                {s.temperatureC !== undefined && `, ${s.temperatureC} °C`}
                {s.minutes !== undefined && `, ${s.minutes} min`}
              </>
            ) : (
              <span className="flex flex-wrap items-baseline gap-x-2">
                <input
                  aria-label={`Step ${i + 1}`}
                  className="inplace min-w-0 flex-1"
                  maxLength={300}
                  defaultValue={s.text}
                  onBlur={(e) => e.target.value.trim() && setStep(i, { text: e.target.value })}
                />
                <span className="text-sm whitespace-nowrap text-soft">
                  <NumberField
                    label={`Temperature of step ${i + 1}`}
                    value={s.temperatureC}
                    {...RANGES.stepC}
                    step={5}
                    onChange={(temperatureC) => setStep(i, { temperatureC })}
                  />{' '}
                  °C{' '}
                  <NumberField
                    label={`Minutes of step ${i + 1}`}
                    value={s.minutes}
                    {...RANGES.stepMinutes}
                    step={5}
                    onChange={(minutes) => setStep(i, { minutes })}
                  />{' '}
                  min
                </span>
                <button
                  type="button"
                  className="px-1.5 text-soft hover:bg-shallow"
                  aria-label={`Leave step ${i + 1} out`}
                  onClick={() => onChange({ steps: steps.filter((_, n) => n !== i) })}
                >
                  ×
                </button>
              </span>
            )}
          </li>
        ))}
      </ol>
      {onChange && (
        <button
          type="button"
          className="act act-quiet text-sm text-soft"
          onClick={() => onChange({ steps: [...steps, { text: 'Stir until it is dissolved' }] })}
        >
          + step
        </button>
      )}
    </>
  )
}

/** To which weight it is boiled down, if it is. */
function Boil({ recipe, onChange }: HowItIsMadeProps) {
  return recipe.reduceToG === undefined ? (
    <span className="text-soft">
      not boiled down
      {onChange && (
        <button type="button" className="act act-quiet ml-2 text-sm" onClick={() => onChange({ reduceToG: 500 })}>
          + to a weight
        </button>
      )}
    </span>
  ) : (
    <>
      down to{' '}
      <NumberField
        label="Boiled down to"
        value={recipe.reduceToG}
        low={1}
        high={200_000}
        step={10}
        isReadOnly={!onChange}
        onChange={(reduceToG) => onChange?.({ reduceToG })}
      />{' '}
      g
      {onChange && (
        <button
          type="button"
          className="act act-quiet ml-2 text-sm text-soft"
          onClick={() => onChange({ reduceToG: undefined })}
        >
          not boiled down
        </button>
      )}
    </>
  )
}

/** Days that the house has decided on, against what is fresh in it; with who and why. */
function Decision({ recipe, onChange }: HowItIsMadeProps) {
  const who = useWho()
  const { today } = useHouse()
  return recipe.keepsDecision ? (
    <span className="block">
      decided:{' '}
      <NumberField
        label="Days by decision"
        value={recipe.keepsDecision.days}
        {...RANGES.mixKeepsDays}
        digits={0}
        isReadOnly={!onChange}
        onChange={(days) =>
          recipe.keepsDecision && onChange?.({ keepsDecision: { ...recipe.keepsDecision, days: Math.round(days) } })
        }
      />{' '}
      days, because{' '}
      {!onChange ? (
        recipe.keepsDecision.reason
      ) : (
        <input
          aria-label="Why it keeps longer"
          className="inplace w-64"
          maxLength={300}
          defaultValue={recipe.keepsDecision.reason}
          onBlur={(e) => {
            const reason = e.target.value.trim()
            // A decision without a reason is none: the old one stays.
            if (reason.length < 3) e.target.value = recipe.keepsDecision?.reason ?? ''
            else if (recipe.keepsDecision) onChange?.({ keepsDecision: { ...recipe.keepsDecision, reason } })
          }}
        />
      )}{' '}
      <span className="caption">
        {recipe.keepsDecision.by}, {dayText(recipe.keepsDecision.on)}
      </span>
      {onChange && (
        <button
          type="button"
          className="act act-quiet text-sm text-soft"
          onClick={() => onChange({ keepsDecision: undefined })}
        >
          take it back
        </button>
      )}
    </span>
  ) : (
    onChange && (
      <DecideKeeps
        onReason={(reason) =>
          onChange({ keepsDecision: { days: (recipe.keepsDays ?? 0) + 1, reason, by: who.name, on: today } })
        }
      />
    )
  )
}

/** A decision has a reason before it stands. */
function DecideKeeps({ onReason }: { onReason: (reason: string) => void }) {
  const [isAsked, setAsked] = useState(false)
  return (
    <>
      <button type="button" className="act act-quiet block text-sm text-soft" onClick={() => setAsked(true)}>
        + the house decides otherwise
      </button>
      {isAsked && (
        <ReasonDialog
          title="How long it keeps, decided by the house"
          lead="Against what is fresh in it: your name and your reason stand beside it."
          main="Decide"
          onClose={() => setAsked(false)}
          onReason={(reason) => {
            onReason(reason)
            setAsked(false)
          }}
        />
      )}
    </>
  )
}
