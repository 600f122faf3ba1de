import { STYLE_AXES, type StyleAxis } from '@conch/core/palate'
import { DEFAULT_LIMIT_PER_LINE, DEFAULT_LIMIT_STEPS, type StandInDistance } from '@conch/core/standin'

import { stepsText } from '../graphics/StyleLines.tsx'

/** Where it is furthest off, in words: "funk +2.1". */
export function worstLine(distance: StandInDistance): { label: string; steps: number } | undefined {
  const lines: [string, number][] = [
    ...Object.entries(distance.style).map(([axis, steps]): [string, number] => [
      STYLE_AXES[axis as StyleAxis].label,
      steps,
    ]),
    ['strength', distance.strength],
    ['sugar', distance.sugar],
    ['acid', distance.acid],
  ]
  const [worst] = lines.sort((a, b) => Math.abs(b[1]) - Math.abs(a[1]))
  return worst && Math.abs(worst[1]) >= 0.05 ? { label: worst[0], steps: worst[1] } : undefined
}

/** What a step is. */
export const STEP_HINT =
  'One step is one of the ten of a taste line, 2 % ABV, 2 g sugar or 0.2 g acid in 100 ml, or one word of colour'

/** How near something lands, in steps, and where it is furthest off. */
export function NearWords({ distance }: { distance: StandInDistance }) {
  const worst = worstLine(distance)
  const isFar = distance.steps > DEFAULT_LIMIT_STEPS || Math.abs(worst?.steps ?? 0) > DEFAULT_LIMIT_PER_LINE
  return (
    <span className={`text-sm ${isFar ? 'text-stop' : ''}`}>
      <b className="font-semibold" title={STEP_HINT}>
        {distance.steps.toFixed(1)} steps away
      </b>
      {worst && (
        <span className={isFar ? '' : 'text-soft'}>
          , most in {worst.label} {stepsText(worst.steps)}
        </span>
      )}
    </span>
  )
}
