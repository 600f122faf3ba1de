import { bySlug } from '@conch/core/house'
import type { LoadToMake, Round, Step, StepKind } from '@conch/core/service'
import { useHouse } from '../../app/house.tsx'
import { useScaleReading } from '../../devices/useTray.ts'
import { jiggerText } from '../../graphics/format.ts'
import { GarnishDrawing } from '../../graphics/GarnishDrawing.tsx'
import { GlassSection } from '../../graphics/GlassSection.tsx'
import { Jiggers } from '../../graphics/Jiggers.tsx'
import { TinLevel } from '../../graphics/TinLevel.tsx'
import { railTray } from './railTray.ts'
import { WhichTin } from './WhichTin.tsx'

const DO: Record<StepKind, string> = {
  glass: 'Set out',
  pour: 'Pour',
  ice: 'Ice',
  chill: 'Chill',
  soda: 'Into the glass first',
  strain: 'Pour off',
  after: 'Top up with',
  topIce: 'Ice in the glass',
  float: 'Float on top',
  garnish: 'Garnish',
  flame: 'Flame',
}

/** One step, to be read from two metres: what, how much, with which jigger, and where it stands in tin or glass. */
export function StepCard({ step, load, round }: { step: Step; load: LoadToMake; round: Round }) {
  const { book } = useHouse()
  // Half of it in the glass stands at no line that is drawn.
  const isInGlass = GLASS_STEPS.has(step.kind) && !(step.go && step.go.number < step.go.of)
  const glass = load.made?.glass
  const slug = load.document.glassByWell?.[round.well] ?? load.document.glass
  const profile = bySlug(book.glasses, slug)
  const isSingle = round.loads.length === 1
  const hasTray = railTray.use()
  return (
    <section
      aria-label="The step in hand"
      className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_auto] gap-x-4 overflow-hidden px-4 pt-3 max-sm:grid-cols-1"
    >
      <div className="flex min-h-0 min-w-0 flex-col gap-y-1 overflow-y-auto">
        <p className="text-2xl text-soft">
          {DO[step.kind]}
          {!isSingle && (
            <b className="font-semibold text-ink">
              {step.kind === 'pour' ? ' into ' : ' · '}
              {round.loads.findIndex((l) => l.id === load.id) + 1}: {load.glasses > 1 && `${load.glasses} × `}
              {load.name}
            </b>
          )}
          {step.go && ` · go ${step.go.number} of ${step.go.of}`}
        </p>
        <p className="flex flex-wrap items-baseline gap-x-5">
          {step.kind !== 'garnish' && step.kind !== 'flame' && step.kind !== 'strain' && (
            <b className="rail-amount" data-amount>
              {step.amount}
            </b>
          )}
          {step.also && step.kind !== 'strain' && <span className="text-3xl text-soft">{step.also}</span>}
        </p>
        {step.kind === 'pour' && hasTray && <OnTheScale step={step} />}
        <h1 className="rail-name break-words">{step.name}</h1>
        {step.kind === 'strain' && step.amount !== 'pour' && (
          <p className="text-3xl">
            {step.amount}
            {step.also && `, ${step.also}`}
          </p>
        )}
        <ul aria-label="To be minded" className="text-2xl text-stop">
          {step.minds.map((m) => (
            <li key={m}>■ {m}</li>
          ))}
        </ul>
        {step.notes.length > 0 && <p className="text-xl text-soft">{step.notes.join(' · ')}</p>}
        {step.shared && <WhichTin shared={step.shared} loads={round.loads} inHand={step.load} />}
        {step.moves && (
          <div className="mt-auto pb-1">
            <Jiggers moves={step.moves.moves} textOf={(ml) => jiggerText(ml, book.settings)} />
          </div>
        )}
      </div>
      <div className="flex h-full min-h-0 w-60 items-center max-sm:hidden">
        {step.kind === 'pour' && step.levelMl && (
          <TinLevel fromMl={step.levelMl.from} toMl={step.levelMl.to} holdsMl={load.made?.holdsMl} />
        )}
        {step.kind === 'garnish' && <GarnishDrawing text={step.name} />}
        {isInGlass && glass && profile && (
          <GlassSection
            profile={profile.profile}
            stemMm={profile.stemMm}
            glass={glass}
            height={300}
            maxWidth={240}
            hasLabels={false}
          />
        )}
      </div>
      {isInGlass && glass && (
        <p className="sr-only">The wash line stands at {Math.round(glass.fill.washLinePct)} % of the glass.</p>
      )}
    </section>
  )
}

/** The scale beside the tin: what it shows, and what this pour weighs. */
function OnTheScale({ step }: { step: Step }) {
  const readingG = useScaleReading()
  const wantedG = step.massG ?? 0
  const off = readingG - wantedG
  return (
    <p className="text-2xl" role="status">
      On the scale {readingG.toFixed(0)} g of {wantedG.toFixed(0)} g
      {readingG > 0 && Math.abs(off) <= Math.max(1, 0.03 * wantedG) && <b className="text-standard"> · that is it</b>}
      {off > Math.max(1, 0.03 * wantedG) && <b className="text-stop"> · {off.toFixed(0)} g too much</b>}
    </p>
  )
}

const GLASS_STEPS: ReadonlySet<StepKind> = new Set(['glass', 'soda', 'strain', 'after', 'topIce', 'float'])
