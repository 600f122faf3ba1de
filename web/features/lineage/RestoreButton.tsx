import { useQueryClient } from '@tanstack/react-query'
import { Link, useNavigate } from 'react-router'
import { toast } from 'sonner'
import { DRINKS_KEY } from '../../app/queries.ts'
import { draftTransport } from '../../drafts/queries.ts'
import type { LineageNode } from './lineageView.ts'

/** Begins a draft that is this version again: saved, it is a new version; nothing of before changes. */
export function RestoreButton({ node, hasDraft }: { node: LineageNode; hasDraft: boolean }) {
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  const { drink, number, document } = node.version
  if (hasDraft)
    return (
      <Link className="act" to={`/drinks/${drink}?v=draft`} title="Save or drop the draft before a version is restored">
        A draft is open
      </Link>
    )
  const restore = async () => {
    // What a source calls it is not what the house does.
    const again = { document: { ...document, name: node.name }, baseVersion: number, revision: 0 }
    await draftTransport('drink', drink, queryClient).send(again)
    await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
    navigate(`/drinks/${drink}?v=draft`)
    toast(`The draft is version ${number} again. Save it, and it is a new version.`)
  }
  return (
    <button type="button" className="act" onClick={() => restore().catch((e: Error) => toast.error(e.message))}>
      Restore as a new version
    </button>
  )
}
