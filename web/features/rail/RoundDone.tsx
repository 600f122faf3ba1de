import { isTicked, type Round, type Step } from '@conch/core/service'
import { useState } from 'react'
import { toast } from 'sonner'
import { RailFoot } from './RailFoot.tsx'
import { changeRound, roundWords, setRound } from './railRound.ts'
import { finishRound } from './sendRound.ts'
import { TasteIt } from './TasteIt.tsx'

interface RoundDoneProps {
  round: Round
  steps: readonly Step[]
  /** Back to a step. */
  onBack: (step: string | undefined) => void
}

/** The end of a round: what was never ticked, what it tastes like, and off it goes. */
export function RoundDone({ round, steps, onBack }: RoundDoneProps) {
  const open = steps.filter((s) => !isTicked(round, s))
  const [isSending, setSending] = useState(false)
  const finish = async () => {
    setSending(true)
    const skipped = open.map((s) => s.name)
    try {
      const kept = await finishRound(round, skipped)
      setRound(undefined)
      if (kept !== undefined) toast('Kept here, and sent when the house is heard.')
    } catch (error) {
      setSending(false)
      toast.error((error as Error).message)
    }
  }
  const drinks = [...new Map(round.loads.map((l) => [`${l.drink} ${l.version}`, l])).values()]
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <div className="min-h-0 flex-1 overflow-y-auto px-4 py-3">
        {open.length > 0 ? (
          <section aria-label="Not ticked" role="alert">
            <h1 className="rail-name text-mind">
              {open.length === 1 ? `${open[0]?.name} is not in` : `${open.length} things are not ticked`}
            </h1>
            <ul className="mt-2">
              {open.map((s) => (
                <li key={s.id} className="flex items-center gap-3 border-b border-hair py-1">
                  <span className="min-w-0 flex-1 text-2xl break-words">
                    {s.amount && s.kind !== 'garnish' ? `${s.amount} ` : ''}
                    {s.name}
                  </span>
                  <button type="button" className="rail-act" onClick={() => onBack(s.id)}>
                    Do it now
                  </button>
                  <button
                    type="button"
                    className="rail-act"
                    onClick={() => changeRound((now) => ({ ...now, ticks: [...now.ticks, s.id] }))}
                  >
                    It is in
                  </button>
                </li>
              ))}
            </ul>
          </section>
        ) : (
          <h1 className="rail-name">{roundWords(round)}</h1>
        )}
        <section aria-label="Taste it" className="mt-5">
          <h2 className="text-2xl">Taste it</h2>
          {drinks.map((l) => (
            <TasteIt key={`${l.drink} ${l.version}`} load={l} well={round.well} />
          ))}
        </section>
      </div>
      <div className="grid shrink-0 grid-cols-[8rem_1fr] gap-2 px-3 pb-2">
        <button type="button" className="rail-act" onClick={() => onBack(steps.at(-1)?.id)}>
          Back
        </button>
        <button type="button" className="rail-act rail-main" disabled={isSending} onClick={() => void finish()}>
          {open.length > 0 ? 'Out it goes all the same' : 'Out it goes'}
        </button>
      </div>
      <RailFoot />
    </main>
  )
}
