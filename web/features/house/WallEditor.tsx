import { keysOf } from '@conch/core/schema/keysOf'
import {
  brimMlOf,
  heightMmOf,
  profileFromWater,
  profileOfShape,
  profileProblem,
  SHAPES,
  type Shape,
  type VesselProfile,
} from '@conch/core/vessel'
import { useState } from 'react'
import { toast } from 'sonner'
import { useScaleReading } from '../../devices/useTray.ts'
import { Field } from '../../ui/Field.tsx'
import { NumberField } from '../../ui/NumberField.tsx'

type Way = 'points' | 'shape' | 'water'
const WAYS: Record<Way, string> = { points: 'points', shape: 'ruler and brim', water: 'water on the scale' }

/** "0 30, 100 38" ↔ points: height and inner radius in mm, bottom first. */
function readPoints(text: string): VesselProfile | undefined {
  const points = text.split(/[,;\n]/).map((p) => p.trim().split(/\s+/).map(Number))
  if (points.some((p) => p.length !== 2 || p.some(Number.isNaN))) return undefined
  return points.map(([heightMm = 0, radiusMm = 0]) => ({ heightMm, radiusMm }))
}
const writePoints = (profile: VesselProfile) => profile.map((p) => `${p.heightMm} ${p.radiusMm}`).join(', ')

/** A wall; while what is written is none, the last one that was, and why. */
export interface Wall {
  profile: VesselProfile
  problem?: string
}

interface WallEditorProps {
  profile: VesselProfile
  onChange: (wall: Wall) => void
}

/** The inner wall of a glass, in one of three ways: drawn by points, by ruler and brim volume, or by weighing water. */
export function WallEditor({ profile, onChange }: WallEditorProps) {
  const [way, setWay] = useState<Way>('points')
  const [points, setPoints] = useState(writePoints(profile))
  const tell = (next: VesselProfile | undefined, why?: string) => {
    const wrong = why ?? (next ? profileProblem(next) : 'write each point as height and radius, like 0 30, 100 38')
    if (next && !wrong) onChange({ profile: next })
    else onChange({ profile, problem: wrong ?? 'is not there yet' })
  }
  return (
    <div>
      <div className="mb-1 flex gap-1">
        {keysOf(WAYS).map((w) => (
          <button
            key={w}
            type="button"
            aria-pressed={way === w}
            className={`px-2 py-1 text-sm ${way === w ? 'border-b-2 border-ink' : 'text-soft'}`}
            onClick={() => {
              setWay(w)
              if (w === 'points') setPoints(writePoints(profile))
            }}
          >
            {WAYS[w]}
          </button>
        ))}
      </div>
      {way === 'points' && (
        <Field label="Inner wall" hint="Height and inner radius in mm, from the bottom at 0 to the brim: 0 30, 100 38">
          {(props) => (
            <textarea
              {...props}
              rows={3}
              value={points}
              onChange={(e) => {
                setPoints(e.target.value)
                tell(readPoints(e.target.value))
              }}
            />
          )}
        </Field>
      )}
      {way === 'shape' && <ByShape profile={profile} onProfile={(p) => tell(p)} />}
      {way === 'water' && <ByWater profile={profile} onProfile={tell} />}
    </div>
  )
}

