import { changedSchema, mayDo, type ShelfRows } from '@conch/contract'
import { bySlug, type HouseBook, type ShelfSort, toSlug } from '@conch/core/house'
import { useQueryClient } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { NameDialog } from '../../app/NameDialog.tsx'
import { refreshHouse } from '../../app/queries.ts'
import { shelfRowList, useFirstThings, useShelf, useShelfOf } from '../../app/shelf.ts'
import { useAddress } from '../../app/useAddress.ts'
import { useWho } from '../../app/who.ts'
import type { ListColumn } from '../../list/columns.ts'
import { ListPage, useListSort } from '../../list/ListPage.tsx'
import { useRows } from '../../list/useRows.ts'
import { placeOf } from '../../shelf/placeOf.ts'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { LotWords } from '../lots/index.ts'

const JUICES = { shown: 'juice' as const }
type Row = ShelfRows['rows'][number]
const ROW_PX = 58

/** What a mix comes to, with what this device knows of the shelf. */
const columnsOf = (book: HouseBook): readonly ListColumn<Row>[] => {
  const partsOf = ({ ingredient: { recipe } }: Row) =>
    recipe?.components.map((c) => bySlug(book.ingredients, c.ingredient)?.name ?? '…').join(', ') ?? 'sealed'
  const brixOf = (row: Row) => book.mixes?.[row.ingredient.slug]?.brix
  const figure = (
    id: 'abvPct' | 'sugarGPer100Ml' | 'acidGPer100Ml',
    label: string,
    digits: number,
  ): ListColumn<Row> => ({
    id,
    label,
    sort: id,
    isDownFirst: true,
    from: 'sm',
    width: '4.500rem',
    isRight: true,
    cell: ({ ingredient }) => dot(ingredient.figures[id].value, digits),
    csv: ({ ingredient }) => Number(ingredient.figures[id].value.toFixed(digits)),
  })
  return [
    {
      id: 'name',
      label: 'mix, and what is in it',
      sort: 'name',
      width: 'minmax(0, 1fr)',
      cell: (row) => (
        <span className="block min-w-0 py-1">
          <span className="block sm:truncate text-[1.05rem]">{row.name}</span>
          <span className="caption block truncate max-sm:hidden">{partsOf(row)}</span>
          {book.mixes?.[row.ingredient.slug]?.problems.map((p) => (
            <span key={p} className="block text-sm text-stop">
              {p}
            </span>
          ))}
        </span>
      ),
      csv: (row) => row.name,
    },
    {
      id: 'brix',
      label: '°Bx',
      width: '3.500rem',
      isRight: true,
      cell: (row) => brixOf(row)?.toFixed(1) ?? '—',
      csv: (row) => brixOf(row)?.toFixed(1) ?? '',
    },
    figure('abvPct', 'strength, %', 1),
    figure('sugarGPer100Ml', 'sugar, g/100', 1),
    figure('acidGPer100Ml', 'acid, g/100', 2),
    {
      id: 'lot',
      label: 'lot',
      width: 'minmax(7.500rem, 0.350fr)',
      cell: (row) => (
        <span className="relative z-1">
          <LotWords lot={book.mixes?.[row.ingredient.slug]?.lot} />
        </span>
      ),
      csv: (row) => book.mixes?.[row.ingredient.slug]?.lot?.id ?? '',
    },
    {
      id: 'inMixes',
      label: 'in mixes',
      from: 'md',
      width: '4rem',
      isRight: true,
      cell: (row) => row.inMixes || '·',
      csv: (row) => row.inMixes,
    },
  ]
}

/** What the house makes itself: each mix a line, with its figures and the lot that is poured. */
export function MixesPage() {
  const { book, house } = useHouse()
  const who = useWho()
  const { search } = useAddress()
  const [isNew, setNew] = useState(false)
  const words = search.get('words') ?? ''
  const columns = useMemo(() => columnsOf(book), [book])
  const { sort } = useListSort('mixes', columns, { by: 'name', isDown: false })
  const { first, rows } = useRows<Row, ShelfRows>(
    shelfRowList({
      words,
      shown: 'mixes',
      sort: sort.by === '' ? undefined : (sort.by as ShelfSort),
      down: sort.isDown ? 'yes' : undefined,
    }),
  )
  // What is in them, and the lots that stand for them.
  useShelfOf(rows.known.map((r) => r.ingredient.slug))
  const juices = useShelf(JUICES)
  if (first.isPending) return <Loading what="the mixes" />
  if (!first.data) return <Failure error={first.error} onRetry={() => first.refetch()} />
  const { counts } = first.data
  const pressed = house.ingredients.filter((i) => juices.picked.includes(i.slug))
  return (
    <ListPage
      list="mixes"
      title="House mixes"
      noun="mix"
      said={
        <>
          {counts.mixes} made here ·{' '}
          <Link className="underline" to="/lots?open=yes">
            {counts.openLots} lots open
          </Link>
        </>
      }
      rows={rows}
      columns={columns}
      sort={sort}
      rowPx={ROW_PX}
      idOf={(r) => r.ingredient.slug}
      nameOf={(r) => r.name}
      opens={(r) => placeOf(r.ingredient)}
      buttons={
        <>
          {counts.openLots > 0 && (
            <a className="act" href="/api/labels.pdf?lots=open" target="_blank" rel="noreferrer">
              Labels of all open lots
            </a>
          )}
          {mayDo(who.role, 'editHouse') && (
            <button type="button" className="act act-main" onClick={() => setNew(true)}>
              New mix
            </button>
          )}
        </>
      }
      empty={
        <Empty title="Nothing is made here yet">
          A syrup, a nut milk, a sharpened juice: write what goes in, and its strength, sugar, acid, allergens, cost and
          days follow.
        </Empty>
      }
    >
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
    </ListPage>
  )
}

const spreadWords = ({ spreadMl, pressings }: { spreadMl: number; pressings: number }) =>
  pressings > 1 ? `± ${spreadMl.toFixed(0)}` : `± ${spreadMl.toFixed(0)} assumed`

const dot = (value: number, digits: number) => (value < 0.5 * 10 ** -digits ? '·' : value.toFixed(digits))

function NewMix({ onClose }: { onClose: () => void }) {
  const begin = useFirstThings({ words: 'water' }, { shown: 'syrup' }, { shown: 'all', limit: 1 })
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  const make = async (name: string) => {
    const slug = toSlug(name)
    const unknown = { value: 0, basis: 'assumed' as const }
    const [ingredient] = await begin()
    if (!ingredient) throw new Error('Put something on the back bar first: a mix is made of what is there.')
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
  }
  return <NameDialog title="New mix" onClose={onClose} onName={make} />
}
