import { mayDo } from '@conch/contract'
import { type TrialDocument, unaccountedG } from '@conch/core/calibration'
import { bySlug } from '@conch/core/house'
import { writeTrial } from '@conch/core/trials'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { toast } from 'sonner'
import { useHouse } from '../../app/house.tsx'
import { drinkQuery } from '../../app/queries.ts'
import { useShelfFor } from '../../app/shelf.ts'
import { readStored, writeStored } from '../../app/stored.ts'
import { useWho } from '../../app/who.ts'
import { IceWeighed } from './IceWeighed.tsx'
import { TrialClock } from './TrialClock.tsx'
import { TemperatureField, TrialStep, WeightField } from './TrialStep.tsx'
import { TrialSubject } from './TrialSubject.tsx'
import { expectationOf } from './trialExpectation.ts'
import {
  emptyTrial,
  provisionalRequest,
  type TrialStep as Step,
  type TrialInMaking,
  type TrialProps,
  toTrialRequest,
  trialInMakingSchema,
  usualIceAt,
} from './trialState.ts'
import { useTrialChanges } from './useTrials.ts'

const KEY = 'conch:trial'
/** A strainer and a tin keep about that much, g. */
const MOST_LOST_G = 8

/** A trial, with wet hands: one step after another, taken from scale, thermometer and clock. */
export function TrialPage() {
  const { book } = useHouse()
  const [search] = useSearchParams()
  const wellSlug = search.get('well')
  const stationSlug = search.get('station')
  const [trial, setTrial] = useState<TrialInMaking>(() => {
    const kept = readStored(KEY, trialInMakingSchema)
    const isAnother = kept && wellSlug && (kept.well !== wellSlug || kept.station !== stationSlug)
    // A half-made one is not thrown away for an address, unless nothing is in it yet.
    if (kept && !(isAnother && kept.liquidBeforeG === undefined)) return kept
    const well = bySlug(book.wells, wellSlug ?? undefined) ?? book.wells[0]
    const station = bySlug(well?.stations ?? [], stationSlug ?? undefined) ?? well?.stations[0]
    return emptyTrial(well?.slug ?? '', station?.slug ?? '', usualIceAt(book, well?.slug ?? '', station?.slug ?? ''))
  })
  useEffect(() => writeStored(KEY, trial), [trial])
  const set = (change: Partial<TrialInMaking>) => setTrial((t) => ({ ...t, ...change }))
  return <TrialSheet trial={trial} set={set} restart={(t) => setTrial(t)} />
}

interface TrialSheetProps extends TrialProps {
  restart: (trial: TrialInMaking) => void
}

function TrialSheet({ trial, set, restart }: TrialSheetProps) {
  const { book } = useHouse()
  const who = useWho()
  const navigate = useNavigate()
  const { add } = useTrialChanges()
  const [refused, setRefused] = useState<string>()
  const [isBusy, setBusy] = useState(false)
  const drink = useQuery({ ...drinkQuery(trial.drink), enabled: trial.drink !== '' }).data
  const version = drink?.versions.find((v) => v.number === trial.version) ?? drink?.versions.at(-1)
  const made = trial.drink === '' ? undefined : version?.document
  useShelfFor([made])

  const asked = toTrialRequest({ ...trial, version: version?.number })
  // The same reading of it as the server's: what cannot be is said while one stands at the scale.
  const dryRun = writeTrial(asked.ok ? asked.request : provisionalRequest(trial), book, made)
  const problemOf = (...fields: string[]) =>
    dryRun.ok ? undefined : dryRun.problems.find((p) => fields.includes(p.field))?.message
  const stands = dryRun.ok ? dryRun.document : undefined
  const expected = stands && asked.ok ? expectationOf(stands, book, trial) : undefined

  const lostG = stands && asked.ok ? (unaccountedG(stands) ?? 0) : 0

  const kinds = trial.ice.map((p) => p.kind)
  const again = () => restart(emptyTrial(trial.well, trial.station, kinds))
  const keep = async () => {
    if (!asked.ok) return
    setBusy(true)
    setRefused(undefined)
    try {
      const kept = await add(asked.request)
      writeStored(KEY, undefined)
      again()
      toast(`Trial ${kept.id} is written down.`)
      navigate(`/ice/${trial.well}/${trial.station}`)
    } catch (error) {
      setRefused(error instanceof Error ? error.message : String(error))
    } finally {
      setBusy(false)
    }
  }
  const next: Step | undefined = asked.ok ? undefined : asked.next
  const isBegun = trial.liquidBeforeG !== undefined || trial.durationS !== undefined
  return (
    <div className="mx-auto max-w-3xl px-4 pt-3 pb-10">
      <p className="caption">
        <Link className="underline" to="/ice">
          Ice bench
        </Link>
        {isBegun && ' · half made: kept on this device until it is written down'}
      </p>
      <h1 className="text-3xl">A trial</h1>
      <TrialSubject trial={trial} set={set} drink={drink} version={version?.number} />
      {problemOf('drink', 'figures', 'station', 'well') && (
        <p role="alert" className="text-stop">
          {problemOf('drink', 'figures', 'station', 'well')}
        </p>
      )}
      <TrialSteps {...{ trial, set, problemOf }} next={next} stands={stands} />
      {lostG > MOST_LOST_G && (
        <p className="mt-3 text-mind">
          {lostG.toFixed(0)} g of what went in came out nowhere: on the bar, in the tin, or a wrong weight.
        </p>
      )}
      {expected && (
        <p className="mt-3" aria-live="polite">
          {Math.abs(expected.measuredG - expected.fittedG) <= expected.usualG
            ? `${expected.measuredG.toFixed(0)} g of water, as expected (${expected.fittedG.toFixed(0)} g).`
            : `${expected.measuredG.toFixed(0)} g of water where ${expected.fittedG.toFixed(0)} g were expected. Weigh again before you write it down?`}
        </p>
      )}
      <label className="mt-3 block">
        <span className="text-sm font-semibold">Note</span>
        <input
          className="field"
          maxLength={500}
          placeholder="the bin does not drain, new blades …"
          value={trial.note}
          onChange={(e) => set({ note: e.target.value })}
        />
      </label>
      {refused && (
        <p role="alert" className="mt-3 border-l-4 border-stop pl-3 text-stop">
          {refused}
        </p>
      )}
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        {isBegun && (
          <button type="button" className="act" onClick={again}>
            Begin again
          </button>
        )}
        <button
          type="button"
          className="act act-main min-h-12 px-6 text-lg"
          disabled={isBusy || !asked.ok || !dryRun.ok || !mayDo(who.role, 'logTrial')}
          title={mayDo(who.role, 'logTrial') ? undefined : 'A manager or a lead writes trials down'}
          onClick={keep}
        >
          Write the trial down
        </button>
      </div>
    </div>
  )
}

