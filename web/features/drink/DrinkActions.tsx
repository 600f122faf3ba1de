import type { Drink, Version } from '@conch/contract'
import { useQueryClient } from '@tanstack/react-query'
import { Link } from 'react-router'
import { toast } from 'sonner'
import { DraftStatusWords } from '../../drafts/DraftStatusWords.tsx'
import { dropWithWayBack } from '../../drafts/dropWithWayBack.ts'
import { UndoRedo } from '../../drafts/UndoRedo.tsx'
import { changePlan, planWith } from '../next/index.ts'
import { HideSwitch, ThrowAway } from './OutOfTheWay.tsx'
import type { DrinkDraft } from './useDrinkDraft.ts'

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
  control: DrinkDraft
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
      <Link className="act act-quiet" to={`/drinks/${drink.slug}/lineage`}>
        Lineage
      </Link>
      <Link className="act act-quiet" to={`/drinks/${drink.slug}/bench`}>
        On the bench
      </Link>
      <button type="button" className="act act-quiet" aria-pressed={hasCurve} onClick={onCurve}>
        Curves
      </button>
    </>
  )
  if (isDraft && draft) {
    return (
      <div className="no-print flex flex-wrap items-center gap-1">
        <DraftStatusWords status={draft.status} />
        {curve}
        <UndoRedo control={control} />
        {drink.versions.length === 0 ? (
          <ThrowAway drink={drink} />
        ) : (
          <button
            type="button"
            className="act act-quiet"
            onClick={() => dropWithWayBack(control.drop, () => onShow('draft'))}
          >
            Drop
          </button>
        )}
        <button
          type="button"
          className="act act-main"
          data-first-step="save"
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
          <button
            type="button"
            className="act"
            data-first-step="change"
            aria-pressed={edit}
            onClick={() => setEdit(!edit)}
          >
            {edit ? 'Only read' : 'Change'}
          </button>
        )
      )}
      {version && mayEdit && !drink.poured && drink.planned === null && <HideSwitch drink={drink} />}
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
