import { dayText } from '@conch/core/calendar'
import { DEFAULT_SPRAY_ML, type MeasureKit, pourGrid, usualMeasures } from '@conch/core/measure'
import { keysOf } from '@conch/core/schema/keysOf'
import { type FormEvent, useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { devices } from '../../devices/devices.ts'
import { useScaleReading } from '../../devices/useTray.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import { MEASURED_WITH_WATER, type MeasuredKey, mlFromWater, readMeasures, writeMeasures } from './measureKit.ts'

type Settings = ReturnType<typeof useHouse>['house']['settings']

/** The house's own measures: what a dash is here, what jiggers there are, and so what can be poured. */
export function Measures({ mayEdit, onChange }: { mayEdit: boolean; onChange: (change: Partial<Settings>) => void }) {
  const { settings } = useHouse().house
  const [measured, setMeasured] = useState<MeasuredKey>()
  const [isEditing, setEditing] = useState(false)
  const owned = settings.measures ?? usualMeasures(settings.kit)
  const grid = pourGrid(owned).filter((g) => g.volumeMl <= SHOWN_TO_ML)
  return (
    <section aria-label="Measures" className="mb-6">
      <h2 className="flex items-baseline border-b border-ink text-lg">
        <span className="mr-auto">Measures</span>
        {mayEdit && (
          <button
            type="button"
            className="act act-quiet font-text text-sm font-normal"
            onClick={() => setEditing(true)}
          >
            What we own …
          </button>
        )}
      </h2>
      <p className="flex flex-wrap gap-x-6 gap-y-1 py-2">
        {keysOf(MEASURED_WITH_WATER).map((key) => {
          const by = settings.kit.measured?.[key]
          const ml = settings.kit[key] ?? (key === 'sprayMl' ? DEFAULT_SPRAY_ML : undefined)
          return (
            <span key={key} className="whitespace-nowrap">
              <span className="text-soft">{MEASURED_WITH_WATER[key].label}</span>{' '}
              {ml === undefined ? '·' : `${by ? '' : '≈ '}${ml} ml`}{' '}
              <span className="caption">{by ? `measured ${dayText(by.on)}, ${by.by}` : 'assumed'}</span>
              {mayEdit && (
                <button
                  type="button"
                  className="act act-quiet text-sm"
                  aria-label={`Measure the ${MEASURED_WITH_WATER[key].label}`}
                  onClick={() => setMeasured(key)}
                >
                  measure it
                </button>
              )}
            </span>
          )
        })}
      </p>
      <PourRuler volumesMl={grid.map((g) => ({ ml: g.volumeMl, moves: g.moves.length }))} />
      <p className="caption">
        What can be poured in one move (long) or two (short) with{' '}
        {settings.measures
          ? owned.map((m) => m.name).join(', ')
          : 'two jiggers and a spoon, as nobody has said what is owned'}
        .
      </p>
      {measured && (
        <MeasureDialog
          measured={measured}
          kit={settings.kit}
          onClose={() => setMeasured(undefined)}
          onMeasured={(kit) => onChange({ kit })}
        />
      )}
      {isEditing && (
        <OwnedDialog
          text={writeMeasures(owned)}
          onClose={() => setEditing(false)}
          onSave={(measures) => onChange({ measures: measures.length > 0 ? measures : undefined })}
        />
      )}
    </section>
  )
}

const SHOWN_TO_ML = 105

/** Every pour as a tick on a ruler of millilitres. */
function PourRuler({ volumesMl }: { volumesMl: { ml: number; moves: number }[] }) {
  const x = (ml: number) => 8 + (ml / SHOWN_TO_ML) * 984
  return (
    <svg
      viewBox="0 0 1000 44"
      className="w-full max-w-4xl"
      role="img"
      aria-label={`can be poured: ${volumesMl.map((v) => `${Number(v.ml.toFixed(1))} ml`).join(', ')}`}
    >
      <line x1={x(0)} x2={x(SHOWN_TO_ML)} y1={26} y2={26} stroke="var(--hair)" />
      {volumesMl.map((v) => (
        <line
          key={v.ml}
          x1={x(v.ml)}
          x2={x(v.ml)}
          y1={26}
          y2={v.moves === 1 ? 4 : 15}
          stroke="var(--ink)"
          strokeWidth={v.moves === 1 ? 2.4 : 1.1}
        />
      ))}
      {[0, 15, 30, 45, 60, 75, 90, 105].map((ml) => (
        <text
          key={ml}
          x={x(ml)}
          y={41}
          fontSize={11}
          textAnchor={ml === SHOWN_TO_ML ? 'end' : 'middle'}
          fill="var(--soft)"
        >
          {ml}
        </text>
      ))}
    </svg>
  )
}

/** Guided: so many of them, of water, on the scale. */
function MeasureDialog({
  measured,
  kit,
  onClose,
  onMeasured,
}: {
  measured: MeasuredKey
  kit: MeasureKit & Settings['kit']
  onClose: () => void
  onMeasured: (kit: Settings['kit']) => void
}) {
  const who = useWho()
  const { today } = useHouse()
  const readingG = useScaleReading()
  const [massG, setMassG] = useState<number>()
  const [typedMl, setTypedMl] = useState<number>()
  // Whichever was done last counts.
  const weigh = (g: number) => {
    setMassG(g)
    setTypedMl(undefined)
  }
  const { label, count, how, low, high } = MEASURED_WITH_WATER[measured]
  const weighedMl = massG === undefined ? undefined : mlFromWater(measured, massG)
  const ml = typedMl ?? weighedMl
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (ml === undefined) return
    const { [measured]: _, ...others } = kit.measured ?? {}
    // What is only typed nobody has measured.
    const known = typedMl === undefined ? { ...others, [measured]: { on: today, by: who.name } } : others
    onMeasured({ ...kit, [measured]: ml, measured: known })
    onClose()
  }
  return (
    <Dialog isOpen onClose={onClose} title={`How much is a ${label} here?`} lead={`Tare a cup, then put in ${how}.`}>
      <form onSubmit={submit}>
        <ol className="mb-4 list-decimal space-y-2 pl-5 text-lg">
          <li>
            <button type="button" className="act" onClick={() => devices.scale.tare()}>
              Tare the cup
            </button>
          </li>
          <li>
            what they weigh:{' '}
            <NumberField label="Weight of the water" value={massG} low={0} high={2000} digits={2} onChange={weigh} /> g{' '}
            <button type="button" className="act" disabled={readingG <= 0} onClick={() => weigh(readingG)}>
              {readingG > 0 ? `${readingG} g: take it` : 'from the scale'}
            </button>
          </li>
        </ol>
        <p className="mb-3">
          or type what one holds:{' '}
          <NumberField
            label={`A ${label}, ml`}
            value={typedMl ?? kit[measured]}
            low={low}
            high={high}
            step={(high - low) / 20}
            digits={3}
            onChange={setTypedMl}
          />{' '}
          ml <span className="caption">assumed until somebody weighs it</span>
        </p>
        {massG !== undefined && typedMl === undefined && (
          <p
            className={`mb-3 ${ml === undefined ? 'text-stop' : 'text-lg'}`}
            role={ml === undefined ? 'alert' : 'status'}
          >
            {ml === undefined
              ? `${massG} g in ${count} make no ${label}: one is ${low} to ${high} ml. Was the cup tared?`
              : `One ${label} is ${ml} ml; until now ${kit[measured] ?? 'nobody knew'}.`}
          </p>
        )}
        <DialogButtons close="Not yet" onClose={onClose} main={ml === undefined ? undefined : 'Use it from now on'} />
      </form>
    </Dialog>
  )
}

function OwnedDialog({
  text: before,
  onClose,
  onSave,
}: {
  text: string
  onClose: () => void
  onSave: (measures: { name: string; volumesMl: number[] }[]) => void
}) {
  const [text, setText] = useState(before)
  const read = readMeasures(text)
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (!read.ok) return
    onSave(read.measures.map((m) => ({ name: m.name, volumesMl: [...m.volumesMl] })))
    onClose()
  }
  return (
    <Dialog isOpen onClose={onClose} title="Jiggers and spoons that we own">
      <form onSubmit={submit}>
        <Field
          label="One a line, with what its sides and lines hold in ml"
          error={read.ok ? undefined : read.reason}
          hint="two-sided jigger: 30, 45"
        >
          {(props) => <textarea {...props} rows={7} value={text} onChange={(e) => setText(e.target.value)} />}
        </Field>
        <DialogButtons close="Not yet" onClose={onClose} main={read.ok ? 'These we own' : undefined} />
      </form>
    </Dialog>
  )
}
