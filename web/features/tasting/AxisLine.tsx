import { MOST_ON_AXIS, STYLE_AXES, type StyleAxis, type StyleProfile } from '@conch/core/palate'
import { Slider } from 'radix-ui'
import type { MouseEvent } from 'react'

/** One thing on a line: a letter, its place, and where the house had it before. */
export interface LinePlace {
  letter: string
  name: string
  place: number | undefined
  before?: StyleProfile[StyleAxis] | undefined
}

const STEP = 0.5

/** A line of style on which things are put: tap it to place the active one, drag a letter, or arrow it along. */
export function AxisLine({
  axis,
  places,
  active,
  onPlace,
  onActivate,
}: {
  axis: StyleAxis
  places: readonly LinePlace[]
  /** Whose letter a tap on the line places. */
  active: number
  onPlace: (index: number, place: number) => void
  onActivate: (index: number) => void
}) {
  const { label, low, high, about } = STYLE_AXES[axis]
  const tap = (event: MouseEvent<HTMLDivElement>) => {
    const { left, width } = event.currentTarget.getBoundingClientRect()
    const place = (MOST_ON_AXIS * (event.clientX - left)) / width
    onPlace(active, Math.min(MOST_ON_AXIS, Math.max(0, Math.round(place / STEP) * STEP)))
  }
  return (
    <div className="border-b border-hair/60 py-1.5" data-axis={axis}>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <span className="font-semibold">{label}</span>
        <span className="text-sm text-soft">{about}</span>
      </p>
      <div className="flex items-center gap-3 max-sm:flex-wrap max-sm:gap-x-0">
        <span className="w-28 text-right text-sm text-soft max-sm:order-1 max-sm:w-1/2 max-sm:text-left">{low}</span>
        <div className="relative h-12 min-w-0 flex-1 max-sm:basis-full">
          {/* biome-ignore lint/a11y/noStaticElementInteractions: the letters are the sliders; the line is a short cut for a finger */}
          {/* biome-ignore lint/a11y/useKeyWithClickEvents: each letter has its keys */}
          <div className="absolute inset-0 cursor-pointer" onClick={tap}>
            <div className="absolute inset-x-0 top-1/2 border-t border-ink" />
            {Array.from({ length: MOST_ON_AXIS + 1 }, (_, i) => (
              <span
                key={`${axis} ${i + 1}`}
                className="absolute top-1/2 h-2 border-l border-hair"
                style={{ left: `${(100 * i) / MOST_ON_AXIS}%` }}
              />
            ))}
            {places.map(
              (p) =>
                p.before && (
                  <span
                    key={p.name}
                    title={`${p.name} until now: ${p.before.value.toFixed(1)}, ${p.before.tasters} tasters`}
                    className="absolute bottom-0 -ml-1 text-[0.700rem] leading-none text-soft"
                    style={{ left: `${(100 * p.before.value) / MOST_ON_AXIS}%` }}
                  >
                    {p.letter.toLowerCase()}
                  </span>
                ),
            )}
          </div>
          {places.map((p, i) => (
            <Slider.Root
              key={p.name}
              className="pointer-events-none absolute inset-0 flex touch-none items-center"
              min={0}
              max={MOST_ON_AXIS}
              step={STEP}
              value={[p.place ?? p.before?.value ?? MOST_ON_AXIS / 2]}
              onValueChange={([place]) => place !== undefined && onPlace(i, place)}
            >
              <Slider.Track className="h-full w-full" />
              <Slider.Thumb
                aria-label={`${p.name}, ${label}`}
                aria-valuetext={p.place === undefined ? 'not placed' : `${p.place}, from ${low} to ${high}`}
                onFocus={() => onActivate(i)}
                className={`group relative block h-11 w-0 outline-none ${p.place === undefined ? 'hidden' : ''} ${i === active ? 'z-10' : ''}`}
              >
                <span className="pointer-events-auto absolute inset-y-0 -left-4 flex w-8 cursor-grab items-center justify-center group-focus-visible:outline-2">
                  <span
                    className={`flex h-6 w-6 items-center justify-center border border-ink text-sm leading-none font-semibold ${i === active ? 'bg-ink text-paper' : 'bg-paper'}`}
                  >
                    {p.letter}
                  </span>
                </span>
              </Slider.Thumb>
            </Slider.Root>
          ))}
        </div>
        <span className="w-28 text-sm text-soft max-sm:order-2 max-sm:w-1/2 max-sm:text-right">{high}</span>
      </div>
    </div>
  )
}
