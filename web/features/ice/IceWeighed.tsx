import { ICE_KINDS, type IceKind } from '@conch/core/cold'
import { keysOf } from '@conch/core/schema/keysOf'
import { WeightField } from './TrialStep.tsx'
import type { TrialProps } from './trialState.ts'

/** The ice of a trial: of each kind what was weighed in. */
export function IceWeighed({ trial, set, isNext }: TrialProps & { isNext: boolean }) {
  return (
    <>
      {trial.ice.map((p, i) => {
        const change = (to: Partial<(typeof trial.ice)[number]>) =>
          set({ ice: trial.ice.map((q, n) => (n === i ? { ...q, ...to } : q)) })
        return (
          <span key={i} className="flex flex-wrap items-center gap-2">
            <select
              aria-label={`Ice ${i + 1}`}
              className="inplace"
              value={p.kind}
              onChange={(e) => change({ kind: e.target.value as IceKind })}
            >
              {keysOf(ICE_KINDS).map((k) => (
                <option key={k} value={k}>
                  {ICE_KINDS[k].label}
                </option>
              ))}
            </select>
            <WeightField
              label={`Ice ${i + 1} weighed`}
              valueG={p.massG}
              isNext={isNext && p.massG === undefined}
              onTake={(massG) => change({ massG })}
            />
            {trial.ice.length > 1 && (
              <button
                type="button"
                className="px-1 text-soft max-sm:min-h-11 max-sm:min-w-11"
                aria-label={`Without ice ${i + 1}`}
                onClick={() => set({ ice: trial.ice.filter((_, n) => n !== i) })}
              >
                ×
              </button>
            )}
          </span>
        )
      })}
      {trial.ice.length < 3 && (
        <button
          type="button"
          className="act act-quiet"
          onClick={() => set({ ice: [...trial.ice, { kind: 'machineCube', massG: undefined }] })}
        >
          + another ice
        </button>
      )}
    </>
  )
}
