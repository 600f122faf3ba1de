import { handOf, type TestPour } from '@conch/core/learn'
import { WATER_G_PER_ML } from '@conch/core/liquid'
import { amountText } from '@conch/core/measure'
import { useEffect, useMemo, useRef, useState } from 'react'
import { toast } from 'sonner'
import { useHouse } from '../../app/house.tsx'
import { devices } from '../../devices/devices.ts'
import { useScaleReading } from '../../devices/useTray.ts'
import { mlText } from '../../graphics/format.ts'
import { RailFoot } from '../rail/index.ts'
import { HandWords } from './HandWords.tsx'
import { sendPractice } from './practice.ts'

/** Each so often: three tell a scatter from a slip. */
const EACH = 3
const OUNCES = [0.5, 0.75, 1.5] as const
/** What the made-up bottle runs, g in a second, looked at so often. */
const RUNS_G_PER_S = 14
const EVERY_MS = 40
/** Less than this is dashed, ml. */
const LEAST_JIGGER_ML = 3

/** Water, poured by hand onto the scale: how far off one's own hand is, and how much it scatters. */
export function PourTest({ onClose }: { onClose: () => void }) {
  const { kit } = useHouse().book.settings
  const wanted = useMemo(
    () => [
      ...Array.from({ length: EACH }, () =>
        OUNCES.map((oz) => ({ text: amountText({ value: oz, unit: 'oz' }), ml: oz * kit.ounceMl })),
      ).flat(),
      ...Array.from({ length: EACH }, () => ({ text: 'a dash', ml: kit.dashMl })),
    ],
    [kit],
  )
  const [pours, setPours] = useState<TestPour[]>([])
  const readingG = useScaleReading()
  const now = wanted[pours.length]
  useEffect(() => {
    // A jigger of water is read to the tenth of a gram, on an empty pan.
    devices.set({ resolutionG: 0.1, panG: 0, driftGPerMin: 0 })
    devices.scale.tare()
  }, [])
  const take = () => {
    if (!now) return
    const gotMl = Number((devices.scale.readG() / WATER_G_PER_ML).toFixed(2))
    setPours([...pours, { wantedMl: now.ml, gotMl: Math.max(0, gotMl) }])
    devices.set({ panG: 0 })
    devices.scale.tare()
  }
  const send = async () => {
    try {
      const isKept = await sendPractice({ kind: 'pours', scale: devices.isScaleReal() ? 'real' : 'simulated', pours })
      toast(isKept ? 'Kept here, and sent when the house is heard.' : 'This is your hand now, in “how often it lands”.')
      onClose()
    } catch (error) {
      toast.error((error as Error).message)
    }
  }
  const hand = handOf(pours)
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <div className="min-h-0 flex-1 overflow-y-auto px-4 py-3">
        {now ? (
          <>
            <p className="text-xl text-soft">
              Water, as you would pour it · {pours.length + 1} of {wanted.length}
            </p>
            <h1 className="rail-amount">{now.text}</h1>
            <p className="text-3xl text-soft">{mlText(now.ml)}</p>
            {now.ml >= LEAST_JIGGER_ML && <Filling share={readingG / WATER_G_PER_ML / now.ml} />}
            <p className="mt-2 text-lg text-soft">
              To the rim. The scale, simulated, is covered until you say that it was it.
            </p>
            <Bottle dashG={kit.dashMl * WATER_G_PER_ML} isDash={now.ml < LEAST_JIGGER_ML} />
          </>
        ) : (
          <>
            <h1 className="rail-name">Your hand</h1>
            <HandWords hand={hand && { hand, at: new Date().toISOString() }} sittings={[]} />
          </>
        )}
        {pours.length > 0 && (
          <ol aria-label="Poured so far" className="mt-4 flex flex-wrap gap-x-5 text-lg text-soft">
            {pours.map((p, i) => (
              <li key={i}>
                {wanted[i]?.text}: {p.gotMl.toFixed(1)} ml
              </li>
            ))}
          </ol>
        )}
      </div>
      <div className="grid shrink-0 grid-cols-[9rem_1fr] gap-2 px-3 pb-2">
        <button
          type="button"
          className="rail-act"
          disabled={pours.length === 0}
          onClick={() => setPours(pours.slice(0, -1))}
        >
          Once more
        </button>
        {now ? (
          <button type="button" className="rail-act rail-main" disabled={readingG <= 0} onClick={take}>
            That was it
          </button>
        ) : (
          <button type="button" className="rail-act rail-main" onClick={() => void send()}>
            Write it down
          </button>
        )}
      </div>
      <RailFoot>
        <button type="button" className="rail-quiet" onClick={onClose}>
          Not now
        </button>
      </RailFoot>
    </main>
  )
}

/** The jigger as one sees it while one pours: no figures. */
function Filling({ share }: { share: number }) {
  // A cone's level goes with the third root of what is in it.
  const level = Math.cbrt(Math.min(1, Math.max(0, share)))
  const [top, foot] = [10, 130]
  const y = foot - level * (foot - top)
  const half = (at: number) => 12 + ((foot - at) / (foot - top)) * 58
  return (
    <svg viewBox="0 0 200 150" className="mt-2 h-44" role="img" aria-label="The jigger while it fills">
      {level > 0 && (
        <path
          d={`M${100 - half(foot)} ${foot}L${100 - half(y)} ${y}H${100 + half(y)}L${100 + half(foot)} ${foot}Z`}
          fill="var(--liquid)"
        />
      )}
      {share > 1 && (
        <path d="M24 14q-10 20-6 60M176 14q10 24 4 70" stroke="var(--liquid)" strokeWidth={6} fill="none" />
      )}
      <path
        d={`M${100 - half(top)} ${top}L${100 - half(foot)} ${foot}H${100 + half(foot)}L${100 + half(top)} ${top}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={3}
      />
    </svg>
  )
}

/** The made-up bottle: it runs as long as it is held; a dash is a dash, more or less. */
function Bottle({ isDash, dashG }: { isDash: boolean; dashG: number }) {
  const timer = useRef<ReturnType<typeof setInterval>>(undefined)
  const add = (g: number) => devices.set({ panG: Number((devices.read().panG + g).toFixed(2)) })
  const stop = () => {
    clearInterval(timer.current)
    timer.current = undefined
  }
  useEffect(() => () => clearInterval(timer.current), [])
  if (isDash)
    return (
      <p className="mt-3">
        <button type="button" className="rail-act" onClick={() => add(dashG * (0.6 + 0.8 * Math.random()))}>
          One dash
        </button>
      </p>
    )
  return (
    <p className="mt-3">
      <button
        type="button"
        className="rail-act px-12 py-6"
        onPointerDown={() => {
          stop()
          timer.current = setInterval(() => add((RUNS_G_PER_S * EVERY_MS) / 1000), EVERY_MS)
        }}
        onPointerUp={stop}
        onPointerLeave={stop}
        onPointerCancel={stop}
        // By keys it comes in sips.
        onKeyDown={(e) => (e.key === 'Enter' || e.key === ' ') && add(2)}
      >
        Hold to pour
      </button>
    </p>
  )
}
