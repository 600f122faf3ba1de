import { RANGES } from '@conch/core/schema/ranges'
import { useEffect, useState } from 'react'
import { NumberField } from '../../ui/NumberField.tsx'
import { clockS, type TrialProps } from './trialState.ts'

/** Start and stop with a thumb; it goes on through a reload. */
export function TrialClock({ trial, set, isNext }: TrialProps & { isNext: boolean }) {
  const [, tick] = useState(0)
  const { startedAtMs } = trial
  useEffect(() => {
    if (startedAtMs === undefined) return
    const timer = setInterval(() => tick((n) => n + 1), 100)
    return () => clearInterval(timer)
  }, [startedAtMs])
  const runs = startedAtMs !== undefined
  return (
    <>
      <button
        type="button"
        className={`act min-h-14 px-8 text-xl ${isNext || runs ? 'act-main' : ''}`}
        onClick={() =>
          runs
            ? set({ startedAtMs: undefined, durationS: Math.min(120, Math.max(0.3, clockS(startedAtMs, Date.now()))) })
            : set({ startedAtMs: Date.now(), durationS: undefined })
        }
      >
        {runs
          ? `Stop  ${clockS(startedAtMs, Date.now()).toFixed(1)} s`
          : trial.durationS === undefined
            ? 'Start'
            : 'Again'}
      </button>
      {!runs && (
        <span>
          <NumberField
            label="Seconds of work"
            value={trial.durationS}
            low={0.3}
            high={120}
            step={0.5}
            digits={1}
            onChange={(durationS) => set({ durationS })}
          />{' '}
          s
        </span>
      )}
      <span className="text-sm text-soft">
        in{' '}
        <NumberField
          label="Bursts"
          value={trial.bursts}
          {...RANGES.bursts}
          digits={0}
          onChange={(n) => set({ bursts: Math.round(n) })}
        />{' '}
        burst{trial.bursts > 1 ? 's, ' : ''}
        {trial.bursts > 1 && (
          <>
            <NumberField
              label="Rest between bursts"
              value={trial.restS}
              {...RANGES.restS}
              digits={1}
              onChange={(restS) => set({ restS })}
            />{' '}
            s between
          </>
        )}
        {' · '}ice waited{' '}
        <NumberField
          label="Ice waited"
          value={trial.waitS}
          {...RANGES.iceWaitS}
          digits={0}
          onChange={(waitS) => set({ waitS })}
        />{' '}
        s
      </span>
    </>
  )
}
