import { changedSchema, mayDo } from '@conch/contract'
import { bySlug, toSlug } from '@conch/core/house'
import { useInfiniteQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { ApiError, api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { refreshHouse } from '../../app/queries.ts'
import { shelfRowsQuery, useFirstThings, useShelf, useShelfOf } from '../../app/shelf.ts'
import { useWho } from '../../app/who.ts'
import { placeOf } from '../../shelf/placeOf.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { Field } from '../../ui/Field.tsx'
import { MoreRows } from '../../ui/MoreRows.tsx'
import { SearchField } from '../../ui/SearchField.tsx'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { LotWords } from '../lots/LotWords.tsx'

const TYPING_MS = 150
const JUICES = { shown: 'juice' as const }

/** What the house makes itself: each mix a line, with its figures and the lot that is poured. */
export function MixesPage() {
  const { book, house } = useHouse()
  const who = useWho()
  const [search, setSearch] = useSearchParams()
  const [isNew, setNew] = useState(false)
  const wanted = search.get('words') ?? ''
  const list = useInfiniteQuery(
    shelfRowsQuery({ words: wanted, shown: 'mixes', sort: wanted === '' ? 'name' : undefined }),
  )
  const rows = list.data?.pages.flatMap((p) => p.rows) ?? []
  const first = list.data?.pages[0]
  const counts = first?.counts
  // What is in them, and the lots that stand for them.
  useShelfOf(rows.map((r) => r.ingredient.slug))
  const juices = useShelf(JUICES)
  if (list.isPending) return <Loading what="the mixes" />
  if (!list.data) return <Failure error={list.error} onRetry={() => list.refetch()} />
  const pressed = house.ingredients.filter((i) => juices.picked.includes(i.slug))
  const mixCount = counts?.mixes ?? 0
  return (
    <div className="px-4 pt-4 pb-10">
      <header className="mb-3 flex flex-wrap items-center gap-3">
        <div className="mr-auto">
          <h1 className="text-3xl">House mixes</h1>
          <p className="caption">
            {mixCount} made here ·{' '}
            <Link className="underline" to="/lots">
              {counts?.openLots ?? 0} lots open
            </Link>
          </p>
        </div>
        <SearchField
          label="Find a mix"
          value={wanted}
          waitMs={TYPING_MS}
          onChange={(words) => setSearch(words ? { words } : {}, { replace: true })}
        />
        {(counts?.openLots ?? 0) > 0 && (
          <a className="act" href="/api/labels.pdf?lots=open" target="_blank" rel="noreferrer">
            Labels of all open lots
          </a>
        )}
        {mayDo(who.role, 'editHouse') && (
          <button type="button" className="act act-main" onClick={() => setNew(true)}>
            New mix
          </button>
        )}
      </header>
      {mixCount === 0 && (
        <Empty title="Nothing is made here yet">
          A syrup, a nut milk, a sharpened juice: write what goes in, and its strength, sugar, acid, allergens, cost and
          days follow.
        </Empty>
      )}
      {mixCount > 0 && (rows.length === 0 || first?.isNear) && (
        <p className="text-soft" role="status">
          No mix is called “{wanted}”{rows.length > 0 ? '. Near it:' : ', nor anything near it.'}
        </p>
      )}
      <div className="overflow-x-auto">
        <table className="w-full max-w-6xl">
          {rows.length > 0 && (
            <thead>
              <tr className="caption border-b border-ink text-right">
                <th className="text-left font-normal">mix, and what is in it</th>
                <th className="px-2 font-normal">°Bx</th>
                <th className="px-2 font-normal max-sm:hidden">strength, %</th>
                <th className="px-2 font-normal max-sm:hidden">sugar, g/100 ml</th>
                <th className="px-2 font-normal max-sm:hidden">acid, g/100 ml</th>
                <th className="px-2 text-left font-normal">lot</th>
                <th className="px-2 font-normal max-sm:hidden">in mixes</th>
              </tr>
            </thead>
          )}
          <tbody>
            {rows.map(({ ingredient: i, name, inMixes }) => {
              const facts = book.mixes?.[i.slug]
              const parts = i.recipe?.components.map((c) => bySlug(book.ingredients, c.ingredient)?.name ?? '…')
              return (
                <tr key={i.slug} className="border-b border-hair/60 text-right hover:bg-shoal">
                  <th scope="row" className="py-1 text-left font-normal">
                    <Link to={placeOf(i)} className="block text-[1.05rem] hover:underline max-sm:min-h-11">
                      {name}
                    </Link>
                    <span className="caption max-sm:hidden">{parts?.join(', ') ?? 'sealed'}</span>
                    {facts?.problems.map((p) => (
                      <span key={p} className="block text-sm text-stop">
                        {p}
                      </span>
                    ))}
                  </th>
                  <td className="px-2">{facts?.brix?.toFixed(1) ?? '—'}</td>
                  <td className="px-2 max-sm:hidden">{dot(i.figures.abvPct.value, 1)}</td>
                  <td className="px-2 max-sm:hidden">{dot(i.figures.sugarGPer100Ml.value, 1)}</td>
                  <td className="px-2 max-sm:hidden">{dot(i.figures.acidGPer100Ml.value, 2)}</td>
                  <td className="px-2 text-left">
                    <LotWords lot={facts?.lot} />
                  </td>
                  <td className="px-2 max-sm:hidden">{inMixes || '·'}</td>
                </tr>
              )
            })}
          </tbody>
        </table>
      </div>
      {list.hasNextPage && (
        <MoreRows
          left={(first?.total ?? 0) - rows.length}
          isBusy={list.isFetchingNextPage}
          onMore={() => void list.fetchNextPage()}
        />
      )}
      {pressed.length > 0 && (
        <section aria-label="Pressed juice" className="mt-8 max-w-6xl">
          <h2 className="border-b border-ink text-lg">Pressed juice</h2>
          <ul>
            {pressed.map((i) => {
              const each = house.fruitYields[i.slug]
              return (
                <li key={i.slug} className="flex flex-wrap items-center gap-x-4 border-b border-hair/60 py-1">
                  <Link
                    to={`/mixes/${i.slug}/make`}
                    className="min-w-44 text-[1.05rem] hover:underline max-sm:min-h-11"
                  >
                    {i.name}
                  </Link>
                  <span className="text-sm">
                    {each
                      ? `${each.mlPerFruit.toFixed(0)} ml a fruit, ${spreadWords(each)}`
                      : 'nobody has said how much a fruit gives'}
                  </span>
                  <span className="caption mr-auto">
                    {each?.basis === 'measured'
                      ? `${each.pressings} ${each.pressings === 1 ? 'pressing' : 'pressings'}`
                      : 'assumed: nobody has pressed it here'}
                  </span>
                  <LotWords lot={book.mixes?.[i.slug]?.lot} />
                </li>
              )
            })}
          </ul>
        </section>
      )}
      {isNew && <NewMix onClose={() => setNew(false)} />}
    </div>
  )
}

const spreadWords = ({ spreadMl, pressings }: { spreadMl: number; pressings: number }) =>
  pressings > 1 ? `± ${spreadMl.toFixed(0)}` : `± ${spreadMl.toFixed(0)} assumed`

const dot = (value: number, digits: number) => (value < 0.5 * 10 ** -digits ? '·' : value.toFixed(digits))

function NewMix({ onClose }: { onClose: () => void }) {
  const begin = useFirstThings({ words: 'water' }, { shown: 'syrup' }, { shown: 'all', limit: 1 })
  const [name, setName] = useState('')
  const [error, setError] = useState<string>()
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  const make = async (event: FormEvent) => {
    event.preventDefault()
    const slug = toSlug(name)
    if (slug === '') return setError('Give it a name.')
    const unknown = { value: 0, basis: 'assumed' as const }
    const [ingredient] = await begin()
    if (!ingredient) return setError('Put something on the back bar first: a mix is made of what is there.')
    try {
      await api.put(`/api/ingredients/${slug}`, changedSchema, {
        document: {
          slug,
          name,
          kind: 'houseMix',
          figures: { abvPct: unknown, sugarGPer100Ml: unknown, acidGPer100Ml: unknown },
          storedIn: 'fridge',
          recipe: { by: 'weight', components: [{ ingredient, amount: 100 }] },
        },
        revision: 0,
      })
      await refreshHouse(queryClient)
      navigate(`/mixes/${slug}`)
    } catch (e) {
      setError(e instanceof ApiError ? e.message : String(e))
    }
  }
  return (
    <Dialog isOpen onClose={onClose} title="New mix">
      <form onSubmit={make}>
        <Field label="Name" error={error}>
          {(props) => <input {...props} maxLength={120} value={name} onChange={(e) => setName(e.target.value)} />}
        </Field>
        <DialogButtons close="Not yet" onClose={onClose} main="Begin" />
      </form>
    </Dialog>
  )
}
