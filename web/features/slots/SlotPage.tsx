import { type Draft, mayDo } from '@conch/contract'
import { bySlug, nameApart, nameIn, namesIn, toSlug } from '@conch/core/house'
import { resolveSlot, type Slot } from '@conch/core/palate'
import { RANGES } from '@conch/core/schema/ranges'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { Link, useLocation, useNavigate, useParams } from 'react-router'
import { z } from 'zod'
import { useCommands } from '../../app/commands.tsx'
import { useHouse } from '../../app/house.tsx'
import { useOpened } from '../../app/lastOpened.ts'
import { nameForNew } from '../../app/nameForNew.ts'
import { useShelf, useShelfOf } from '../../app/shelf.ts'
import { useSending } from '../../app/useSending.ts'
import { useWho } from '../../app/who.ts'
import { ConflictPanel } from '../../drafts/ConflictPanel.tsx'
import { DraftStatusWords } from '../../drafts/DraftStatusWords.tsx'
import { dropWithWayBack } from '../../drafts/dropWithWayBack.ts'
import { draftQuery } from '../../drafts/queries.ts'
import { UndoRedo } from '../../drafts/UndoRedo.tsx'
import { BeforeSaving } from '../../foresight/index.ts'
import { StyleLines } from '../../graphics/StyleLines.tsx'
import { OthersHere } from '../../live/index.ts'
import { NeedShelf } from '../../shelf/NeedShelf.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import { Failure, Loading } from '../../ui/States.tsx'
import { addCandidate, Candidates } from './Candidates.tsx'
import { Others } from './Others.tsx'
import { Refused } from './Refused.tsx'
import { Target } from './Target.tsx'
import { UsedIn } from './UsedIn.tsx'
import { useSlotDraft } from './useSlotDraft.ts'

const NEW: Omit<Slot, 'slug' | 'name'> = {
  target: {},
  abvPct: { low: 38, high: 46 },
  candidates: [],
  pick: '',
  refused: [],
}

export function SlotPage() {
  const { slug = '' } = useParams()
  if (slug === 'new') return <NameSlot />
  return <SlotWithDraft key={slug} slug={slug} />
}

/** Bottles that are looked at for nearness. */
const NEAR = 60

const nameForm = z.object({ name: nameForNew() })

/** A slot begins with its name: then its draft has a place, for everybody. */
function NameSlot() {
  const navigate = useNavigate()
  const form = useSending(nameForm, { name: '' }, async ({ name }) => {
    const slug = toSlug(name)
    if (slug === 'new') throw new Error('Give it another name.')
    navigate(`/slots/${slug}`, { replace: true, state: { name } })
  })
  return (
    <form className="max-w-xl px-4 pt-4" onSubmit={form.submit}>
      <h1 className="mb-3 text-3xl">A new slot</h1>
      <Field
        label="Name of the slot"
        error={form.errorOf('name') ?? form.problem}
        hint="What a bottle must be: “lightly aged, blended”."
      >
        {(props) => <input {...props} maxLength={120} {...form.register('name')} />}
      </Field>
      <DialogButtons close="Not yet" onClose={() => navigate('/base')} main="Begin" isBusy={form.isBusy} />
    </form>
  )
}

/** Every bottle that a slot names. */
const namedIn = (slot: Slot) => [...slot.candidates, ...slot.refused].map((c) => c.ingredient)

function SlotWithDraft({ slug }: { slug: string }) {
  const { house } = useHouse()
  const mayEdit = mayDo(useWho().role, 'editHouse')
  const { state } = useLocation()
  const draft = useQuery({ ...draftQuery('slot', slug), enabled: mayEdit })
  const saved = bySlug(house.slots, slug)
  useOpened(saved?.name)
  if (mayEdit && draft.isPending) return <Loading what="its draft" />
  if (mayEdit && draft.data === undefined) return <Failure error={draft.error} onRetry={() => draft.refetch()} />
  const name = (state as { name?: unknown } | null)?.name
  const begun = draft.data?.document ?? (typeof name === 'string' ? { ...NEW, slug, name } : undefined)
  const shown = saved ?? (mayEdit ? begun : undefined)
  if (shown)
    return (
      <NeedShelf what="what may fill it" of={[shown, draft.data?.document].flatMap((s) => (s ? namedIn(s) : []))}>
        {() => <OpenSlot saved={shown} isNew={!saved} server={draft.data ?? null} />}
      </NeedShelf>
    )
  return <Failure error={`There is no slot “${slug}”.`} />
}

