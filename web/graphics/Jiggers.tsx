import type { JiggerMove } from '@conch/core/measure'

interface JiggersProps {
  moves: readonly JiggerMove[]
  /** Each side as the house reads it: “1½ oz”. */
  textOf: (volumeMl: number) => string
}

/** A cone holds with the cube of its height: sides of one house are drawn to one scale. */
const heightOf = (volumeMl: number) => 22 + 14 * Math.cbrt(volumeMl)
const HALF = 0.62

/** What is filled, one after the other: each side of a jigger as a cone, to the brim; spoons are shallow. */
export function Jiggers({ moves, textOf }: JiggersProps) {
  return (
    <ol className="flex flex-wrap items-end gap-x-5 gap-y-1" aria-label="How it is measured">
      {moves.map((move, i) => {
        const height = heightOf(move.volumeMl)
        const half = height * HALF
        return (
          <li key={`${move.name} ${move.volumeMl}`} className="flex items-end gap-2">
            {i > 0 && <span className="self-center text-2xl text-soft">then</span>}
            <svg
              viewBox={`0 0 ${2 * half + 6} ${height + 6}`}
              width={2 * half + 6}
              height={height + 6}
              aria-hidden="true"
            >
              <path
                d={`M3 3L${half * 0.72 + 3} ${height + 3}H${half * 1.28 + 3}L${2 * half + 3} 3Z`}
                fill="var(--liquid)"
                stroke="var(--ink)"
                strokeWidth={2.5}
                strokeLinejoin="round"
              />
            </svg>
            <span className="leading-tight">
              <b className="block text-2xl font-semibold">
                {move.times > 1 && `${move.times} × `}
                {textOf(move.volumeMl)}
              </b>
              <span className="text-lg text-soft">{move.name}</span>
            </span>
          </li>
        )
      })}
    </ol>
  )
}