function ByShape({ profile, onProfile }: { profile: VesselProfile; onProfile: (p: VesselProfile) => void }) {
  const [shape, setShape] = useState<Shape>('tapered')
  const [heightMm, setHeight] = useState(heightMmOf(profile))
  const [brimMl, setBrim] = useState(Math.round(brimMlOf(profile)))
  const make = (next: { shape?: Shape; heightMm?: number; brimMl?: number }) => {
    const all = { shape, heightMm, brimMl, ...next }
    onProfile(profileOfShape(all.shape, all.heightMm, all.brimMl))
  }
  return (
    <p className="mb-3 flex flex-wrap items-baseline gap-x-3 gap-y-1">
      <select
        aria-label="Shape"
        className="inplace"
        value={shape}
        onChange={(e) => {
          setShape(e.target.value as Shape)
          make({ shape: e.target.value as Shape })
        }}
      >
        {keysOf(SHAPES).map((s) => (
          <option key={s} value={s}>
            {SHAPES[s].label}
          </option>
        ))}
      </select>
      <span>
        <NumberField
          label="Inner height"
          value={heightMm}
          low={10}
          high={600}
          step={5}
          digits={0}
          onChange={(mm) => {
            setHeight(mm)
            make({ heightMm: mm })
          }}
        />{' '}
        mm inside
      </span>
      <span>
        <NumberField
          label="Brim volume"
          value={brimMl}
          low={5}
          high={20_000}
          step={10}
          digits={0}
          onChange={(ml) => {
            setBrim(ml)
            make({ brimMl: ml })
          }}
        />{' '}
        ml to the brim
      </span>
    </p>
  )
}

const FEWEST_LEVELS = 2

function ByWater({
  profile,
  onProfile,
}: {
  profile: VesselProfile
  onProfile: (p: VesselProfile | undefined, why?: string) => void
}) {
  const readingG = useScaleReading()
  const [levels, setLevels] = useState<{ heightMm: number; waterG: number | undefined }[]>(() =>
    [0.3, 0.6, 1].map((u) => ({ heightMm: Math.round(u * heightMmOf(profile)), waterG: undefined })),
  )
  const [offPct, setOff] = useState<number>()
  const set = (next: typeof levels) => {
    setLevels(next)
    const weighed = next.flatMap((l) => (l.waterG === undefined ? [] : [{ heightMm: l.heightMm, waterG: l.waterG }]))
    if (weighed.length < next.length || weighed.length < FEWEST_LEVELS) return
    const found = profileFromWater(weighed)
    setOff(found.ok ? found.offPct : undefined)
    if (found.ok) onProfile(found.profile)
    else onProfile(undefined, found.problem)
  }
  const change = (i: number, to: Partial<(typeof levels)[number]>) =>
    set(levels.map((l, n) => (n === i ? { ...l, ...to } : l)))
  return (
    <div className="mb-3">
      <p className="caption">Tare the empty glass; pour water to each height, the brim last; weigh what is in it.</p>
      <ol>
        {levels.map((l, i) => (
          <li key={i} className="flex flex-wrap items-center gap-x-3 border-b border-hair/60 py-1">
            <span>
              <NumberField
                label={`Height ${i + 1}`}
                value={l.heightMm}
                low={1}
                high={600}
                digits={0}
                onChange={(heightMm) => change(i, { heightMm })}
              />{' '}
              mm
            </span>
            <span>
              <NumberField
                label={`Water to height ${i + 1}`}
                value={l.waterG}
                low={0}
                high={20_000}
                digits={1}
                onChange={(waterG) => change(i, { waterG })}
              />{' '}
              g
            </span>
            <button
              type="button"
              className="act act-quiet text-sm max-sm:min-h-11"
              aria-label={`Take height ${i + 1} from the scale`}
              onClick={() => {
                if (readingG > 0) change(i, { waterG: readingG })
                else toast('The scale shows nothing. Put the glass on it, or open the devices (d).')
              }}
            >
              {readingG > 0 ? `${readingG} g: take it` : 'from the scale'}
            </button>
            {levels.length > FEWEST_LEVELS && (
              <button
                type="button"
                className="px-1 text-soft"
                aria-label={`Without height ${i + 1}`}
                onClick={() => set(levels.filter((_, n) => n !== i))}
              >
                ×
              </button>
            )}
          </li>
        ))}
      </ol>
      {levels.length < 8 && (
        <button
          type="button"
          className="act act-quiet text-sm"
          onClick={() => setLevels([...levels, { heightMm: (levels.at(-1)?.heightMm ?? 50) + 10, waterG: undefined }])}
        >
          + a height
        </button>
      )}
      {offPct !== undefined && <p className="caption">Drawn within {offPct.toFixed(1)} % of every weighing.</p>}
    </div>
  )
}