/** What a bottle must be: a place on the lines, a strength, what may fill it in which order, and what may not. */
function OpenSlot({ saved, isNew, server }: { saved: Slot; isNew: boolean; server: Draft<Slot> | null }) {
  const { book, well, house } = useHouse()
  const who = useWho()
  const navigate = useNavigate()
  const draft = useSlotDraft(saved, isNew, server)
  useShelfOf(namedIn(draft.slot))
  const nearAsked = useMemo(
    () => (isNew ? undefined : { near: `slot:${saved.slug}`, limit: NEAR }),
    [isNew, saved.slug],
  )
  useShelf(nearAsked)
  const open = draft.control.draft
  const { slot, change, problems } = draft
  const mayEdit = mayDo(who.role, 'editHouse')
  const save = draft.save
  useCommands(
    () =>
      draft.isChanged
        ? [
            { id: 'save-slot', label: 'Save the slot', group: 'do', keys: 'mod+s', perform: save },
            { id: 'undo-slot', label: 'Undo', group: 'do', keys: 'mod+z', perform: draft.control.undo },
            { id: 'redo-slot', label: 'Redo', group: 'do', keys: 'mod+shift+z', perform: draft.control.redo },
          ]
        : [],
    [slot, draft.isChanged],
  )
  const poured = resolveSlot(slot, book, well.slug)
  return (
    <div className="grid gap-x-6 px-4 pt-3 pb-8 lg:grid-cols-[minmax(0,1fr)_25rem]">
      <div className="min-w-0">
        <header className="mb-2 flex flex-wrap items-baseline gap-x-3 gap-y-1">
          <p className="caption w-full">
            <Link className="underline" to="/base">
              Base
            </Link>{' '}
            · slot
          </p>
          <h1 className="min-w-0 flex-1 text-3xl max-sm:basis-full break-words">
            {mayEdit ? (
              <input
                aria-label="Name"
                className="inplace w-full"
                maxLength={120}
                value={slot.name}
                onChange={(e) => change({ name: e.target.value })}
              />
            ) : (
              slot.name
            )}
          </h1>
          {draft.isChanged && (
            <div className="no-print flex flex-wrap items-center gap-1">
              {open && <OthersHere kind="slot" subject={slot.slug} />}
              {open && <DraftStatusWords status={open.status} />}
              <UndoRedo control={draft.control} />
              <button
                type="button"
                className="act act-quiet"
                onClick={() => {
                  dropWithWayBack(draft.control.drop, () =>
                    navigate(`/slots/${slot.slug}`, { state: { name: slot.name } }),
                  )
                  if (isNew) navigate('/base')
                }}
              >
                Drop
              </button>
              <button type="button" className="act act-main" disabled={open?.status.kind === 'conflict'} onClick={save}>
                Save the slot
              </button>
            </div>
          )}
        </header>
        <ConflictPanel kind="slot" noun="slot" control={draft.control} nameOf={namesIn(house)} />
        {problems.all && (
          <div role="alert" className="mb-3 border-l-4 border-stop pl-3 text-stop">
            {Object.entries(problems)
              .filter(([field]) => field !== 'all' || Object.keys(problems).length === 1)
              .map(([field, message]) => (
                <p key={field}>{message}</p>
              ))}
          </div>
        )}
        <p className="mb-1 text-lg">
          a strength of{' '}
          <NumberField
            label="Lowest strength"
            value={slot.abvPct.low}
            {...RANGES.abvPct}
            isReadOnly={!mayEdit}
            onChange={(low) => change({ abvPct: { ...slot.abvPct, low } })}
          />{' '}
          to{' '}
          <NumberField
            label="Highest strength"
            value={slot.abvPct.high}
            {...RANGES.abvPct}
            isReadOnly={!mayEdit}
            onChange={(high) => change({ abvPct: { ...slot.abvPct, high } })}
          />{' '}
          %
          {slot.abvPct.low > slot.abvPct.high && (
            <span role="alert" className="ml-2 text-sm text-stop">
              the low end is above the high one
            </span>
          )}
        </p>
        {(mayEdit || slot.note) && (
          <p className="mb-3 text-sm text-soft">
            {mayEdit ? (
              <input
                aria-label="Note"
                className="inplace w-full"
                maxLength={500}
                placeholder="what it is for, in a sentence"
                value={slot.note ?? ''}
                onChange={(e) => change({ note: e.target.value || undefined })}
              />
            ) : (
              slot.note
            )}
          </p>
        )}
        <BeforeSaving change={mayEdit && draft.isChanged ? { kind: 'slots', document: slot } : undefined} />
        <Candidates draft={draft} mayEdit={mayEdit} />
        <Refused draft={draft} mayEdit={mayEdit} />
        <Target draft={draft} mayEdit={mayEdit} />
      </div>
      <aside
        aria-label="What fills it"
        className="border-hair max-lg:mt-4 max-lg:border-t max-lg:pt-3 lg:border-l lg:pl-5"
      >
        {poured ? (
          <p className="mb-2">
            <span className="text-soft">tonight at the {well.name}: </span>
            <b className="font-semibold">{nameApart(poured.ingredient, book.ingredients)}</b>
            {poured.insteadOf && (
              <span className="block text-mind">▲ {nameApart(poured.insteadOf, book.ingredients)} is out</span>
            )}
            {poured.isOut && (
              <span className="block text-stop">■ and it is out: nothing that may fill it is in stock</span>
            )}
            {(poured.isOut || poured.insteadOf) && (
              <Link className="block underline" to={`/stand-in?slot=${slot.slug}`}>
                find a stand-in
              </Link>
            )}
          </p>
        ) : (
          <p className="mb-2 text-soft">Nothing fills it yet: add a candidate.</p>
        )}
        <StyleLines
          target={slot.target}
          series={slot.candidates.slice(0, 4).flatMap((c) => {
            const i = bySlug(book.ingredients, c.ingredient)
            return i ? [{ label: nameIn(book.ingredients, i.slug), profile: book.profiles?.[c.ingredient] ?? {} }] : []
          })}
        />
        <Others slot={slot} mayEdit={mayEdit} onAdd={(ingredient) => addCandidate(draft, ingredient)} />
        <UsedIn slot={slot} />
      </aside>
    </div>
  )
}
