import { MoveHandle, type useMovable } from './Moving.tsx'

interface RowButtonsProps {
  /** What the row is about, for those who do not see where the button stands. */
  name: string
  handle: ReturnType<typeof useMovable>['handle']
  onLeaveOut: () => void
  /** What leaving out is called here. */
  out?: string
  /** It is the last that must stay. */
  mustStay?: boolean
}

/** The handle and the way out, at the end of a row whose place counts. */
export function RowButtons({ name, handle, onLeaveOut, out = `Leave ${name} out`, mustStay = false }: RowButtonsProps) {
  return (
    <span className="flex justify-end text-soft">
      <MoveHandle {...{ name, handle }} />
      <button
        type="button"
        className="min-h-8 px-2 hover:bg-shallow max-sm:min-h-11 max-sm:px-3"
        aria-label={out}
        disabled={mustStay}
        onClick={onLeaveOut}
      >
        ×
      </button>
    </span>
  )
}
