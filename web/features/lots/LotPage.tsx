import { mayDo } from '@conch/contract'
import { daysBetween, dayText, momentText } from '@conch/core/calendar'
import { SAFETY_DEFERRAL } from '@conch/core/house'
import { dayWords, type Lot, type LotEvent, measuredOf, staleOfLot, standingOfLot } from '@conch/core/lots'
import { RANGES } from '@conch/core/schema/ranges'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { toast } from 'sonner'
import { takeBack } from '../../alone/tap.ts'
import { waitingTaps } from '../../alone/taps.ts'
import { useHouse } from '../../app/house.tsx'
import { useOpened } from '../../app/lastOpened.ts'
import { useWho } from '../../app/who.ts'
import { devices } from '../../devices/devices.ts'
import { useTray } from '../../devices/useTray.ts'
import { NeedShelf } from '../../shelf/NeedShelf.tsx'
import { placeOfSlug } from '../../shelf/placeOf.ts'
import { NumberField } from '../../ui/NumberField.tsx'
import { ReasonDialog } from '../../ui/ReasonDialog.tsx'
import { Failure, Loading } from '../../ui/States.tsx'
import { AcidCurve } from './AcidCurve.tsx'
import { lotQuery, useLotChanges } from './useLots.ts'

export function LotPage() {
  const id = Number(useParams().id)
  const lot = useQuery(lotQuery(id))
  useOpened(lot.data && `${lot.data.name}, lot ${id}`)
  if (lot.isPending) return <Loading what="the lot" />
  if (!lot.data) return <Failure error={lot.error} onRetry={() => lot.refetch()} />
  return (
    <NeedShelf key={id} what="what it is of" of={[lot.data.ingredient]}>
      {() => <OpenLot lot={lot.data} />}
    </NeedShelf>
  )
}

/** Said here while the house is away. */
const SENT_LATER = 'Kept here, and sent when the house is heard.'
const STANDING_WORDS = { fresh: 'fresh', due: 'use it now', expired: 'expired', gone: 'gone' }
const STANDING_TONES = { fresh: '', due: 'text-mind', expired: 'text-stop font-semibold', gone: 'text-soft' }

