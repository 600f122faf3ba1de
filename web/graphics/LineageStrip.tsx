import type { Version } from '@conch/contract'
import { clockOf, nightOf } from '@conch/core/calendar'
import type { DrinkDocument } from '@conch/core/drink'
import type { HouseBook } from '@conch/core/house'
import { useEffect, useId, useRef } from 'react'
import { PartPatterns, Proportions, segmentsOf, volumeMlOf } from './Proportions.tsx'
import { Seal } from './Seal.tsx'

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
  const mostMl = Math.max(60, ...columns.map((c) => volumeMlOf(c.segments)))
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
          {columns.map((c, i) => (
            <g key={c.key} transform={`translate(${i * STEP + 8} 0)`}>
              <g transform={`translate(0 ${TALL + 4})`}>
                <Proportions
                  segments={c.segments}
                  patterns={id}
                  mostMl={mostMl}
                  tall={TALL - 2}
                  width={COLUMN}
                  isMarked={c.key === open}
                />
              </g>
              <circle
                cx={COLUMN / 2}
                cy={TALL + 4}
                r={c.key === open ? 4 : 2.5}
                fill={c.key === open ? 'var(--ink)' : 'var(--paper)'}
                stroke="var(--ink)"
              />
            </g>
          ))}
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
