import type { Menu } from '@conch/contract'
import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { MoveHandle, useMovable } from '../../ui/Moving.tsx'
import { RowButtons } from '../../ui/RowButtons.tsx'

const CHAPTER = 'chapter:'
/** What is moved is a chapter or a drink: a chapter is called by its place. */
export const chapterId = (index: number) => `${CHAPTER}${index}`
export const isChapter = (id: string) => id.startsWith(CHAPTER)
export const chapterAt = (id: string) => Number(id.slice(CHAPTER.length))

interface PlanChapterProps {
  index: number
  chapter: Menu['plan']['chapters'][number]
  mayPlan: boolean
  onName: (name: string) => void
  onLeaveOut: () => void
  children: ReactNode
}

/** A chapter of the plan: its name where it stands, and its drinks. */
export function PlanChapter({ index, chapter, mayPlan, onName, onLeaveOut, children }: PlanChapterProps) {
  const { ref, style, handle } = useMovable(chapterId(index), !mayPlan)
  return (
    <div className="mb-4">
      <h2 ref={ref} style={style} className="flex items-center gap-2 border-b border-ink text-lg">
        {mayPlan ? (
          <input
            key={chapter.name}
            className="inplace min-w-0 flex-1 font-display"
            aria-label={`Name of chapter ${index + 1}`}
            maxLength={120}
            defaultValue={chapter.name}
            onBlur={(e) => e.target.value.trim() && e.target.value !== chapter.name && onName(e.target.value.trim())}
          />
        ) : (
          chapter.name
        )}
        {mayPlan && chapter.entries.length === 0 && (
          <button type="button" className="act act-quiet text-sm" onClick={onLeaveOut}>
            Leave it out
          </button>
        )}
        {mayPlan && <MoveHandle name={chapter.name} handle={handle} />}
      </h2>
      <ul>{children}</ul>
    </div>
  )
}

export function PlanLine({
  name,
  entry,
  versions,
  mayPlan,
  chapters,
  chapterIndex,
  onChapter,
  onVersion,
  onRemove,
}: {
  name: string
  entry: { drink: string; version: number }
  /** All that the drink has. */
  versions: number[]
  mayPlan: boolean
  chapters: Menu['plan']['chapters']
  chapterIndex: number
  onChapter: (index: number) => void
  onVersion: (version: number) => void
  onRemove: () => void
}) {
  const { ref, style, handle } = useMovable(entry.drink, !mayPlan)
  return (
    <li ref={ref} style={style} className="flex flex-wrap items-center gap-x-2 border-b border-hair/60 py-0.5">
      <Link
        to={`/drinks/${entry.drink}?v=${entry.version}`}
        className="min-w-0 flex-1 truncate hover:underline max-sm:basis-full"
      >
        {name}
      </Link>
      {mayPlan ? (
        <>
          <select
            aria-label={`Version of ${name}`}
            className="inplace"
            value={entry.version}
            onChange={(e) => onVersion(Number(e.target.value))}
          >
            {(versions.length > 0 ? versions : [entry.version]).map((n) => (
              <option key={n} value={n}>
                v{n}
              </option>
            ))}
          </select>
          {chapters.length > 1 && (
            <select
              aria-label={`Chapter of ${name}`}
              className="inplace text-soft"
              value=""
              onChange={(e) => onChapter(Number(e.target.value))}
            >
              <option value="">move to</option>
              {chapters.map((c, i) =>
                i === chapterIndex ? null : (
                  <option key={`${i} ${c.name}`} value={i}>
                    {c.name}
                  </option>
                ),
              )}
            </select>
          )}
          <RowButtons {...{ name, handle }} out={`Take ${name} off`} onLeaveOut={onRemove} />
        </>
      ) : (
        <span>v{entry.version}</span>
      )}
    </li>
  )
}