interface TrialStepsProps extends TrialProps {
  next: Step | undefined
  /** As it stands with what nobody has said; undefined while it cannot be. */
  stands: TrialDocument | undefined
  problemOf: (...fields: string[]) => string | undefined
}

/** From the scale to the clock and back to the scale. */
function TrialSteps({ trial, set, next, stands, problemOf }: TrialStepsProps) {
  return (
    <ol aria-label="Steps">
      <TrialStep
        title="Pour everything, tare the tin, weigh the liquid"
        isNext={next === 'before'}
        isDone={trial.liquidBeforeG !== undefined}
        problem={problemOf('liquidBeforeG')}
      >
        <WeightField
          label="Liquid before"
          valueG={trial.liquidBeforeG}
          isNext={next === 'before'}
          onTake={(liquidBeforeG) => set({ liquidBeforeG })}
        />
        <TemperatureField
          label="the liquid"
          valueC={trial.beforeC}
          otherwiseC={stands?.beforeC.value}
          onTake={(beforeC) => set({ beforeC })}
        />
        <TemperatureField
          label="the tin"
          valueC={trial.vesselC}
          otherwiseC={stands?.vesselC.value}
          onTake={(vesselC) => set({ vesselC })}
        />
      </TrialStep>
      <TrialStep
        title="Weigh the ice in"
        isNext={next === 'ice'}
        isDone={trial.ice.every((p) => p.massG !== undefined)}
        problem={problemOf('ice', 'iceC')}
      >
        <IceWeighed trial={trial} set={set} isNext={next === 'ice'} />
        <TemperatureField
          label="the ice"
          valueC={trial.iceC}
          otherwiseC={stands?.iceC.value}
          onTake={(iceC) => set({ iceC })}
        />
      </TrialStep>
      <TrialStep title="Work" isNext={next === 'work'} isDone={trial.durationS !== undefined}>
        <TrialClock trial={trial} set={set} isNext={next === 'work'} />
      </TrialStep>
      <TrialStep
        title="Strain at once, weigh the liquid"
        isNext={next === 'after'}
        isDone={trial.afterG !== undefined}
        problem={problemOf('afterG', 'afterC')}
      >
        <WeightField
          label="Liquid after"
          valueG={trial.afterG}
          isNext={next === 'after'}
          onTake={(afterG) => set({ afterG })}
        />
        <TemperatureField
          label="the drink"
          valueC={trial.afterC}
          otherwiseC={undefined}
          onTake={(afterC) => set({ afterC })}
        />
      </TrialStep>
      <TrialStep
        title="Weigh what stayed in the strainer, if you like"
        isDone={trial.iceLeftG !== undefined}
        problem={problemOf('iceLeftG')}
      >
        <WeightField label="Ice left" valueG={trial.iceLeftG} onTake={(iceLeftG) => set({ iceLeftG })} />
      </TrialStep>
    </ol>
  )
}
