import { mayDo } from '@conch/contract'
import { type Batch, type BatchSize, batchOf, batchOfClosed, factorFor, mixerOfToday } from '@conch/core/formula'
import { bySlug, type Ingredient } from '@conch/core/house'
import { useEffect, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { toast } from 'sonner'
import { useHouse } from '../../app/house.tsx'
import { readStored, SEALED_KEYS, writeStored } from '../../app/stored.ts'
import { useWho } from '../../app/who.ts'
import { NeedShelf } from '../../shelf/NeedShelf.tsx'
import { placeOf } from '../../shelf/placeOf.ts'
import { Failure, Loading } from '../../ui/States.tsx'
import { MyHalf, useMyPrep } from '../sealed/index.ts'
import { MeasureYield } from './MeasureYield.tsx'
import { emptyLot, type LotInMaking, lotInMakingSchema, toRequest } from './makeLotState.ts'
import { Pressing } from './Pressing.tsx'
import { SizeChoice } from './SizeChoice.tsx'
import { useLotChanges } from './useLots.ts'
import { Steps, WeighList } from './WeighList.tsx'

/** Making a lot, with wet hands: one thing after another is weighed, then what came out is measured. */
export function MakeLotPage() {
  const { slug = '' } = useParams()
  return (
    <NeedShelf key={slug} what="the recipe" of={[slug]}>
      {() => <KnownMakeLotPage slug={slug} />}
    </NeedShelf>
  )
}

function KnownMakeLotPage({ slug }: { slug: string }) {
  const { house, today } = useHouse()
  const ingredient = bySlug(house.ingredients, slug)
  if (!ingredient) return <Failure error={`There is nothing called “${slug}” on the shelf.`} />
  if (ingredient.closed) {
    return <SealedSheet key={slug} ingredient={ingredient} batch={batchOfClosed(ingredient.closed, ingredient)} />
  }
  if (!ingredient.recipe) return <MakeSheet key={slug} ingredient={ingredient} batch={undefined} />
  const mixer = mixerOfToday(house, today)
  const fresh = mixer.freshMixOf(slug)
  if (!fresh.ok) return <Failure error={`${ingredient.name}: ${fresh.problems[0]?.message}`} />
  return <MakeSheet key={slug} ingredient={ingredient} batch={batchOf(fresh.mix)} />
}

/** Of something sealed as much is written down as was dealt to whoever writes. */
function SealedSheet({ ingredient, batch }: { ingredient: Ingredient; batch: Batch }) {
  const { mine, isPending } = useMyPrep(ingredient.slug)
  if (isPending) return <Loading what="the sheet" />
  return <MakeSheet ingredient={ingredient} batch={batch} firstMl={batch.volumeMl * (mine?.factor ?? 1)} />
}

interface MakeSheetProps {
  ingredient: Ingredient
  batch: Batch | undefined
  /** How much is made, until somebody says otherwise; left out: as the recipe is written. */
  firstMl?: number
}

function MakeSheet({ ingredient, batch, firstMl = batch?.volumeMl ?? 1000 }: MakeSheetProps) {
  const who = useWho()
  const navigate = useNavigate()
  const { make } = useLotChanges()
  const key = `${ingredient.isSealed && !ingredient.closed ? SEALED_KEYS : 'conch:'}lot:${ingredient.slug}`
  const first: BatchSize = { to: 'yieldMl', volumeMl: Math.max(1, Math.round(firstMl)) }
  const [lot, setLot] = useState<LotInMaking>(() => readStored(key, lotInMakingSchema) ?? emptyLot(first))
  const [problem, setProblem] = useState<string>()
  const [isBusy, setBusy] = useState(false)
  useEffect(() => writeStored(key, lot), [key, lot])
  const set = (change: Partial<LotInMaking>) => setLot({ ...lot, ...change })
  const size = batch ? factorFor(batch, lot.size) : { ok: true as const, factor: 1 }
  const factor = size.ok ? size.factor : 1
  const keep = async () => {
    setBusy(true)
    setProblem(undefined)
    try {
      const made = await make(toRequest(ingredient.slug, factor, lot))
      writeStored(key, undefined)
      toast(`Lot ${made.id} of ${made.name} is written down.`)
      navigate(`/lots/${made.id}`)
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error))
    } finally {
      setBusy(false)
    }
  }
  const isBegun = Object.keys(lot.weighedG).length > 0 || Object.keys(lot.measured).length > 0
  return (
    <div className="mx-auto max-w-3xl px-4 pt-3 pb-10">
      <p className="caption">
        <Link className="underline" to={batch ? placeOf(ingredient) : '/mixes'}>
          {batch ? 'the recipe' : 'all mixes'}
        </Link>
        {isBegun && ' · half made: kept on this device until it is written down'}
      </p>
      <h1 className="mb-3 text-3xl">
        {batch ? 'Make' : 'Press'} {ingredient.name}
      </h1>
      {batch ? (
        <>
          <SizeChoice
            slug={ingredient.slug}
            batch={batch}
            size={lot.size}
            onChange={(next) => set({ size: next, weighedG: {} })}
          />
          {!size.ok && (
            <p role="alert" className="text-stop">
              {size.reason}
            </p>
          )}
          {ingredient.closed ? (
            <>
              <MyHalf ingredient={ingredient.slug} />
              <p className="mt-3 text-soft">
                Two people weigh it, each a half, by sheets that a manager deals. When both are in one jug, the lot is
                written down here.
              </p>
            </>
          ) : (
            <WeighList batch={batch} factor={factor} lot={lot} onWeigh={(weighedG) => set({ weighedG })} />
          )}
          <Steps steps={ingredient.recipe?.steps ?? []} />
        </>
      ) : (
        <Pressing ingredient={ingredient} lot={lot} onChange={set} />
      )}
      <MeasureYield ingredient={ingredient} batch={batch} factor={factor} lot={lot} onChange={set} />
      <label className="mt-3 block">
        <span className="text-sm font-semibold">Note</span>
        <input
          className="field"
          maxLength={500}
          placeholder="cloudy, sweeter than usual, new sugar …"
          value={lot.note}
          onChange={(e) => set({ note: e.target.value })}
        />
      </label>
      {problem && (
        <p role="alert" className="mt-3 border-l-4 border-stop pl-3 text-stop">
          {problem}
        </p>
      )}
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        {isBegun && (
          <button type="button" className="act" onClick={() => setLot(emptyLot(first))}>
            Begin again
          </button>
        )}
        <button
          type="button"
          className="act act-main min-h-12 px-6 text-lg"
          disabled={isBusy || !size.ok || !mayDo(who.role, 'makeLot')}
          title={mayDo(who.role, 'makeLot') ? undefined : 'A manager or a lead makes lots'}
          onClick={keep}
        >
          Write the lot down
        </button>
      </div>
    </div>
  )
}
