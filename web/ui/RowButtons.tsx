interface RowButtonsProps {
  /** What the row is about, for those who do not see where the button stands. */
  name: string
  onMove: (by: -1 | 1) => void
  onLeaveOut: () => void
  /** It is the last that must stay. */
  mustStay?: boolean
}

const BUTTON = 'min-h-8 px-1.5 hover:bg-shallow max-sm:min-h-11'

/** Up, down and out, at the end of a row whose place counts. */
export function RowButtons({ name, onMove, onLeaveOut, mustStay = false }: RowButtonsProps) {
  return (
    <span className="flex justify-end text-soft">
      <button type="button" className={BUTTON} aria-label={`${name} up`} onClick={() => onMove(-1)}>
        ↑
      </button>
      <button type="button" className={BUTTON} aria-label={`${name} down`} onClick={() => onMove(1)}>
        ↓
      </button>
      <button
        type="button"
        className={BUTTON}
        aria-label={`Leave ${name} out`}
        disabled={mustStay}
        onClick={onLeaveOut}
      >
        ×
      </button>
    </span>
  )
}
