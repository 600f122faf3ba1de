import type { DraftControl } from './useDraft.ts'

/** One step back, one step on. */
export function UndoRedo<D>({ control: { draft, undo, redo } }: { control: DraftControl<D> }) {
  return (
    <span className="inline-flex gap-1">
      <button type="button" className="act act-quiet" disabled={!draft || draft.past.length === 0} onClick={undo}>
        Undo
      </button>
      <button type="button" className="act act-quiet" disabled={!draft || draft.future.length === 0} onClick={redo}>
        Redo
      </button>
    </span>
  )
}
