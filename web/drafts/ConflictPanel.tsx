import { clockText } from '@conch/core/calendar'
import {
  type Difference,
  type DocumentKind,
  type DocumentKinds,
  differences,
  withDifferences,
} from '@conch/core/lineage'
import { useMemo, useState } from 'react'
import { useHouse } from '../app/house.tsx'
import type { Theirs } from './draftState.ts'
import type { DraftControl } from './useDraft.ts'

type Side = 'mine' | 'theirs'

/** Who changed a line, by what both began from: then that side is chosen already. Undefined: both did, or nobody knows. */
function chosenBefore<K extends DocumentKind>(
  kind: K,
  common: DocumentKinds[K] | undefined,
  mine: DocumentKinds[K],
  theirs: DocumentKinds[K],
): (id: string) => Side | undefined {
  if (common === undefined) return () => undefined
  const byMe = new Set(differences(kind, common, mine).flatMap((d) => [d.id, ...d.with]))
  const byThem = new Set(differences(kind, common, theirs).flatMap((d) => [d.id, ...d.with]))
  return (id) => (byMe.has(id) === byThem.has(id) ? undefined : byMe.has(id) ? 'mine' : 'theirs')
}

interface ConflictPanelProps<K extends DocumentKind> {
  kind: K
  control: DraftControl<DocumentKinds[K]>
  nameOf: (slug: string) => string
  /** What it is a draft of, in a word: "mix". */
  noun: string
}

/** Two people wrote on one thing: what each says, line by line, and a choice for each. Neither loses words. */
export function ConflictPanel<K extends DocumentKind>({ kind, control, nameOf, noun }: ConflictPanelProps<K>) {
  const { draft } = control
  if (draft?.status.kind !== 'conflict') return null
  const { theirs } = draft.status
  if (!theirs) {
    return (
      <section role="alert" className="my-2 border-l-4 border-stop bg-shoal p-3">
        <h2 className="text-base">This draft was ended by somebody else</h2>
        <p>It was saved, or dropped. What you wrote since is still on this sheet.</p>
        <div className="mt-2 flex flex-wrap gap-2">
          <button type="button" className="act act-main" onClick={() => control.settle(draft.document)}>
            Keep mine as a new draft
          </button>
          <button type="button" className="act" onClick={control.takeTheirs}>
            Let mine go
          </button>
        </div>
      </section>
    )
  }
  return (
    <Choices
      key={`${theirs.revision} ${theirs.baseVersion}`}
      {...{ kind, control, nameOf, noun, theirs }}
      mine={draft.document}
      common={draft.common}
    />
  )
}

function Choices<K extends DocumentKind>({
  kind,
  control,
  nameOf,
  noun,
  mine,
  theirs,
  common,
}: ConflictPanelProps<K> & {
  mine: DocumentKinds[K]
  theirs: Theirs<DocumentKinds[K]>
  common: DocumentKinds[K] | undefined
}) {
  const { clock } = useHouse()
  const [chosen, setChosen] = useState<Record<string, Side>>({})
  const before = useMemo(() => chosenBefore(kind, common, mine, theirs.document), [kind, common, mine, theirs.document])
  const rows = differences(kind, theirs.document, mine, nameOf)
  const sideOf = (d: Difference): Side | undefined => chosen[d.id] ?? before(d.id)
  const open = rows.filter((d) => sideOf(d) === undefined).length
  const mineIds = new Set(rows.filter((d) => sideOf(d) === 'mine').map((d) => d.id))
  const who = theirs.by || 'Somebody else'
  return (
    <section role="alert" className="my-2 border-l-4 border-stop bg-shoal p-3">
      <h2 className="text-base">
        {theirs.isSaved
          ? `The ${noun} itself was saved in between, beside this draft of it`
          : `${who} saved this draft${theirs.at ? ` at ${clockText(theirs.at, clock)}` : ''}, while you were writing`}
      </h2>
      {rows.length === 0 ? (
        <p>Both say the same.</p>
      ) : (
        <table className="mt-1 text-sm">
          <thead>
            <tr className="text-left text-soft">
              <th className="pr-4 font-normal" aria-label="what" />
              <th className="pr-6 font-normal">{theirs.isSaved ? 'saved' : `${who} wrote`}</th>
              <th className="font-normal">you wrote</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((d) => (
              <tr key={d.id} className="border-t border-hair/60">
                <th scope="row" className="py-1 pr-4 text-left font-semibold break-words">
                  {d.subject}
                  {sideOf(d) === undefined && <span className="ml-1 font-normal text-mind">choose</span>}
                </th>
                {(['theirs', 'mine'] as const).map((side) => (
                  <td key={side} className="py-1 pr-6">
                    <label className="flex min-h-6 cursor-pointer items-center gap-1.5 max-sm:min-h-11">
                      <input
                        type="radio"
                        name={d.id}
                        className="shrink-0 accent-current"
                        checked={sideOf(d) === side}
                        onChange={() => setChosen({ ...chosen, [d.id]: side })}
                      />
                      <span className="min-w-0 break-words">{(side === 'mine' ? d.after : d.before) ?? '—'}</span>
                    </label>
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <button
          type="button"
          className="act act-main"
          disabled={open > 0}
          title={open > 0 ? 'Choose a side for every line first' : undefined}
          onClick={() => control.settle(withDifferences(kind, theirs.document, mine, mineIds))}
        >
          Go on with what is chosen
        </button>
        <button type="button" className="act" onClick={() => control.settle(mine)}>
          All of mine
        </button>
        <button type="button" className="act" onClick={control.takeTheirs}>
          Take theirs; mine is one undo away
        </button>
        {open > 0 && (
          <span className="caption">
            {open === 1 ? 'one line was changed by both' : `${open} lines were changed by both`}: choose
          </span>
        )}
      </div>
    </section>
  )
}
