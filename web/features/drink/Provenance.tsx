import type { Drink, Version } from '@conch/contract'
import { nightText } from '@conch/core/calendar'
import type { DrinkDocument } from '@conch/core/drink'
import { useHouse } from '../../app/house.tsx'
import type { DraftState } from '../../drafts/draftState.ts'

/** Where the open version or draft comes from, in one line. */
export function Provenance({
  version,
  isDraft,
  draft,
  drink,
}: {
  version: Version | undefined
  isDraft: boolean
  draft: DraftState<DrinkDocument> | undefined
  drink: Drink
}) {
  const { clock } = useHouse()
  if (isDraft && draft) {
    const by = drink.draft ? ` · last saved by ${drink.draft.savedBy}` : ''
    return (
      <p className="caption mb-1">
        Draft {draft.baseVersion ? `from version ${draft.baseVersion}` : 'of a new drink'}
        {by}.{draft.baseVersion ? ' Dashed in the margin: the version it comes from.' : ''}
      </p>
    )
  }
  if (!version) return null
  const words = [
    [...version.sources.map((s) => s.title), version.source].filter(Boolean).join(', '),
    version.reason && `“${version.reason}”`,
    `${version.savedBy}, ${nightText(version.savedAt, clock)}`,
  ]
  return <p className="caption mb-1">{words.filter(Boolean).join(' · ')}</p>
}
