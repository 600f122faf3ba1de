import type { Drink } from '@conch/contract'
import { mayDo } from '@conch/contract'
import { type DrinkDocument, type Predictions, poursSealed, standardFrom } from '@conch/core/drink'
import { type HouseBook, namesIn } from '@conch/core/house'
import { ownVersionOf } from '@conch/core/lineage'
import { useQuery } from '@tanstack/react-query'
import { useDeferredValue, useMemo, useState } from 'react'
import { useParams, useSearchParams } from 'react-router'
import { type Command, useCommands } from '../../app/commands.tsx'
import { useHouse } from '../../app/house.tsx'
import { useOpened } from '../../app/lastOpened.ts'
import { drinkQuery } from '../../app/queries.ts'
import { useShelfFor } from '../../app/shelf.ts'
import { useWho } from '../../app/who.ts'
import { ConflictPanel } from '../../drafts/ConflictPanel.tsx'
import type { DraftState } from '../../drafts/draftState.ts'
import { LineageStrip } from '../../graphics/LineageStrip.tsx'
import { useOuts, useStands } from '../../outs/index.ts'
import { NeedShelfFor } from '../../shelf/NeedShelf.tsx'
import { KeepsRoom } from '../../ui/KeepsRoom.tsx'
import { NameField } from '../../ui/NameField.tsx'
import { Failure, Loading } from '../../ui/States.tsx'
import { useGlass } from '../../workers/compute.ts'
import { CurvePanel } from './CurvePanel.tsx'
import { DrinkActions } from './DrinkActions.tsx'
import { GlassAside } from './GlassAside.tsx'
import { Provenance } from './Provenance.tsx'
import { SaveVersionDialog } from './SaveVersionDialog.tsx'
import { SpecSheet } from './SpecSheet.tsx'
import { Tonight } from './Tonight.tsx'
import { type DrinkDraft, useDrinkDraft } from './useDrinkDraft.ts'
import { useFound } from './useFound.ts'

export function DrinkPage() {
  const { slug = '' } = useParams()
  const drink = useQuery(drinkQuery(slug))
  useOpened(drink.data?.name)
  const tonight = (useOuts().tonight?.choices ?? []).flatMap((c) => (c.drink === slug ? (c.document ?? []) : []))
  if (drink.isPending) return <Loading what="the drink" />
  if (!drink.data) return <Failure error={drink.error} onRetry={() => drink.refetch()} />
  const { versions, draft } = drink.data
  const documents = [...versions.map((v) => v.document), draft?.document, ...tonight]
  return (
    <NeedShelfFor key={slug} what="what it pours" documents={documents}>
      {() => <OpenDrink drink={drink.data} />}
    </NeedShelfFor>
  )
}

/**
 * Which page of the drink is open: the address says; else the draft, the poured or the planned version, or the house's newest.
 * @param made the version that the draft has just become
 */
function whichIsOpen(
  drink: Drink,
  draft: DraftState<DrinkDocument> | undefined,
  asked: string | null,
  made: number | undefined,
): number | 'draft' | undefined {
  if (asked === 'draft' && draft) return 'draft'
  // The address still says "draft" for a moment after the draft has become a version.
  if (asked === 'draft' && drink.versions.some((v) => v.number === made)) return made
  const number = Number(asked)
  if (drink.versions.some((v) => v.number === number)) return number
  if (draft) return 'draft'
  return drink.poured?.version ?? drink.planned ?? ownVersionOf(drink.versions)?.number
}

