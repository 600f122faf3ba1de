import { changedSchema, mayDo } from '@conch/contract'
import type { Ingredient } from '@conch/core/house'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { toast } from 'sonner'
import { api } from '../../app/api.ts'
import { useCommands } from '../../app/commands.tsx'
import { useHouse } from '../../app/house.tsx'
import { refreshHouse } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { DraftStatusWords } from '../../drafts/DraftStatusWords.tsx'
import { dropWithWayBack } from '../../drafts/dropWithWayBack.ts'
import { UndoRedo } from '../../drafts/UndoRedo.tsx'
import { ClosedMark } from '../../graphics/ClosedMark.tsx'
import { OthersHere } from '../../live/index.ts'
import { AskFirst } from '../../ui/AskFirst.tsx'
import type { MixDraft } from './useMixDraft.ts'

/** What can be done with a mix or a blend, by hand and by key: save or drop what was changed, make a lot, seal it. */
export function DraftActions({
  draft,
  saved,
  children,
}: {
  draft: MixDraft
  saved: Ingredient
  children?: React.ReactNode
}) {
  const who = useWho()
  const open = draft.control.draft
  useCommands(
    () =>
      draft.isChanged
        ? [
            { id: 'save-mix', label: 'Save the recipe', group: 'do', keys: 'mod+s', perform: draft.save },
            { id: 'undo-mix', label: 'Undo', group: 'do', keys: 'mod+z', perform: draft.control.undo },
            { id: 'redo-mix', label: 'Redo', group: 'do', keys: 'mod+shift+z', perform: draft.control.redo },
          ]
        : [],
    [draft.mix, draft.isChanged, draft.reason],
  )
  return (
    <div className="no-print flex flex-wrap items-center gap-1">
      {draft.isChanged ? (
        <>
          {open && <OthersHere kind="ingredient" subject={saved.slug} />}
          {open && <DraftStatusWords status={open.status} />}
          <input
            aria-label="Why it is changed"
            placeholder="why?"
            className="inplace w-36"
            maxLength={300}
            value={draft.reason}
            onChange={(e) => draft.setReason(e.target.value)}
          />
          <UndoRedo control={draft.control} />
          <button type="button" className="act act-quiet" onClick={() => dropWithWayBack(draft.control.drop)}>
            Drop
          </button>
          <button
            type="button"
            className="act act-main"
            disabled={open?.status.kind === 'conflict'}
            onClick={draft.save}
          >
            Save the recipe
          </button>
        </>
      ) : (
        <>
          {mayDo(who.role, 'openSealed') && <SealSwitch ingredient={saved} />}
          {children}
          {mayDo(who.role, 'makeLot') && (
            <Link to={`/mixes/${saved.slug}/make`} className="act act-main">
              Make a lot
            </Link>
          )}
        </>
      )}
    </div>
  )
}

/** Seals a formula, or opens it to everybody again. */
function SealSwitch({ ingredient }: { ingredient: Ingredient }) {
  const { house } = useHouse()
  const queryClient = useQueryClient()
  const [isAsked, setAsked] = useState(false)
  const isSealed = ingredient.isSealed === true
  const turn = async () => {
    const { isSealed: _, ...open } = ingredient
    await api.put(`/api/ingredients/${ingredient.slug}`, changedSchema, {
      document: isSealed ? open : { ...open, isSealed: true },
      revision: house.revisions.ingredients[ingredient.slug] ?? 0,
    })
    await refreshHouse(queryClient)
    setAsked(false)
    toast(
      isSealed
        ? `${ingredient.name} is open to everybody.`
        : `${ingredient.name} is sealed: only managers see what is in it.`,
    )
  }
  return (
    <>
      <button type="button" className="act" aria-pressed={isSealed} onClick={() => setAsked(true)}>
        {isSealed ? (
          <>
            <ClosedMark /> sealed
          </>
        ) : (
          'Seal …'
        )}
      </button>
      {isAsked && (
        <AskFirst
          title={isSealed ? `Open ${ingredient.name} to everybody?` : `Seal ${ingredient.name}?`}
          lead={
            isSealed
              ? 'Leads and bartenders will see what it is made of, in earlier editions and lots, too.'
              : 'Only managers will see what it is made of; in earlier editions and lots, too. Its strength, allergens, cost and weights under letters stay. What specs, notes and people already say is not unsaid.'
          }
          main={isSealed ? 'Open it' : 'Seal it'}
          onClose={() => setAsked(false)}
          onYes={() => turn().catch((error: Error) => toast.error(error.message))}
        />
      )}
    </>
  )
}
