import { mayDo } from '@conch/contract'
import { bySlug, toSlug } from '@conch/core/house'
import { resolveSlot, type Slot } from '@conch/core/style'
import { Link, useNavigate, useParams } from 'react-router'
import { useCommands } from '../../app/commands.tsx'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { StyleLines } from '../../graphics/StyleLines.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import { Failure } from '../../ui/States.tsx'
import { addCandidate, Candidates } from './Candidates.tsx'
import { Others } from './Others.tsx'
import { Refused } from './Refused.tsx'
import { Target } from './Target.tsx'
import { UsedIn } from './UsedIn.tsx'
import { useSlotDraft } from './useSlotDraft.ts'

const NEW: Slot = {
  slug: '',
  name: '',
  target: {},
  abvPct: { low: 38, high: 46 },
  candidates: [],
  pick: '',
  refused: [],
}

export function SlotPage() {
  const { slug = '' } = useParams()
  const { house } = useHouse()
  const saved = slug === 'new' ? NEW : bySlug(house.slots, slug)
  if (!saved) return <Failure error={`There is no slot “${slug}”.`} />
  return <OpenSlot key={slug} saved={saved} isNew={slug === 'new'} />
}

/** What a bottle must be: a place on the lines, a strength, what may fill it in which order, and what may not. */
function OpenSlot({ saved, isNew }: { saved: Slot; isNew: boolean }) {
  const { book, well } = useHouse()
  const who = useWho()
  const navigate = useNavigate()
  const draft = useSlotDraft(saved, isNew)
  const { slot, change, problems } = draft
  const mayEdit = mayDo(who.role, 'editHouse')
  const save = async () => {
    if ((await draft.save()) && isNew) navigate(`/slots/${slot.slug}`)
  }
  useCommands(
    () =>
      draft.isChanged ? [{ id: 'save-slot', label: 'Save the slot', group: 'do', keys: 'mod+s', perform: save }] : [],
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
          <h1 className="min-w-0 flex-1 text-3xl break-words">
            {mayEdit ? (
              <input
                aria-label="Name"
                className="inplace w-full"
                maxLength={120}
                placeholder="Name of the slot"
                value={slot.name}
                onChange={(e) => change({ name: e.target.value, ...(isNew ? { slug: toSlug(e.target.value) } : {}) })}
              />
            ) : (
              slot.name
            )}
          </h1>
          {draft.isChanged && (
            <div className="no-print flex flex-wrap items-center gap-1">
              <span role="status" className="text-sm text-soft">
                not saved: kept on this device
              </span>
              <button type="button" className="act act-quiet" disabled={!draft.canUndo} onClick={draft.undo}>
                Undo
              </button>
              <button type="button" className="act act-quiet" onClick={draft.drop}>
                Drop
              </button>
              <button type="button" className="act act-main" disabled={slot.slug === ''} onClick={save}>
                Save the slot
              </button>
            </div>
          )}
        </header>
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
            low={0}
            high={100}
            isReadOnly={!mayEdit}
            onChange={(low) => change({ abvPct: { ...slot.abvPct, low } })}
          />{' '}
          to{' '}
          <NumberField
            label="Highest strength"
            value={slot.abvPct.high}
            low={0}
            high={100}
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
            <b className="font-semibold">{poured.ingredient.name}</b>
            {poured.insteadOf && <span className="block text-mind">▲ {poured.insteadOf.name} is out</span>}
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
            return i ? [{ label: i.name, profile: book.profiles?.[c.ingredient] ?? {} }] : []
          })}
        />
        <Others slot={slot} mayEdit={mayEdit} onAdd={(ingredient) => addCandidate(draft, ingredient)} />
        <UsedIn slot={slot} />
      </aside>
    </div>
  )
}
