import {
  isTicked,
  type LoadToMake,
  nextAfter,
  type Round,
  type Step,
  skippedOf,
  stepInHand,
  withTick,
} from '@conch/core/service'
import { useRef, useState } from 'react'
import { toast } from 'sonner'
import { BeforeCard } from './BeforeCard.tsx'
import { ChillCard } from './ChillCard.tsx'
import { LoadStrip } from './LoadStrip.tsx'
import { RailFoot } from './RailFoot.tsx'
import { RoundDone } from './RoundDone.tsx'
import { BEFORE, begunIn, changeRound, roundWords, setRound } from './railRound.ts'
import { StepCard } from './StepCard.tsx'
import { SECOND_TAP_MS } from './secondTap.ts'
import { parkRound } from './sendRound.ts'
import { useDarkNow } from './useDarkNow.ts'
import { useSteps } from './useSteps.ts'
import { WrongAmount } from './WrongAmount.tsx'

/** One round, led through step by step. */
export function MakeRound({ round }: { round: Round }) {
  const [looked, setLooked] = useState<string>()
  const [isWrong, setWrong] = useState(false)
  const [isEnding, setEnding] = useState(false)
  const [isParking, setParking] = useState(false)
  const { toMake, steps, isReckoned } = useSteps(round)
  const dark = useDarkNow(round, steps)
  const step = stepInHand(steps, round, looked)
  const skipped = skippedOf(steps, round)
  const isRead = round.ticks.includes(BEFORE)
  const isDone = isEnding || (isRead && steps.length > 0 && step === undefined)

  const tick = (of: Step, on = true) => {
    const next = nextAfter(steps, withTick(round, of.id, on), of.id)
    changeRound((now) => withTick(now, of.id, on))
    setLooked(on ? next?.id : of.id)
  }
  const go = (by: number) => {
    const at = steps.findIndex((s) => s.id === step?.id)
    const to = steps[at + by]
    if (to) setLooked(to.id)
  }
  const park = async () => {
    if (isParking) return
    setParking(true)
    try {
      // It is let go of here only when it lies somewhere else: a tablet that falls in between has it still.
      const kept = await parkRound(round)
      setRound(undefined)
      toast(
        kept === undefined ? 'Put aside: any tablet can take it up.' : 'Put aside here; sent when the house is heard.',
      )
    } catch (error) {
      setParking(false)
      toast.error((error as Error).message)
    }
  }
  // Else the line after it would be ticked, too, that nobody poured.
  const tappedMs = useRef(0)
  const isSecondTap = () => Date.now() - tappedMs.current < SECOND_TAP_MS
  const onDone = (of: Step) => {
    if (isSecondTap()) return
    tappedMs.current = Date.now()
    tick(of, !isTicked(round, of))
  }
  const onBegin = () => {
    tappedMs.current = Date.now()
    changeRound((now) => begunIn(withTick(now, BEFORE, true), steps))
  }

  if (isDone)
    return (
      <RoundDone
        {...{ round, steps }}
        onBack={(id) => {
          setEnding(false)
          setLooked(id)
        }}
      />
    )
  if (!isRead) return <BeforeCard {...{ round, dark }} onBegin={onBegin} onPark={() => void park()} />
  if (!step) return <NoSteps round={round} onPark={() => void park()} />
  const load = toMake.find((l) => l.id === step.load) as LoadToMake
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <LoadStrip round={round} steps={steps} inHand={step.load} onLook={setLooked} onPark={() => void park()} />
      {dark && (
        <p role="alert" className="border-b-2 border-stop px-4 py-1 text-xl text-stop">
          {dark}
        </p>
      )}
      {isWrong ? (
        <WrongAmount
          {...{ round, step, steps }}
          load={load}
          onDone={(next) => {
            setWrong(false)
            if (next) setLooked(next)
          }}
        />
      ) : (
        <>
          {step.kind === 'chill' ? (
            <ChillCard
              key={step.id}
              {...{ round, step, steps, load, isReckoned }}
              onTick={() => onDone(step)}
              onLook={setLooked}
            />
          ) : (
            <StepCard step={step} load={load} round={round} />
          )}
          <Skipped skipped={skipped} loads={round.loads} onLook={setLooked} />
          <div className="grid shrink-0 grid-cols-[5.5rem_1fr_5.5rem] gap-2 px-3 pb-2">
            <button
              type="button"
              className="rail-act text-3xl"
              aria-label="The step before"
              disabled={steps[0]?.id === step.id}
              onClick={() => go(-1)}
            >
              ‹
            </button>
            {step.kind === 'chill' ? (
              <button type="button" className="rail-act" onClick={() => onDone(step)}>
                {isTicked(round, step) ? 'Done: take it back' : 'Done without the clock'}
              </button>
            ) : (
              <button
                type="button"
                className={`rail-act rail-main ${isTicked(round, step) ? 'opacity-60' : ''}`}
                onClick={() => onDone(step)}
              >
                {isTicked(round, step) ? '✓ Done: take it back' : 'Done'}
              </button>
            )}
            <button
              type="button"
              className="rail-act text-3xl"
              aria-label="Leave it for later: the next step"
              onClick={() => (steps.at(-1)?.id === step.id ? setEnding(true) : go(1))}
            >
              ›
            </button>
          </div>
        </>
      )}
      <RailFoot>
        {step.kind === 'pour' && !isWrong && (
          <button type="button" className="rail-quiet" onClick={() => setWrong(true)}>
            Wrong amount
          </button>
        )}
        <button type="button" className="rail-quiet" onClick={() => setEnding(true)}>
          Finish
        </button>
      </RailFoot>
    </main>
  )
}

/** Nothing of it can be made on this well any more: it is not lost for that. */
function NoSteps({ round, onPark }: { round: Round; onPark: () => void }) {
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <div className="min-h-0 flex-1 px-4 py-3">
        <h1 className="rail-name">{roundWords(round)}</h1>
        <p role="alert" className="mt-2 border-l-4 border-stop pl-3 text-2xl">
          This cannot be made here: something that it names is not in the house, or not known on this tablet.
        </p>
      </div>
      <div className="grid shrink-0 grid-cols-2 gap-2 px-3 pb-2">
        <button type="button" className="rail-act" onClick={() => setRound(undefined)}>
          Let it go
        </button>
        <button type="button" className="rail-act" onClick={onPark}>
          Put aside
        </button>
      </div>
      <RailFoot />
    </main>
  )
}

/** What was passed over stays in sight until it is done. Its room is kept: nothing jumps when it comes. */
function Skipped({
  skipped,
  loads,
  onLook,
}: {
  skipped: readonly Step[]
  loads: Round['loads']
  onLook: (id: string) => void
}) {
  return (
    <div className="flex min-h-16 shrink-0 items-center gap-2 overflow-x-auto px-3" role="status">
      {skipped.length > 0 && (
        <>
          <span className="text-xl whitespace-nowrap text-mind">Not in yet:</span>
          {skipped.map((s) => (
            <button
              key={s.id}
              type="button"
              className="rail-act min-h-14 border-mind whitespace-nowrap text-mind"
              onClick={() => onLook(s.id)}
            >
              {s.name}
              {loads.length > 1 && ` in ${loads.findIndex((l) => l.id === s.load) + 1}`}
            </button>
          ))}
        </>
      )}
    </div>
  )
}
