interface DialogButtonsProps {
  /** What leaving without doing it is called. */
  close: string
  onClose: () => void
  /** What doing it is called; without it one can only leave. */
  main?: string | undefined
  isBusy?: boolean
}

/** The foot of a dialog: away from it, or do it (submits the form around). */
export function DialogButtons({ close, onClose, main, isBusy = false }: DialogButtonsProps) {
  return (
    <div className="flex justify-end gap-2">
      <button type="button" className="act" onClick={onClose}>
        {close}
      </button>
      {main && (
        <button type="submit" className="act act-main" disabled={isBusy}>
          {main}
        </button>
      )}
    </div>
  )
}