function OpenDrink({ drink }: { drink: Drink }) {
  const { book, well } = useHouse()
  const who = useWho()
  const control = useDrinkDraft(drink)
  const { draft } = control
  const [search, setSearch] = useSearchParams()
  const [isSaving, setSaving] = useState(false)
  // Where there is room beside the margin the curve is drawn without being asked for.
  const [hasCurve, setCurve] = useState(() => matchMedia('(min-width: 1024px)').matches)
  const [edit, setEdit] = useState(false)
  const [made, setMade] = useState<number>()
  const stands = useStands(drink.slug, well.slug)
  const instead = search.get('v') === 'tonight' ? stands.choice?.document : undefined
  const open = instead ? undefined : whichIsOpen(drink, draft, search.get('v'), made)
  const version = drink.versions.find((v) => v.number === open)
  const isDraft = open === 'draft' && draft !== undefined
  const document = instead ?? (isDraft ? draft.document : version?.document)
  const base = drink.versions.find((v) => v.number === draft?.baseVersion)
  const mayEdit = mayDo(who.role, 'saveDraft')
  // What is written now is kept in step, too.
  useShelfFor([document])
  const siblings = useMemo(() => (isDraft ? drink.versions.map((v) => v.document) : []), [isDraft, drink.versions])

  // The first key that makes a draft of a version keeps its glass until the next is there.
  const shown = instead ? `tonight ${stands.choice?.id}` : String(isDraft ? draft.baseVersion : open)
  const answer = useGlass(document, book, well.slug, shown)
  // The curve may come a moment after the figures that one is changing.
  const now = useMemo(
    () => (answer?.ok && document ? { document, result: answer.result } : undefined),
    [answer, document],
  )
  const curved = useDeferredValue(now)
  const ghostAnswer = useGlass(isDraft ? base?.document : undefined, book, well.slug, String(base?.number))
  const ghost = isDraft && base && ghostAnswer?.ok ? { document: base.document, result: ghostAnswer.result } : undefined

  const show = (which: number | 'draft') => setSearch({ v: String(which) })
  const change = (edited: DrinkDocument) => {
    // What a source calls it is not what the house does.
    const isFound = !isDraft && version?.origin?.kind === 'historical'
    const next = isFound && edited.name === version.document.name ? { ...edited, name: drink.name } : edited
    control.edit(next, isDraft ? (draft?.baseVersion ?? null) : (version?.number ?? null), version?.document)
    if (!isDraft) show('draft')
  }
  // A version is changed by beginning a draft from it, while no other draft is there.
  const isEditable = mayEdit && !instead && (isDraft || (!draft && edit))

  const onSave = () => setSaving(true)
  const onCurve = () => setCurve((on) => !on)
  useDrinkKeys({ drink, control, isDraft, mayEdit, onSave, onCurve, onEdit: () => setEdit(true) })

  useFound({ drink, control, document, isDraft, mayEdit, onEdited: () => show('draft') })

  if (!document) return <Failure error="This drink has no version and no draft." />
  return (
    <div className="grid gap-x-6 px-4 pt-3 pb-8 lg:grid-cols-[minmax(0,1fr)_23.500rem]">
      <div className="min-w-0">
        <header className="mb-1 flex flex-wrap items-baseline gap-x-4">
          {isEditable && isDraft ? (
            <h1 className="min-w-0 flex-1 text-3xl max-sm:basis-full">
              <NameField name={document.name} onChange={(name) => change({ ...document, name })} />
            </h1>
          ) : (
            <h1 className="min-w-0 flex-1 text-3xl max-sm:basis-full break-words">{document.name}</h1>
          )}
          <DrinkActions
            {...{ drink, control, isDraft, edit, setEdit, version }}
            mayEdit={mayEdit && !instead}
            {...{ onSave, onCurve, hasCurve }}
            onShow={show}
          />
        </header>
        <Tonight drink={drink} isShown={instead !== undefined} />
        <div data-first-step="versions">
          <LineageStrip
            versions={drink.versions}
            book={book}
            open={open}
            poured={drink.poured?.version}
            planned={drink.planned ?? undefined}
            draft={draft}
            onOpen={show}
          />
        </div>
        <Provenance {...{ version, isDraft, draft, drink }} />
        {isDraft && <ConflictPanel kind="drink" noun="drink" control={control} nameOf={namesIn(book)} />}
        <div className="mt-1">
          <SpecSheet
            document={document}
            book={book}
            well={well}
            result={answer?.ok ? answer.result : undefined}
            older={isDraft ? base?.document : undefined}
            siblings={siblings}
            asked={{ drink: drink.slug, version: open }}
            onChange={isEditable ? change : undefined}
          />
        </div>
        {hasCurve && (
          <KeepsRoom isWaiting={!curved}>
            {curved && (
              <CurvePanel document={curved.document} book={book} well={well} result={curved.result} shown={shown} />
            )}
          </KeepsRoom>
        )}
      </div>
      <GlassAside
        {...{ document, answer, ghost }}
        of={version ? { drink: drink.slug, number: version.number } : undefined}
        onHold={isEditable ? (predictions) => change(holding(predictions, document, book)) : undefined}
      />
      {draft && (
        <SaveVersionDialog
          isOpen={isSaving}
          onClose={() => setSaving(false)}
          drink={drink}
          base={base}
          draft={draft}
          control={control}
          onSaved={(saved) => {
            setSaving(false)
            setEdit(false)
            setMade(saved.number)
            show(saved.number)
          }}
        />
      )}
    </div>
  )
}

/** A drink that promises the glass as it is now. */
const holding = (predictions: Predictions, document: DrinkDocument, book: HouseBook): DrinkDocument => ({
  ...document,
  standard: standardFrom(predictions, { poursSealed: poursSealed(document, book) }),
})

interface DrinkKeys {
  drink: Drink
  control: DrinkDraft
  isDraft: boolean
  mayEdit: boolean
  onSave: () => void
  onEdit: () => void
  onCurve: () => void
}

/** What the keyboard does on the page of a drink. */
function useDrinkKeys({ drink, control, isDraft, mayEdit, onSave, onEdit, onCurve }: DrinkKeys): void {
  const hasDraft = control.draft !== undefined
  useCommands(() => {
    const ofDraft: Command[] = [
      { id: 'undo', label: 'Undo', group: 'do', keys: 'mod+z', perform: control.undo },
      { id: 'redo', label: 'Redo', group: 'do', keys: 'mod+shift+z', perform: control.redo },
      { id: 'save', label: 'Save as a new version', group: 'do', keys: 'mod+s', perform: onSave },
    ]
    const begin: Command = { id: 'edit', label: `Change ${drink.name}`, group: 'do', keys: 'e', perform: onEdit }
    return [
      ...(hasDraft && isDraft ? ofDraft : []),
      ...(!hasDraft && mayEdit ? [begin] : []),
      { id: 'curve', label: 'Curves', group: 'do', keys: 'c', perform: onCurve },
    ]
  }, [isDraft, hasDraft, mayEdit, drink.name])
}
