import { STYLE_AXIS_NAMES } from '@conch/core/palate'
import { useHouse } from '../../app/house.tsx'
import { AxisLine } from '../tasting/index.ts'
import type { SlotDraft } from './useSlotDraft.ts'

/** What it shall taste like: the target put on the lines, as bottles are. */
export function Target({ draft, mayEdit }: { draft: SlotDraft; mayEdit: boolean }) {
  const { book } = useHouse()
  const { slot, change } = draft
  if (!mayEdit) return null
  return (
    <section aria-label="What it shall taste like" className="mt-4">
      <h2 className="mb-1 flex items-baseline gap-3 border-b border-ink text-lg">
        <span className="flex-1">What it shall taste like</span>
        <span className="caption font-text font-normal">tap a line; small: the house pick</span>
      </h2>
      {STYLE_AXIS_NAMES.map((axis) => (
        <div key={axis} className="relative">
          <AxisLine
            axis={axis}
            active={0}
            onActivate={() => {}}
            onPlace={(_, place) => change({ target: { ...slot.target, [axis]: place } })}
            places={[
              { letter: '◆', name: 'wanted', place: slot.target[axis], before: book.profiles?.[slot.pick]?.[axis] },
            ]}
          />
          {slot.target[axis] !== undefined && (
            <button
              type="button"
              className="act act-quiet absolute top-1 right-0 text-sm text-soft"
              onClick={() => {
                const { [axis]: _, ...others } = slot.target
                change({ target: others })
              }}
            >
              does not matter
            </button>
          )}
        </div>
      ))}
    </section>
  )
}
