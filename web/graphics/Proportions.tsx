import { type DrinkDocument, POUR_PARTS, type PourPart, pourPartOf } from '@conch/core/drink'
import { bySlug, type HouseBook, nameApart } from '@conch/core/house'
import { volumeMlOfAmount } from '@conch/core/measure'
import { keysOf } from '@conch/core/schema/keysOf'

const PARTS = keysOf(POUR_PARTS)

export interface Segment {
  part: PourPart
  /** Of one serve. */
  volumeMl: number
  name: string
}

/** The pours of a spec in ml, as segments of a column: one per pour, sorted by what they do. */
export function segmentsOf(document: DrinkDocument, book: HouseBook): Segment[] {
  const segments = document.pours.map((pour) => {
    const slot = bySlug(book.slots ?? [], pour.slot)
    const ingredient = bySlug(book.ingredients, pour.ingredient ?? slot?.pick)
    const volumeMl =
      pour.volumeMl ?? (pour.amount && volumeMlOfAmount(pour.amount, book.settings.kit, document.partMl)) ?? 0
    return {
      part: pourPartOf(ingredient, pour.figures),
      volumeMl: volumeMl / document.serves,
      name: (ingredient && nameApart(ingredient, book.ingredients)) ?? pour.figures?.name ?? 'own figures',
    }
  })
  return PARTS.flatMap((part) => segments.filter((s) => s.part === part))
}

/** How much all of a column is, ml of one serve. */
export const volumeMlOf = (segments: readonly Segment[]): number => segments.reduce((sum, s) => sum + s.volumeMl, 0)

interface ProportionsProps {
  segments: readonly Segment[]
  /** Id of the patterns that are drawn on the same picture. */
  patterns: string
  /** A volume that is as tall as the column may be, ml, and that height. */
  mostMl: number
  tall: number
  width: number
  isMarked: boolean
}

/** A column of what a spec pours, standing on y = 0. */
export function Proportions({ segments, patterns, mostMl, tall, width, isMarked }: ProportionsProps) {
  let y = 0
  return segments.map((s, n) => {
    const height = (s.volumeMl / mostMl) * tall
    y -= height
    return (
      <rect
        key={n}
        y={y}
        width={width}
        height={height}
        fill={`url(#${patterns}-${s.part})`}
        stroke="var(--ink)"
        strokeWidth={isMarked ? 1.2 : 0.5}
      >
        <title>{`${s.name} ${Math.round(s.volumeMl)} ml`}</title>
      </rect>
    )
  })
}

/** Each part has a pattern of its own: it reads without colour. */
export function PartPatterns({ id }: { id: string }) {
  const pattern = (part: PourPart, background: string, mark: React.ReactNode) => (
    <pattern id={`${id}-${part}`} width="6" height="6" patternUnits="userSpaceOnUse">
      <rect width="6" height="6" fill={background} />
      {mark}
    </pattern>
  )
  const stroke = { stroke: 'var(--ink)', strokeWidth: 0.7, fill: 'none' }
  return (
    <defs>
      {pattern('base', 'var(--soft)', null)}
      {pattern('strong', 'var(--buff)', <path d="M0 6L6 0" {...stroke} />)}
      {pattern('sweet', 'var(--buff)', <circle cx="3" cy="3" r="0.9" {...stroke} />)}
      {pattern('sour', 'var(--shallow)', <path d="M0 2H6M0 5H6" {...stroke} strokeOpacity={0.5} />)}
      {pattern('long', 'var(--paper)', <circle cx="3" cy="3" r="1.300" {...stroke} strokeOpacity={0.5} />)}
    </defs>
  )
}

/** What each pattern stands for. */
export function PartsLegend({ id }: { id: string }) {
  return (
    <ul aria-label="In a column, from the bottom" className="caption flex flex-wrap gap-x-4 gap-y-1">
      {PARTS.map((part) => (
        <li key={part} className="flex items-center gap-1.5">
          <svg width="14" height="12" aria-hidden="true">
            <rect width="14" height="12" fill={`url(#${id}-${part})`} stroke="var(--ink)" strokeWidth="0.6" />
          </svg>
          {POUR_PARTS[part]}
        </li>
      ))}
    </ul>
  )
}
