import type { DraftKind } from '@conch/contract'
import { useOnDraft } from './present.ts'

/** Who else has this draft open; says that this page has. */
export function OthersHere({ kind, subject }: { kind: DraftKind; subject: string }) {
  const others = useOnDraft(kind, subject)
  if (others.length === 0) return null
  return (
    <span role="status" data-others className="border-l-4 border-mind pl-2 text-sm">
      {others.join(' and ')} {others.length === 1 ? 'is' : 'are'} on this draft, too
    </span>
  )
}
