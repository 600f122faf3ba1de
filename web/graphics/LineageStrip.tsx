import type { Version } from '@conch/contract'
import { clockOf, nightOf } from '@conch/core/calendar'
import type { DrinkDocument } from '@conch/core/drink'
import { bySlug, type HouseBook, type IngredientKind, nameApart } from '@conch/core/house'
import { volumeMlOfAmount } from '@conch/core/measure'
import { useEffect, useId, useRef } from 'react'
import { Seal } from './Seal.tsx'

/** What a pour does in a drink: the parts of a column, from the bottom up. */
type Part = 'base' | 'strong' | 'sweet' | 'sour' | 'long'

const PART_OF: Record<IngredientKind, Part> = {
  spirit: 'base',
  blend: 'base',
  liqueur: 'strong',
  wine: 'strong',
  bitters: 'strong',
  syrup: 'sweet',
  houseMix: 'sweet',
  dairy: 'sweet',
  juice: 'sour',
  puree: 'sour',
  soda: 'long',
  produce: 'long',
  dryGood: 'sweet',
  garnish: 'long',
  other: 'long',
}
const PARTS: Part[] = ['base', 'strong', 'sweet', 'sour', 'long']
/** The pours of a spec in ml, as segments of a column: one per pour, sorted by what they do. */
export function segmentsOf(document: DrinkDocument, book: HouseBook): { part: Part; volumeMl: number; name: string }[] {
  const segments = document.pours.map((pour) => {
    const slot = bySlug(book.slots ?? [], pour.slot)
    const ingredient = bySlug(book.ingredients, pour.ingredient ?? slot?.pick)
    const volumeMl =
      pour.volumeMl ?? (pour.amount && volumeMlOfAmount(pour.amount, book.settings.kit, document.partMl)) ?? 0
    const part: Part = ingredient ? PART_OF[ingredient.kind] : pour.figures && pour.figures.abvPct > 0 ? 'base' : 'long'
    return {
      part,
      volumeMl: volumeMl / document.serves,
      name: (ingredient && nameApart(ingredient, book.ingredients)) ?? pour.figures?.name ?? 'own figures',
    }
  })
  return PARTS.flatMap((part) => segments.filter((s) => s.part === part))
}

interface LineageStripProps {
  versions: Version[]
  book: HouseBook
  open: number | 'draft' | undefined
  poured: number | undefined
  planned: number | undefined
  draft?: { document: DrinkDocument; baseVersion: number | null } | undefined
  onOpen: (which: number | 'draft') => void
}

const COLUMN = 24
const STEP = 104
const TALL = 58
/** Room under the line for the arcs of riffs. */
const ARCS = 16

/**
 * Versions along a line in the order they were written, each a column of its proportions for one
 * serve on a common scale; a line from each to what it came from. The seal marks what is poured.
 */
