import type { Draft } from '@conch/contract'
import { clockText } from '@conch/core/calendar'
import type { DrinkDocument } from '@conch/core/drink'
import { type HouseBook, namesIn } from '@conch/core/house'
import { diffDocuments } from '@conch/core/lineage'
import type { DraftControl } from '../../drafts/useDraft.ts'

/** Two people wrote on one draft: what each says, line by line, and what to do. Neither loses words. */
export function ConflictPanel({
  control,
  mine,
  theirs,
  book,
}: {
  control: DraftControl
  mine: DrinkDocument
  theirs: Draft | null
  book: HouseBook
}) {
  const nameOf = namesIn(book)
  if (!theirs) {
    return (
      <section role="alert" className="my-2 border-l-4 border-stop bg-shoal p-3">
        <h2 className="text-base">This draft was ended by somebody else</h2>
        <p>It became a version, or was dropped. What you wrote since is still on this sheet.</p>
        <div className="mt-2 flex gap-2">
          <button type="button" className="act act-main" onClick={control.keepMine}>
            Keep mine as a new draft
          </button>
          <button type="button" className="act" onClick={control.takeTheirs}>
            Let mine go
          </button>
        </div>
      </section>
    )
  }
  const differences = diffDocuments(theirs.document, mine, nameOf)
  return (
    <section role="alert" className="my-2 border-l-4 border-stop bg-shoal p-3">
      <h2 className="text-base">
        {theirs.savedBy} saved this draft at {clockText(theirs.savedAt, clock)}, while you were writing
      </h2>
      {differences.length === 0 ? (
        <p>Both say the same.</p>
      ) : (
        <table className="mt-1 text-sm">
          <thead>
            <tr className="text-left text-soft">
              <th className="pr-4 font-normal" aria-label="what" />
              <th className="pr-6 font-normal">{theirs.savedBy} wrote</th>
              <th className="font-normal">you wrote</th>
            </tr>
          </thead>
          <tbody>
            {differences.map((d) => (
              <tr key={d.subject}>
                <th scope="row" className="pr-4 text-left font-semibold">
                  {d.subject}
                </th>
                <td className="pr-6">{d.before ?? '—'}</td>
                <td>{d.after ?? '—'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        <button type="button" className="act act-main" onClick={control.keepMine}>
          Keep mine; theirs stays in history
        </button>
        <button type="button" className="act" onClick={control.takeTheirs}>
          Take theirs; mine is one undo away
        </button>
      </div>
    </section>
  )
}