/** One lot: what the label says, what went in, what came out, what happened since. */
function OpenLot({ lot }: { lot: Lot }) {
  const { house, today, clock } = useHouse()
  const who = useWho()
  const { add } = useLotChanges()
  const [isDiscarding, setDiscarding] = useState(false)
  const standing = standingOfLot(lot, today)
  const path = `/api/lots/${lot.id}/events`
  const kept = waitingTaps.use().filter((t) => t.path === path && !t.refused)
  const mayChange = mayDo(who.role, 'makeLot') && standing !== 'gone'
  const reading = measuredOf(lot)
  const { theory, weighed } = lot.document
  const tell = (event: LotEvent, words: string) =>
    add(lot.id, event, words).then(
      ({ kept }) => toast(kept === undefined ? words : `${words} ${SENT_LATER}`),
      (e: Error) => toast.error(e.message),
    )
  const reopen = () => tell({ kind: 'reopened' }, `Lot ${lot.id} is still there.`)
  const end = (event: LotEvent, words: string) =>
    add(lot.id, event, words).then(
      ({ kept }) =>
        toast(kept === undefined ? words : `${words} ${SENT_LATER}`, {
          action: { label: 'Take it back', onClick: () => void (kept === undefined ? reopen() : takeBack(kept)) },
        }),
      (e: Error) => toast.error(e.message),
    )
  const href = `/api/lots/${lot.id}/label.pdf`
  return (
    <div className="mx-auto max-w-3xl px-4 pt-3 pb-10">
      <p className="caption">
        <Link
          className="underline"
          to={lot.document.weighed.length > 0 ? placeOfSlug(lot.ingredient, house.ingredients) : '/mixes'}
        >
          {lot.name}
        </Link>
      </p>
      <header className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 className="mr-auto text-3xl">
          {lot.name}, lot {lot.id}
        </h1>
        {mayChange && (
          <div className="no-print flex flex-wrap gap-1">
            <a
              className="act"
              href={href}
              target="_blank"
              rel="noreferrer"
              onClick={() => {
                devices.printer.print({ href, title: `${lot.name}, lot ${lot.id}`, at: new Date().toISOString() })
                tell({ kind: 'labelled', copies: 1 }, 'A label is printed.')
              }}
            >
              Label
            </a>
            <button type="button" className="act" onClick={() => end({ kind: 'usedUp' }, `Lot ${lot.id} is used up.`)}>
              Used up
            </button>
            <button type="button" className="act text-stop" onClick={() => setDiscarding(true)}>
              Discard …
            </button>
          </div>
        )}
      </header>
      {standing === 'gone' && mayDo(who.role, 'makeLot') && (
        <p className="no-print mb-2">
          <button type="button" className="act" onClick={reopen}>
            It is still there
          </button>
        </p>
      )}
      <p className="text-lg">
        made {dayText(lot.madeOn)} by {lot.madeBy} ·{' '}
        <span className={STANDING_TONES[standing]}>
          {lot.useBy ? `use by ${dayText(lot.useBy)}` : 'no use-by'}: {STANDING_WORDS[standing]}
        </span>
      </p>
      {lot.document.allergens.length > 0 && <p className="text-mind">▲ contains {lot.document.allergens.join(', ')}</p>}
      {standing !== 'gone' &&
        staleOfLot(lot, today).map((s) => (
          <p key={s.lot} className="text-stop">
            ■ made with{' '}
            <Link className="underline" to={`/lots/${s.lot}`}>
              {s.name}, lot {s.lot}
            </Link>
            , which was to be used by {dayText(s.useBy)}
          </p>
        ))}
      <p className="text-soft">
        {ageWords(lot.madeOn, today)}
        {lot.document.madeAt && `, at ${momentText(lot.document.madeAt, clock)}`}
      </p>
      {lot.document.pressed && (
        <p>
          pressed from {lot.document.pressed.fruitCount} fruit
          {lot.document.pressed.size && `, ${lot.document.pressed.size}`}
        </p>
      )}
      {lot.document.note && <p className="text-soft">“{lot.document.note}”</p>}

      {weighed.length > 0 && (
        <table className="mt-4 w-full" aria-label="Weighed in">
          <thead>
            <tr className="caption border-b border-ink text-right">
              <th className="text-left font-normal">weighed in</th>
              <th className="font-normal">asked, g</th>
              <th className="font-normal">on the scale, g</th>
            </tr>
          </thead>
          <tbody>
            {weighed.map((w) => (
              <tr key={w.ingredient} className="border-b border-hair/60 text-right">
                <th scope="row" className="text-left font-normal">
                  {w.name}
                </th>
                <td>{w.plannedG.toFixed(w.plannedG < 100 ? 1 : 0)}</td>
                <td>{w.actualG === null ? <span className="text-soft">not weighed</span> : w.actualG}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}

      <table className="mt-4 w-full" aria-label="Measured">
        <thead>
          <tr className="caption border-b border-ink text-right">
            <th className="text-left font-normal">what came out</th>
            <th className="font-normal">{lot.document.recipe ? 'by the recipe' : 'until now'}</th>
            <th className="font-normal">measured</th>
            <th className="font-normal">difference</th>
          </tr>
        </thead>
        <tbody>
          {(
            [
              ['weight, g', theory.massG, reading?.measured.massG, 0],
              ['volume, ml', theory.volumeMl, reading?.measured.volumeMl, 0],
              ['dissolved, °Bx', theory.brix, reading?.measured.brix, 1],
              ['strength, % ABV', theory.abvPct, reading?.measured.abvPct, 1],
              ['acid, g/100 ml', theory.acidGPer100Ml, reading?.measured.acidGPer100Ml, 2],
            ] as const
          ).map(([label, byRecipe, now, digits]) => (
            <tr key={label} className="border-b border-hair/60 text-right">
              <th scope="row" className="text-left font-normal">
                {label}
              </th>
              <td>{byRecipe > 0 ? byRecipe.toFixed(digits) : '·'}</td>
              <td>{now === undefined ? <span className="text-soft">·</span> : now.toFixed(digits)}</td>
              <td className={now !== undefined && byRecipe > 0 ? 'font-semibold' : ''}>
                {now !== undefined && byRecipe > 0 ? signed(now - byRecipe, digits) : ''}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <AcidCurve lot={lot} />
      {mayChange && (
        <Remeasure onMeasured={(measured) => tell({ kind: 'measured', measured }, 'The reading is kept.')} />
      )}

      <section aria-label="What happened" className="mt-5">
        <h2 className="border-b border-ink text-lg">What happened</h2>
        {lot.events.length + kept.length === 0 && <p className="text-soft">Nothing since it was made.</p>}
        <ul>
          {lot.events.map((e) => (
            <li key={e.at + e.event.kind} className="flex gap-3 border-b border-hair/60 py-0.5">
              <span className="caption w-40">{momentText(e.at, clock)}</span>
              <span className="flex-1">{eventWords(e.event)}</span>
              <span className="caption">{e.by}</span>
            </li>
          ))}
          {kept.map((t) => (
            <li key={t.place} className="flex gap-3 border-b border-hair/60 py-0.5">
              <span className="caption w-40">{momentText(new Date(t.at).toISOString(), clock)}</span>
              <span className="flex-1">
                {t.words} <b className="font-semibold text-mind">Not sent yet.</b>
              </span>
              <span className="caption">{t.by.name}</span>
            </li>
          ))}
        </ul>
      </section>
      <p className="caption mt-4">
        {house.settings.name}. {SAFETY_DEFERRAL}
      </p>
      {isDiscarding && (
        <ReasonDialog
          title={`Discard lot ${lot.id} of ${lot.name}`}
          lead="It is poured away and stays in the book. No drink is computed with it from then on."
          main="Discard it"
          onClose={() => setDiscarding(false)}
          onReason={(reason) => {
            setDiscarding(false)
            end({ kind: 'discarded', reason }, `Lot ${lot.id} is discarded.`)
          }}
        />
      )}
    </div>
  )
}

function ageWords(madeOn: string, today: string): string {
  const days = daysBetween(madeOn, today)
  return days <= 0 ? 'made today' : `${dayWords(days)} old`
}

const signed = (value: number, digits: number) => {
  const text = Math.abs(value).toFixed(digits)
  return Number(text) === 0 ? 'none' : `${value < 0 ? '−' : '+'}${text}`
}

function eventWords(event: LotEvent): string {
  switch (event.kind) {
    case 'measured': {
      const m = event.measured
      const words = [
        m.massG !== undefined && `${m.massG} g`,
        m.volumeMl !== undefined && `${m.volumeMl} ml`,
        m.brix !== undefined && `${m.brix} °Bx`,
        m.abvPct !== undefined && `${m.abvPct} % ABV`,
        m.acidGPer100Ml !== undefined && `${m.acidGPer100Ml} g acid in 100 ml`,
        m.pH !== undefined && `pH ${m.pH}`,
      ]
      return `measured: ${words.filter(Boolean).join(', ')}`
    }
    case 'labelled':
      return event.copies === 1 ? 'a label was printed' : `${event.copies} labels were printed`
    case 'usedUp':
      return 'used up'
    case 'reopened':
      return 'that was a wrong tap: it is still there'
    case 'discarded':
      return `discarded: ${event.reason}`
  }
}

/** One more reading: drinks go by the last one. */
function Remeasure({ onMeasured }: { onMeasured: (measured: { brix?: number; acidGPer100Ml?: number }) => void }) {
  useTray()
  const [brix, setBrix] = useState<number>()
  const [acid, setAcid] = useState<number>()
  const shownBrix = brix ?? devices.refractometer.readBrix()
  const shownAcid = acid ?? devices.acidMeter.read()?.acidGPer100Ml
  const keep = () => {
    onMeasured({
      ...(shownBrix === undefined ? {} : { brix: shownBrix }),
      ...(shownAcid === undefined ? {} : { acidGPer100Ml: shownAcid }),
    })
    setBrix(undefined)
    setAcid(undefined)
  }
  return (
    <p className="no-print mt-2 flex flex-wrap items-center gap-2">
      <span className="text-soft">another reading:</span>
      <NumberField
        label="Brix, measured again"
        value={shownBrix}
        {...RANGES.brix}
        step={0.5}
        digits={1}
        onChange={setBrix}
      />{' '}
      °Bx
      <NumberField
        label="Acid, measured again"
        value={shownAcid}
        {...RANGES.acidGPer100Ml}
        step={0.05}
        digits={2}
        onChange={setAcid}
      />{' '}
      g acid in 100 ml
      <button
        type="button"
        className="act"
        disabled={shownBrix === undefined && shownAcid === undefined}
        onClick={keep}
      >
        Keep the reading
      </button>
    </p>
  )
}