export function LineageStrip({ versions, book, open, poured, planned, draft, onOpen }: LineageStripProps) {
  const id = useId()
  const strip = useRef<HTMLDivElement>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: another open version wants to be seen
  useEffect(() => {
    const column = strip.current?.querySelector<HTMLElement>('[aria-current=true]')?.parentElement
    if (strip.current && column) strip.current.scrollLeft = column.offsetLeft - strip.current.clientWidth / 2 + STEP / 2
  }, [open])
  const all = [
    ...versions.map((v) => ({
      key: v.number as number | 'draft',
      parent: v.parent,
      document: v.document,
      version: v as Version | undefined,
    })),
    ...(draft
      ? [{ key: 'draft' as const, parent: draft.baseVersion, document: draft.document, version: undefined }]
      : []),
  ]
  const columns = all.map((v) => ({ ...v, segments: segmentsOf(v.document, book) }))
  const mostMl = Math.max(60, ...columns.map((c) => c.segments.reduce((sum, s) => sum + s.volumeMl, 0)))
  const placeOf = (number: number | null) => columns.findIndex((c) => c.key === number)
  return (
    <div className="overflow-x-auto" ref={strip}>
      <ol className="relative flex" style={{ width: columns.length * STEP }} aria-label="Versions, oldest first">
        <svg
          width={columns.length * STEP}
          height={TALL + 6 + ARCS}
          className="pointer-events-none absolute top-0 left-0"
          aria-hidden="true"
        >
          <PartPatterns id={id} />
          <line x1={0} x2={columns.length * STEP} y1={TALL + 4} y2={TALL + 4} stroke="var(--hair)" />
          {columns.map((c, i) => {
            const from = placeOf(c.parent)
            if (from < 0) return null
            const x0 = from * STEP + COLUMN / 2 + 8
            const x1 = i * STEP + COLUMN / 2 + 8
            // A riff leaves the line: it hangs from its parent in an arc.
            const sag = i - from > 1 ? ARCS - 3 : 0
            return (
              <path
                key={c.key}
                d={`M${x0} ${TALL + 4}Q${(x0 + x1) / 2} ${TALL + 4 + sag * 2} ${x1} ${TALL + 4}`}
                fill="none"
                stroke="var(--ink)"
                strokeWidth={1.3}
                strokeDasharray={sag ? '3 2' : undefined}
              />
            )
          })}
          {columns.map((c, i) => {
            let y = TALL + 4
            return (
              <g key={c.key} transform={`translate(${i * STEP + 8} 0)`}>
                {c.segments.map((s, n) => {
                  const tall = (s.volumeMl / mostMl) * (TALL - 2)
                  y -= tall
                  return (
                    <rect
                      key={n}
                      y={y}
                      width={COLUMN}
                      height={tall}
                      fill={`url(#${id}-${s.part})`}
                      stroke="var(--ink)"
                      strokeWidth={c.key === open ? 1.2 : 0.5}
                    >
                      <title>{`${s.name} ${Math.round(s.volumeMl)} ml`}</title>
                    </rect>
                  )
                })}
                <circle
                  cx={COLUMN / 2}
                  cy={TALL + 4}
                  r={c.key === open ? 4 : 2.5}
                  fill={c.key === open ? 'var(--ink)' : 'var(--paper)'}
                  stroke="var(--ink)"
                />
              </g>
            )
          })}
        </svg>
        {columns.map((c) => (
          <li key={c.key} style={{ width: STEP }}>
            <button
              type="button"
              onClick={() => onOpen(c.key)}
              aria-current={c.key === open}
              className={`block w-full px-1 pl-2 text-left hover:bg-shoal ${c.key === open ? 'bg-shoal' : ''}`}
              title={
                c.version
                  ? [c.version.label, c.version.era, c.version.source, c.version.reason].filter(Boolean).join(' · ')
                  : 'draft, not saved as a version'
              }
            >
              <span className="block" style={{ height: TALL + 6 + ARCS }}>
                <span className="flex flex-col items-start gap-1 pt-1" style={{ paddingLeft: COLUMN + 8 }}>
                  {c.key === poured && <Seal size={17} title="poured today" />}
                  {c.key === planned && planned !== poured && (
                    <span className="border border-ink px-1 text-[11px] leading-4">next</span>
                  )}
                </span>
              </span>
              <span className="block truncate text-sm font-semibold">
                {c.key === 'draft' ? 'draft' : `v${c.key}`} <span className="font-normal">{c.version?.label}</span>
              </span>
              <span className="caption block truncate pb-1">
                {c.version
                  ? c.version.era || nightOf(new Date(c.version.savedAt), clockOf(book.settings)).slice(0, 4)
                  : 'not saved'}
              </span>
            </button>
          </li>
        ))}
      </ol>
    </div>
  )
}

/** Each part has a pattern of its own: it reads without colour. */
function PartPatterns({ id }: { id: string }) {
  const pattern = (part: Part, background: string, mark: React.ReactNode) => (
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
