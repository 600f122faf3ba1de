import type { Drink, Version } from '@conch/contract'
import { clockText } from '@conch/core/calendar'
import { useQueryClient } from '@tanstack/react-query'
import { Link } from 'react-router'
import { toast } from 'sonner'
import { useHouse } from '../../app/house.tsx'
import type { DraftState } from '../../drafts/draftState.ts'
import type { DraftControl } from '../../drafts/useDraft.ts'
import { changePlan } from '../next/changePlan.ts'
import { planWith } from '../next/plan.ts'

const TAKE_BACK_WITHIN_MS = 10_000

/** What can be done with the open page of a drink: with its draft, or with one of its versions. */
export function DrinkActions({
  drink,
  control,
  isDraft,
  mayEdit,
  edit,
  setEdit,
  version,
  onSave,
  onCurve,
  hasCurve,
  onShow,
}: {
  drink: Drink
  control: DraftControl
  isDraft: boolean
  mayEdit: boolean
  edit: boolean
  setEdit: (on: boolean) => void
  version: Version | undefined
  onSave: () => void
  onCurve: () => void
  hasCurve: boolean
  onShow: (which: number | 'draft') => void
}) {
  const { draft } = control
  const isPlanned = version !== undefined && drink.planned === version.number
  const curve = (
    <>
      <Link className="act act-quiet" to={`/drinks/${drink.slug}/bench`}>
        On the bench
      </Link>
      <button type="button" className="act act-quiet" aria-pressed={hasCurve} onClick={onCurve}>
        Curves
      </button>
    </>
  )
  const drop = ({ document, baseVersion }: DraftState) =>
    control.drop().then(
      () =>
        toast('The draft is dropped.', {
          duration: TAKE_BACK_WITHIN_MS,
          action: {
            label: 'Take it back',
            onClick: () => {
              control.edit(document, baseVersion)
              onShow('draft')
            },
          },
        }),
      (e: Error) => toast.error(e.message),
    )
  if (isDraft && draft) {
    return (
      <div className="no-print flex flex-wrap items-center gap-1">
        <StatusWords draft={draft} />
        {curve}
        <button type="button" className="act act-quiet" disabled={draft.past.length === 0} onClick={control.undo}>
          Undo
        </button>
        <button type="button" className="act act-quiet" disabled={draft.future.length === 0} onClick={control.redo}>
          Redo
        </button>
        <button
          type="button"
          className="act act-quiet"
          disabled={drink.versions.length === 0}
          title={drink.versions.length === 0 ? 'A drink needs a version before its draft can be dropped' : undefined}
          onClick={() => drop(draft)}
        >
          Drop
        </button>
        <button
          type="button"
          className="act act-main"
          onClick={onSave}
          disabled={!mayEdit || draft.status.kind === 'conflict'}
        >
          Save version
        </button>
      </div>
    )
  }
  return (
    <div className="no-print flex flex-wrap items-center gap-1">
      {curve}
      {draft ? (
        <button type="button" className="act" onClick={() => onShow('draft')}>
          Open the draft
        </button>
      ) : (
        mayEdit && (
          <button type="button" className="act" aria-pressed={edit} onClick={() => setEdit(!edit)}>
            {edit ? 'Only read' : 'Change'}
          </button>
        )
      )}
      {version && mayEdit && !isPlanned && <PutOnMenu drink={drink} version={version.number} />}
    </div>
  )
}

function PutOnMenu({ drink, version }: { drink: Drink; version: number }) {
  const queryClient = useQueryClient()
  const put = async () => {
    await changePlan(queryClient, (plan) => planWith(plan, drink.slug, version))
    toast(`Version ${version} is planned for the next edition.`)
  }
  return (
    <button type="button" className="act act-main" onClick={() => put().catch((e: Error) => toast.error(e.message))}>
      Put on the next menu
    </button>
  )
}

function StatusWords({ draft }: { draft: DraftState }) {
  const { clock } = useHouse()
  const { status } = draft
  const words = {
    saved: () => (status.kind === 'saved' && status.at ? `draft saved ${clockText(status.at, clock)}` : 'draft saved'),
    unsaved: () => 'draft not saved yet',
    saving: () => 'saving …',
    away: () => 'no connection: kept on this device',
    refused: () => (status.kind === 'refused' ? `not saved: ${status.message}` : ''),
    conflict: () => 'two drafts: compare below',
  }[status.kind]()
  const isBad = status.kind === 'away' || status.kind === 'refused' || status.kind === 'conflict'
  return (
    <span role="status" data-draft-status={status.kind} className={`mr-1 text-sm ${isBad ? 'text-stop' : 'text-soft'}`}>
      {words}
    </span>
  )
}
