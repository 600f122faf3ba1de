import { amountText, toFraction } from '@conch/core/measure'
import { Slider } from 'radix-ui'
import { useId } from 'react'

interface SplitBarProps {
  /** In the bar's order; shares 0 to 1 that come to 1. */
  parts: readonly { name: string; share: number }[]
  /** The pour that the bar is, and what its handles snap to, ml. */
  volumeMl: number
  stepMl: number
  ounceMl: number
  /** Called with each part's volume, ml. Left out: only to look at. */
  onChange?: ((volumesMl: number[]) => void) | undefined
}

/** Six grounds that differ without colour. */
const GROUNDS = ['plain', 'slant', 'dots', 'rungs', 'cross', 'back'] as const

/** An amount as a jigger pours it, or in ml where no jigger does. */
function pourText(ml: number, ounceMl: number): { text: string; isPoured: boolean } {
  const ounces = ml / ounceMl
  const fraction = toFraction(Number(ounces.toFixed(4)))
  return fraction
    ? { text: amountText({ value: Number(ounces.toFixed(4)), unit: 'oz' }), isPoured: true }
    : { text: `${ml.toFixed(1)} ml`, isPoured: false }
}

/** Two shares of a name, on the bar and under it. */
const pctText = (share: number) => `${Number((100 * share).toFixed(1))} %`

/** A blend as one pour, cut by handles that snap to what the jigger pours. */
export function SplitBar({ parts, volumeMl, stepMl, ounceMl, onChange }: SplitBarProps) {
  const id = useId().replaceAll(':', '')
  const cuts = parts.slice(0, -1).map((_, i) => volumeMl * parts.slice(0, i + 1).reduce((sum, p) => sum + p.share, 0))
  const change = (next: number[]) => {
    const ends = [0, ...next, volumeMl]
    onChange?.(parts.map((_, i) => (ends[i + 1] ?? 0) - (ends[i] ?? 0)))
  }
  let x = 0
  return (
    <figure className="select-none">
      <div className="relative">
        <svg
          viewBox="0 0 1000 64"
          preserveAspectRatio="none"
          className="block h-16 w-full"
          role="img"
          aria-label={parts.map((p) => `${p.name} ${pctText(p.share)}`).join(', ')}
        >
          <defs>
            <pattern id={`slant-${id}`} width="14" height="14" patternUnits="userSpaceOnUse">
              <path d="M0 14L14 0" stroke="var(--soft)" strokeWidth="1.400" />
            </pattern>
            <pattern id={`back-${id}`} width="9" height="9" patternUnits="userSpaceOnUse">
              <path d="M0 0L9 9" stroke="var(--soft)" strokeWidth="1.400" />
            </pattern>
            <pattern id={`dots-${id}`} width="12" height="10" patternUnits="userSpaceOnUse">
              <circle cx="4" cy="4" r="1.700" fill="var(--soft)" />
            </pattern>
            <pattern id={`rungs-${id}`} width="10" height="10" patternUnits="userSpaceOnUse">
              <path d="M0 5H10" stroke="var(--soft)" strokeWidth="1.400" />
            </pattern>
            <pattern id={`cross-${id}`} width="14" height="12" patternUnits="userSpaceOnUse">
              <path d="M0 6H14M7 0V12" stroke="var(--soft)" strokeWidth="1" />
            </pattern>
          </defs>
          {parts.map((p, i) => {
            const width = 1000 * p.share
            const left = x
            x += width
            const ground = GROUNDS[i % GROUNDS.length]
            return (
              <g key={p.name}>
                <rect x={left} y={0} width={width} height={64} fill={i % 2 === 0 ? 'var(--buff)' : 'var(--shoal)'} />
                {ground !== 'plain' && <rect x={left} y={0} width={width} height={64} fill={`url(#${ground}-${id})`} />}
                <rect
                  x={left}
                  y={0}
                  width={width}
                  height={64}
                  fill="none"
                  stroke="var(--ink)"
                  strokeWidth="1"
                  vectorEffect="non-scaling-stroke"
                />
              </g>
            )
          })}
          {Array.from({ length: Math.max(0, Math.ceil(volumeMl / stepMl) - 1) }, (_, i) => (i + 1) * stepMl).map(
            (ml) => (
              <path
                key={ml}
                d={`M${(1000 * ml) / volumeMl} 58v6`}
                stroke="var(--ink)"
                strokeWidth="1"
                vectorEffect="non-scaling-stroke"
              />
            ),
          )}
        </svg>
        {onChange && parts.length > 1 && (
          <Slider.Root
            className="absolute inset-0 flex touch-none items-center"
            min={0}
            max={volumeMl}
            step={stepMl}
            minStepsBetweenThumbs={1}
            value={cuts}
            onValueChange={(next) => {
              // A part is at least one step: the ends are handles, too.
              if ((next[0] ?? stepMl) >= stepMl - 1e-9 && (next.at(-1) ?? 0) <= volumeMl - stepMl + 1e-9) change(next)
            }}
          >
            <Slider.Track className="h-full w-full" />
            {cuts.map((_, i) => (
              <Slider.Thumb
                key={`${parts[i]?.name} ${parts[i + 1]?.name}`}
                aria-label={`Between ${parts[i]?.name} and ${parts[i + 1]?.name}`}
                className="group relative block h-20 w-0 outline-none"
              >
                {/* Without a width of its own it stands where the cut is; a finger still finds it. */}
                <span className="absolute inset-y-0 -left-[22px] flex w-11 cursor-ew-resize justify-center group-focus-visible:outline-2">
                  <span className="block h-full w-[5px] bg-ink" />
                </span>
              </Slider.Thumb>
            ))}
          </Slider.Root>
        )}
      </div>
      <ol className="mt-2 flex" aria-hidden="true">
        {parts.map((p) => {
          const { text, isPoured } = pourText(p.share * volumeMl, ounceMl)
          return (
            <li
              key={p.name}
              style={{ width: `${100 * p.share}%` }}
              className="min-w-0 overflow-hidden px-1 text-center leading-tight"
            >
              <span className={`frac block text-[1.050rem] ${isPoured ? '' : 'text-soft'}`}>{text}</span>
            </li>
          )
        })}
      </ol>
    </figure>
  )
}
