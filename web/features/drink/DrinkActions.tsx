import type { Drink, Menu, Version } from '@conch/contract'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { toast } from 'sonner'
import { drinksQuery, menuQuery } from '../../app/queries.ts'
import type { DraftState } from '../../drafts/draftState.ts'
import type { DraftControl } from '../../drafts/useDraft.ts'
import { timeText } from '../../graphics/format.ts'
import { planWith } from '../next/plan.ts'
import { savePlan } from '../next/savePlan.ts'

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
    <button type="button" className="act act-quiet" aria-pressed={hasCurve} onClick={onCurve}>
      Curves
    </button>
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
          onClick={() =>
            control.drop().then(
              () => toast('The draft is dropped; its words are kept in the house’s history.'),
              (e: Error) => toast.error(e.message),
            )
          }
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
  const menu = useQuery(menuQuery).data
  const queryClient = useQueryClient()
  const put = async (menu: Menu) => {
    await savePlan(queryClient, menu, planWith(menu.plan, drink.slug, version))
    toast(`Version ${version} is planned for the next edition.`)
    await queryClient.invalidateQueries({ queryKey: drinksQuery.queryKey })
  }
  return (
    <button
      type="button"
      className="act act-main"
      disabled={!menu}
      onClick={() => menu && put(menu).catch((e: Error) => toast.error(e.message))}
    >
      Put on the next menu
    </button>
  )
}

function StatusWords({ draft }: { draft: DraftState }) {
  const { status } = draft
  const words = {
    saved: () => (status.kind === 'saved' && status.at ? `draft saved ${timeText(status.at)}` : 'draft saved'),
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
