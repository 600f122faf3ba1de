import { amountText, usualMeasures } from '@conch/core/measure'
import { useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { jiggerText } from '../../graphics/format.ts'
import { Jiggers } from '../../graphics/Jiggers.tsx'

const DASH = 'dash'

/** An amount as a hand says it: side by side on the jiggers of the house, until it is enough. */
export function OnJiggers({ isAnswered, onDraft }: { isAnswered: boolean; onDraft: (volumeMl: number) => void }) {
  const { settings } = useHouse().book
  const { kit } = settings
  const [taps, setTaps] = useState<{ name: string; volumeMl: number }[]>([])
  const sum = taps.reduce((s, t) => s + t.volumeMl, 0)
  const sides = (settings.measures ?? usualMeasures(kit))
    .flatMap((m) => m.volumesMl.map((volumeMl) => ({ name: m.name, volumeMl })))
    .sort((a, b) => a.volumeMl - b.volumeMl)
  const text = (ml: number) => jiggerText(ml, settings)
  const moves = taps.reduce<{ name: string; volumeMl: number; times: number }[]>((all, t) => {
    const last = all.at(-1)
    if (last?.name === t.name && last.volumeMl === t.volumeMl) last.times++
    else all.push({ ...t, times: 1 })
    return all
  }, [])
  const put = (next: typeof taps) => {
    setTaps(next)
    onDraft(next.reduce((s, t) => s + t.volumeMl, 0))
  }
  const add = (tap: (typeof taps)[number]) => put([...taps, tap])
  const isDashed = taps.length > 0 && taps.every((t) => t.name === DASH)
  return (
    <>
      <p className="rail-amount mt-1" role="status">
        {isDashed ? amountText({ value: taps.length, unit: 'dash' }) : sum > 0 ? text(Number(sum.toFixed(3))) : '–'}
      </p>
      <div className="min-h-24">
        <Jiggers moves={moves} textOf={text} />
      </div>
      <div className="flex flex-wrap gap-2">
        {sides.map((side) => (
          <button
            key={`${side.name} ${side.volumeMl}`}
            type="button"
            className="rail-act flex-col gap-0 text-2xl"
            disabled={isAnswered}
            onClick={() => add(side)}
          >
            {text(side.volumeMl)}
            <span className="text-base text-soft">{side.name}</span>
          </button>
        ))}
        <button
          type="button"
          className="rail-act"
          disabled={isAnswered}
          onClick={() => add({ name: DASH, volumeMl: kit.dashMl })}
        >
          a dash
        </button>
        <button
          type="button"
          className="rail-act"
          disabled={isAnswered || taps.length === 0}
          onClick={() => put(taps.slice(0, -1))}
        >
          back
        </button>
      </div>
    </>
  )
}
