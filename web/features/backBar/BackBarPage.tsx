import { mayDo, type ShelfRows } from '@conch/contract'
import {
  bySlug,
  currencyOf,
  type Figure,
  INGREDIENT_KINDS,
  type Ingredient,
  isHomework,
  isWeighed,
  PLACES,
  pricePerThousand,
  SHELF_SHOWN,
  type ShelfSort,
  STOCK_STATES,
} from '@conch/core/house'
import { keysOf } from '@conch/core/schema/keysOf'
import { lazy, Suspense, useMemo, useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { shelfRowList, useShelfOf } from '../../app/shelf.ts'
import { useAddress } from '../../app/useAddress.ts'
import { useWho } from '../../app/who.ts'
import { moneyText } from '../../graphics/format.ts'
import type { ListColumn } from '../../list/columns.ts'
import { ListPage, useListSort } from '../../list/ListPage.tsx'
import { useRows } from '../../list/useRows.ts'
import { IngredientDialog } from '../../shelf/IngredientDialog.tsx'
import { placeOf } from '../../shelf/placeOf.ts'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { BulkEdit } from './BulkEdit.tsx'

const BottleTableDialog = lazy(() => import('./BottleTableDialog.tsx').then((m) => ({ default: m.BottleTableDialog })))

type Row = ShelfRows['rows'][number]
const ROW_PX = 37
const STOCK_TONES = { stocked: '', low: 'text-mind', out: 'text-stop font-semibold', discontinued: 'text-stop' }
const FIGURES = {
  abvPct: { label: 'strength, %', digits: 1 },
  sugarGPer100Ml: { label: 'sugar, g/100', digits: 1 },
  acidGPer100Ml: { label: 'acid, g/100', digits: 2 },
} as const
/** Less than that is nothing. */
const LEAST_FIGURE = 0.005

const columnsIn = (currency: string): readonly ListColumn<Row>[] => [
  {
    id: 'name',
    label: 'name',
    sort: 'name',
    width: 'minmax(9rem, 1fr)',
    cell: ({ ingredient: { stock }, name }) => (
      <>
        <span className="min-w-0 sm:truncate">{name}</span>
        {stock && stock !== 'stocked' && (
          <span className={`text-sm whitespace-nowrap ${STOCK_TONES[stock]}`}>{STOCK_STATES[stock]}</span>
        )}
      </>
    ),
    csv: (row) => row.name,
  },
  {
    id: 'kind',
    label: 'kind',
    sort: 'shelf',
    from: 'lg',
    width: '8rem',
    cell: ({ ingredient }) => <span className="text-sm text-soft">{INGREDIENT_KINDS[ingredient.kind]}</span>,
    csv: ({ ingredient }) => INGREDIENT_KINDS[ingredient.kind],
  },
  ...keysOf(FIGURES).map(
    (id): ListColumn<Row> => ({
      id,
      label: FIGURES[id].label,
      sort: id,
      isDownFirst: true,
      ...(id === 'acidGPer100Ml' ? { from: 'sm' as const } : {}),
      width: 'minmax(3.500rem, 5.500rem)',
      isRight: true,
      cell: ({ ingredient }) => <FigureWords figure={ingredient.figures[id]} digits={FIGURES[id].digits} />,
      csv: ({ ingredient }) => Number(ingredient.figures[id].value.toFixed(FIGURES[id].digits)),
    }),
  ),
  {
    id: 'price',
    label: 'a litre',
    sort: 'price',
    isDownFirst: true,
    from: 'md',
    width: '5.500rem',
    isRight: true,
    cell: ({ ingredient }) => {
      const price = pricePerThousand(ingredient)
      return (
        <span className="text-sm text-soft">
          {price === undefined ? '·' : moneyText(price, currency)}
          {isWeighed(ingredient.kind) && price !== undefined && ' kg'}
        </span>
      )
    },
    csv: ({ ingredient }) => pricePerThousand(ingredient)?.toFixed(2) ?? '',
  },
  {
    id: 'stock',
    label: 'stock',
    isExtra: true,
    width: '6rem',
    cell: ({ ingredient: { stock } }) => <span className="text-sm">{stock ? STOCK_STATES[stock] : ''}</span>,
    csv: ({ ingredient: { stock } }) => (stock ? STOCK_STATES[stock] : ''),
  },
  {
    id: 'know',
    label: 'kept, and what to know',
    from: 'md',
    width: 'minmax(0, 1.300fr)',
    cell: ({ ingredient }) => (
      <span className="caption block truncate" title={knowOf(ingredient)}>
        {knowOf(ingredient)}
      </span>
    ),
    csv: ({ ingredient }) => knowOf(ingredient),
  },
]

/** Everything the house can pour, with figures and how we know them. What is looked for stands in the address. */
export function BackBarPage() {
  const { house, book } = useHouse()
  const who = useWho()
  const { search, put } = useAddress()
  const [hasTable, setTable] = useState(false)
  const mayEdit = mayDo(who.role, 'editHouse')
  const currency = currencyOf(book.settings)
  const columns = useMemo(() => columnsIn(currency), [currency])
  const words = search.get('words') ?? ''
  const shown = readKey(SHELF_SHOWN, search.get('shown')) ?? 'all'
  const { sort, isAsked } = useListSort('back-bar', columns, { by: 'shelf', isDown: false })
  const { first, rows } = useRows<Row, ShelfRows>(
    shelfRowList({
      words,
      shown: shown === 'all' ? undefined : shown,
      sort: isAsked ? (sort.by as ShelfSort) : undefined,
      down: sort.isDown ? 'yes' : undefined,
    }),
  )
  const asked = search.get('open')
  // What is changed is what is typed, not what a lot makes of it.
  useShelfOf(asked && asked !== 'new' ? [asked] : [])
  const open = asked === 'new' ? 'new' : bySlug(house.ingredients, asked ?? undefined)
  if (first.isPending) return <Loading what="the back bar" />
  if (!first.data) return <Failure error={first.error} onRetry={() => first.refetch()} />
  const { counts } = first.data
  return (
    <ListPage
      list="back-bar"
      title="Back bar"
      noun="thing on the shelf"
      find="Find on the back bar"
      hint="Find by any name it had"
      said={
        <>
          {counts.all} things ·{' '}
          {counts.homework === 0 ? (
            'every figure is measured or from a label'
          ) : (
            <button type="button" className="underline" onClick={() => put({ shown: 'homework' })}>
              {counts.homework} with a figure that is only assumed (≈): homework
            </button>
          )}
        </>
      }
      rows={rows}
      columns={columns}
      sort={sort}
      rowPx={ROW_PX}
      idOf={(r) => r.ingredient.slug}
      nameOf={(r) => r.name}
      opens={({ ingredient: i }) => (i.recipe || i.closed ? placeOf(i) : () => put({ open: i.slug }, true))}
      heading={
        sort.by === 'shelf' && words === ''
          ? ({ ingredient: { kind } }, before) =>
              before?.ingredient.kind === kind ? undefined : INGREDIENT_KINDS[kind]
          : undefined
      }
      whatToDo={mayEdit ? (picked, unpick) => <BulkEdit slugs={picked} onDone={unpick} /> : undefined}
      filters={
        <select
          aria-label="What is shown"
          className="field w-auto max-w-44"
          value={shown}
          onChange={(e) => put({ shown: e.target.value === 'all' ? undefined : e.target.value })}
        >
          {Object.entries(SHELF_SHOWN).map(([key, label]) => (
            <option key={key} value={key}>
              {label}
            </option>
          ))}
        </select>
      }
      buttons={
        <>
          <button type="button" className="act max-sm:hidden" onClick={() => setTable(true)}>
            As a table …
          </button>
          {mayEdit && (
            <button type="button" className="act act-main" onClick={() => put({ open: 'new' }, true)}>
              Put on the shelf
            </button>
          )}
        </>
      }
      empty={<Empty title="Nothing to show">Choose another part of the shelf above.</Empty>}
    >
      {open && (
        <IngredientDialog
          key={asked}
          ingredient={open === 'new' ? undefined : open}
          onClose={() => put({ open: undefined })}
        />
      )}
      {hasTable && (
        <Suspense fallback={null}>
          <BottleTableDialog onClose={() => setTable(false)} />
        </Suspense>
      )}
    </ListPage>
  )
}

const readKey = <K extends string>(keys: Record<K, unknown>, asked: string | null): K | undefined =>
  keysOf(keys).find((key) => key === asked)

/** Where it is kept, and what one should know of it. */
function knowOf(i: Ingredient): string {
  const know = [
    i.style ?? '',
    PLACES[i.storedIn],
    i.allergens.length > 0 ? `contains ${i.allergens.join(', ')}` : '',
    i.formerNames.length > 0 ? `once ${i.formerNames.join(', ')}` : '',
    i.isFoodGrade === false ? 'not food' : '',
    i.note ?? '',
  ]
  return know.filter(Boolean).join(' · ')
}

function FigureWords({ figure, digits }: { figure: Figure; digits: number }) {
  if (figure.value < LEAST_FIGURE) return <span title={basisText(figure)}>·</span>
  const value = Number(figure.value.toFixed(digits))
  if (!isHomework(figure)) return <span title={basisText(figure)}>{value}</span>
  return (
    <span
      className="relative z-1 text-soft italic"
      role="img"
      data-mark="about"
      aria-label={`about ${value}, ${basisText(figure)}`}
    >
      ≈ {value}
    </span>
  )
}

const BASIS_WORDS = {
  measured: 'measured',
  label: 'from the label',
  recipe: 'by its recipe',
  assumed: 'assumed',
  unknown: 'nobody knows it',
}

function basisText({ basis, on, by }: Figure): string {
  return [BASIS_WORDS[basis], on, by].filter(Boolean).join(', ')
}
