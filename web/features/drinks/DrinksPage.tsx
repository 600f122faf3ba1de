import { type DrinkListing, drinkSchema, mayDo } from '@conch/contract'
import { formOf } from '@conch/core/schema'
import { useQueries, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, lazy, Suspense, useCallback, useState } from 'react'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { ApiError, api } from '../../app/api.ts'
import { DRINKS_KEY, drinkPageQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { Seal } from '../../graphics/Seal.tsx'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'
import { SearchField } from '../../ui/SearchField.tsx'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { VirtualRows } from '../../ui/VirtualRows.tsx'

const drinkForm = formOf(drinkSchema)
const PasteSpec = lazy(() => import('./PasteSpec.tsx').then((m) => ({ default: m.PasteSpec })))

/** Rows that are fetched together. */
const ROWS_AT_ONCE = 100
const ROW_PX = 45
/** How long one waits for the next letter. */
const TYPING_MS = 150

/** Every drink the house ever wrote, on the menu or not. What is looked for stands in the address. */
export function DrinksPage() {
  const who = useWho()
  const [search, setSearch] = useSearchParams()
  const [isNew, setNew] = useState(false)
  const [isPasting, setPasting] = useState(false)
  const [pages, setPages] = useState<readonly number[]>([0])
  const words = search.get('words') ?? ''
  const hidden = search.get('hidden') === 'with' ? ('with' as const) : undefined
  const put = (key: string, value: string | undefined) =>
    setSearch(
      (before) => {
        const next = new URLSearchParams(before)
        if (value) next.set(key, value)
        else next.delete(key)
        return next
      },
      { replace: true },
    )
  const asked = { words, ...(hidden ? { hidden } : {}), limit: ROWS_AT_ONCE }
  const first = useQuery(drinkPageQuery({ ...asked, from: 0 }))
  const more = useQueries({
    queries: pages.filter((p) => p > 0).map((p) => drinkPageQuery({ ...asked, from: p * ROWS_AT_ONCE })),
    combine: (all) => all.flatMap((q) => q.data ?? []),
  })
  const onRange = useCallback((from: number, to: number) => {
    const wanted = [Math.floor(from / ROWS_AT_ONCE), Math.floor(to / ROWS_AT_ONCE)]
    setPages((before) => (before.join() === wanted.join() ? before : wanted))
  }, [])
  if (first.isPending) return <Loading what="the drinks" />
  if (!first.data) return <Failure error={first.error} onRetry={() => first.refetch()} />
  const { total, hidden: hiddenCount, isNear } = first.data
  const rowAt = (index: number) => [first.data, ...more].flatMap((page) => page.rows[index - page.from] ?? []).at(0)
  return (
    <div className="px-4 pt-4 pb-10">
      <header className="mb-3 flex flex-wrap items-center gap-3">
        <div className="mr-auto">
          <h1 className="text-3xl">Drinks</h1>
          <p className="caption" role="status">
            {words === '' ? `${total} by name` : isNear ? '' : `${total} found`}
          </p>
        </div>
        <SearchField label="Find a drink" value={words} waitMs={TYPING_MS} onChange={(value) => put('words', value)} />
        {mayDo(who.role, 'saveDraft') && (
          <>
            <button type="button" className="act" onClick={() => setPasting(true)}>
              Paste a spec
            </button>
            <button type="button" className="act act-main" onClick={() => setNew(true)}>
              New drink
            </button>
          </>
        )}
      </header>
      {total === 0 && words === '' && (
        <Empty title="No drink is written yet">
          Begin with a name: a first draft with one pour is waiting behind it.
        </Empty>
      )}
      {total === 0 && words !== '' && <p className="text-soft">No drink is called “{words}”, nor anything near it.</p>}
      {isNear && (
        <p className="mb-1 text-soft" role="status">
          No drink is called “{words}”. Near it:
        </p>
      )}
      <VirtualRows
        key={`${words} ${hidden}`}
        label="Drinks"
        count={total}
        rowPx={ROW_PX}
        onRange={onRange}
        row={(index) => <DrinkRow drink={rowAt(index)} />}
      />
      {hiddenCount > 0 && (
        <button
          type="button"
          className="act act-quiet mt-3 text-soft"
          onClick={() => put('hidden', hidden ? undefined : 'with')}
        >
          {hidden ? 'Leave out what is hidden' : `Show ${hiddenCount} hidden`}
        </button>
      )}
      {isPasting && (
        <Suspense fallback={null}>
          <PasteSpec onClose={() => setPasting(false)} />
        </Suspense>
      )}
      <NewDrink isOpen={isNew} onClose={() => setNew(false)} />
    </div>
  )
}

function DrinkRow({ drink: d }: { drink: DrinkListing | undefined }) {
  if (!d) return <span className="flex min-h-11 items-center pl-8 text-soft">…</span>
  return (
    <Link to={`/drinks/${d.slug}`} className="flex min-h-11 items-center gap-3 py-1 hover:bg-shoal max-sm:min-h-12">
      <span className="w-5">{d.pouredVersion !== null && <Seal title="poured today" />}</span>
      <span className="min-w-0 flex-1 truncate text-[1.05rem]">{d.name}</span>
      <span className="caption">{describe(d)}</span>
    </Link>
  )
}

function describe(d: DrinkListing): string {
  const words = [
    d.isHidden ? 'hidden' : undefined,
    d.hasDraft ? 'draft' : undefined,
    d.plannedVersion !== null && d.plannedVersion !== d.pouredVersion ? `v${d.plannedVersion} next` : undefined,
    d.pouredVersion !== null ? `v${d.pouredVersion} poured` : undefined,
    d.versionCount === 0 ? 'no version yet' : `${d.versionCount} ${d.versionCount === 1 ? 'version' : 'versions'}`,
  ]
  return words.filter(Boolean).join(' · ')
}

function NewDrink({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const [name, setName] = useState('')
  const [error, setError] = useState<string>()
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  const make = async (event: FormEvent) => {
    event.preventDefault()
    if (name.trim() === '') {
      setError('Give it a name; it can be changed later.')
      return
    }
    try {
      const drink = await api.post('/api/drinks', drinkForm, { name })
      await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
      navigate(`/drinks/${drink.slug}`)
    } catch (e) {
      setError(e instanceof ApiError ? e.message : String(e))
    }
  }
  return (
    <Dialog isOpen={isOpen} onClose={onClose} title="New drink">
      <form onSubmit={make}>
        <Field label="Name" error={error}>
          {(props) => <input {...props} maxLength={120} value={name} onChange={(e) => setName(e.target.value)} />}
        </Field>
        <DialogButtons close="Not yet" onClose={onClose} main="Begin" />
      </form>
    </Dialog>
  )
}
