import type { Drink, Version } from '@conch/contract'
import { useState } from 'react'
import { Link } from 'react-router'
import { DraftStatusWords } from '../../drafts/DraftStatusWords.tsx'
import { dropWithWayBack } from '../../drafts/dropWithWayBack.ts'
import { UndoRedo } from '../../drafts/UndoRedo.tsx'
import { OthersHere } from '../../live/index.ts'
import { DecideDialog } from '../next/index.ts'
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
      <Link className="act act-quiet" to={`/drinks/${drink.slug}/tune?v=${isDraft ? 'draft' : version?.number}`}>
        Tune
      </Link>
      <button type="button" className="act act-quiet" aria-pressed={hasCurve} onClick={onCurve}>
        Curves
      </button>
    </>
  )
  if (isDraft && draft) {
    return (
      <div className="no-print flex flex-wrap items-center gap-1">
        <OthersHere kind="drink" subject={drink.slug} />
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
      {version && mayEdit && !isPlanned && <PourThis drink={drink} version={version.number} />}
    </div>
  )
}

function PourThis({ drink, version }: { drink: Drink; version: number }) {
  const [isAsked, setAsked] = useState(false)
  return (
    <>
      <button type="button" className="act act-main" onClick={() => setAsked(true)}>
        Put on the next menu …
      </button>
      {isAsked && (
        <DecideDialog
          drink={drink}
          version={version}
          instead={drink.planned ?? drink.poured?.version}
          onClose={() => setAsked(false)}
        />
      )}
    </>
  )
}
