import { mayDo } from '@conch/contract'
import {
  bySlug,
  type Figure,
  INGREDIENT_KINDS,
  type Ingredient,
  isHomework,
  isWeighed,
  PLACES,
  pricePerThousand,
  SHELF_SHOWN,
  SHELF_SORTS,
  type ShelfSort,
  STOCK_STATES,
} from '@conch/core/house'
import { useInfiniteQuery } from '@tanstack/react-query'
import { type KeyboardEvent, lazy, Suspense, useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { shelfRowsQuery, useShelfOf } from '../../app/shelf.ts'
import { useWho } from '../../app/who.ts'
import { moneyText } from '../../graphics/format.ts'
import { IngredientDialog } from '../../shelf/IngredientDialog.tsx'
import { placeOf } from '../../shelf/placeOf.ts'
import { MoreRows } from '../../ui/MoreRows.tsx'
import { SearchField } from '../../ui/SearchField.tsx'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { BulkEdit } from './BulkEdit.tsx'

const BottleTableDialog = lazy(() => import('./BottleTableDialog.tsx').then((m) => ({ default: m.BottleTableDialog })))

const TYPING_MS = 150

/** Everything the house can pour, with figures and how we know them. What is looked for stands in the address. */
export function BackBarPage() {
  const { house } = useHouse()
  const who = useWho()
  const [search, setSearch] = useSearchParams()
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set())
  const [hasTable, setTable] = useState(false)
  const mayEdit = mayDo(who.role, 'editHouse')
  const put = (change: Record<string, string | undefined>, isNew = false) =>
    setSearch(
      (before) => {
        const next = new URLSearchParams(before)
        for (const [key, value] of Object.entries(change))
          if (value) next.set(key, value)
          else next.delete(key)
        return next
      },
      { replace: !isNew },
    )
  const wanted = search.get('words') ?? ''
  const shown = readKey(SHELF_SHOWN, search.get('shown')) ?? 'all'
  const sort = readKey(SHELF_SORTS, search.get('sort')) ?? 'shelf'
  const isDown = search.get('down') === 'yes'
  const list = useInfiniteQuery(
    shelfRowsQuery({
      words: wanted,
      shown: shown === 'all' ? undefined : shown,
      sort: search.has('sort') ? sort : undefined,
      down: isDown ? 'yes' : undefined,
    }),
  )
  const asked = search.get('open')
  // What is changed is what is typed, not what a lot makes of it.
  const isKnown = useShelfOf([...picked, ...(asked && asked !== 'new' ? [asked] : [])]).isReady
  const open = asked === 'new' ? 'new' : bySlug(house.ingredients, asked ?? undefined)
  if (list.isPending) return <Loading what="the back bar" />
  if (!list.data) return <Failure error={list.error} onRetry={() => list.refetch()} />
  const [first] = list.data.pages
  const counts = first?.counts
  const all = list.data.pages.flatMap((p) => p.rows)
  const rows = all.map((r) => r.ingredient)
  const nameOf = new Map(all.map((r) => [r.ingredient.slug, r.name]))
  const homeworkCount = counts?.homework ?? 0
  const left = (first?.total ?? 0) - rows.length
  const sortBy = (next: ShelfSort) => put({ sort: next, down: sort === next && !isDown ? 'yes' : undefined })
  const pick = (slug: string, on: boolean) => {
    const next = new Set(picked)
    if (on) next.add(slug)
    else next.delete(slug)
    setPicked(next)
  }
  const header = (key: ShelfSort, words: string, className = '') => (
    <th
      scope="col"
      aria-sort={sort === key ? (isDown ? 'descending' : 'ascending') : undefined}
      className={`caption px-2 text-right font-normal ${className}`}
    >
      <button type="button" className="min-h-8 hover:underline max-sm:min-h-11" onClick={() => sortBy(key)}>
        {words}
        {sort === key && (isDown ? ' ↓' : ' ↑')}
      </button>
    </th>
  )
  return (
    <div className="px-4 pt-4 pb-10">
      <header className="mb-3 flex flex-wrap items-center gap-2">
        <div className="mr-auto">
          <h1 className="text-3xl">Back bar</h1>
          <p className="caption">
            {counts?.all ?? 0} things ·{' '}
            {homeworkCount === 0 ? (
              'every figure is measured or from a label'
            ) : (
              <button type="button" className="underline" onClick={() => put({ shown: 'homework' })}>
                {homeworkCount} with a figure that is only assumed (≈): homework
              </button>
            )}
          </p>
        </div>
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
        <SearchField
          label="Find on the back bar"
          hint="Find by any name it had"
          value={wanted}
          waitMs={TYPING_MS}
          onChange={(words) => put({ words })}
        />
        <button type="button" className="act" onClick={() => setTable(true)}>
          As a table …
        </button>
        {mayEdit && (
          <button type="button" className="act act-main" onClick={() => put({ open: 'new' }, true)}>
            Put on the shelf
          </button>
        )}
      </header>
      {mayEdit && picked.size > 0 && isKnown && (
        <BulkEdit
          ingredients={house.ingredients.filter((i) => picked.has(i.slug))}
          onDone={() => setPicked(new Set())}
        />
      )}
      {first?.isNear && (
        <p className="mb-1 text-soft" role="status">
          Nothing is called “{wanted}”. Near it:
        </p>
      )}
      {rows.length === 0 ? (
        <Empty title={wanted ? 'Nothing of that name, nor near it' : 'Nothing to show'}>
          {wanted ? 'Earlier names, styles and notes are searched, too.' : 'Choose another part of the shelf above.'}
        </Empty>
      ) : (
        <div className="overflow-x-auto">
          <table className="w-full">
            <thead>
              <tr className="border-b border-ink">
                {mayEdit && (
                  <th className="w-7">
                    <input
                      type="checkbox"
                      aria-label="Pick all that is shown"
                      checked={rows.every((i) => picked.has(i.slug))}
                      onChange={(e) => setPicked(new Set(e.target.checked ? rows.map((i) => i.slug) : []))}
                    />
                  </th>
                )}
                <th scope="col" className="caption text-left font-normal">
                  <button type="button" className="min-h-8 hover:underline" onClick={() => sortBy('name')}>
                    {SHELF_SORTS.name}
                    {sort === 'name' && (isDown ? ' ↓' : ' ↑')}
                  </button>{' '}
                  <button type="button" className="min-h-8 hover:underline" onClick={() => sortBy('shelf')}>
                    by kind{sort === 'shelf' && (isDown ? ' ↓' : ' ↑')}
                  </button>
                </th>
                {header('abvPct', 'strength, %')}
                {header('sugarGPer100Ml', 'sugar, g/100')}
                {header('acidGPer100Ml', 'acid, g/100')}
                {header('price', 'a litre', 'max-md:hidden')}
                <th scope="col" className="caption pl-6 text-left font-normal max-md:hidden">
                  kept, and what to know
                </th>
              </tr>
            </thead>
            <tbody onKeyDown={moveFocus}>
              {rows.map((i, n) => (
                <IngredientRow
                  key={i.slug}
                  ingredient={i}
                  name={nameOf.get(i.slug) ?? i.name}
                  heading={
                    sort === 'shelf' && wanted === '' && rows[n - 1]?.kind !== i.kind
                      ? INGREDIENT_KINDS[i.kind]
                      : undefined
                  }
                  columns={mayEdit ? 7 : 6}
                  picked={mayEdit ? picked.has(i.slug) : undefined}
                  onPick={(on) => pick(i.slug, on)}
                  onOpen={() => put({ open: i.slug }, true)}
                />
              ))}
            </tbody>
          </table>
        </div>
      )}
      {list.hasNextPage && (
        <MoreRows left={left} isBusy={list.isFetchingNextPage} onMore={() => void list.fetchNextPage()} />
      )}
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
    </div>
  )
}

const readKey = <K extends string>(keys: Record<K, unknown>, asked: string | null): K | undefined =>
  (Object.keys(keys) as K[]).find((key) => key === asked)

/** Arrow up and down go from row to row; Enter opens, as on any button. */
function moveFocus(event: KeyboardEvent<HTMLTableSectionElement>): void {
  const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
  const target = event.target as HTMLElement
  if (step === 0 || !target.matches('[data-row]')) return
  const all = [...event.currentTarget.querySelectorAll<HTMLElement>('[data-row]')]
  event.preventDefault()
  all[all.indexOf(target) + step]?.focus()
}

const STOCK_TONES = { stocked: '', low: 'text-mind', out: 'text-stop font-semibold', discontinued: 'text-stop' }

interface IngredientRowProps {
  ingredient: Ingredient
  /** As it is called among others of the same name. */
  name: string
  /** The kind, above the first of it. */
  heading: string | undefined
  columns: number
  picked: boolean | undefined
  onPick: (on: boolean) => void
  onOpen: () => void
}

function IngredientRow({ ingredient, name, heading, columns, picked, onPick, onOpen }: IngredientRowProps) {
  const { book } = useHouse()
  const { figures, stock } = ingredient
  const { currency = 'EUR' } = book.settings
  const price = pricePerThousand(ingredient)
  const know = [
    ingredient.style ?? '',
    PLACES[ingredient.storedIn],
    ingredient.allergens.length > 0 ? `contains ${ingredient.allergens.join(', ')}` : '',
    ingredient.formerNames.length > 0 ? `once ${ingredient.formerNames.join(', ')}` : '',
    ingredient.isFoodGrade === false ? 'not food' : '',
    ingredient.note ?? '',
  ]
  return (
    <>
      {heading && (
        <tr className="border-b border-hair">
          <th scope="rowgroup" colSpan={columns} className="pt-4 text-left font-display text-lg font-semibold">
            {heading}
          </th>
        </tr>
      )}
      <tr className="border-b border-hair/60 hover:bg-shoal">
        {picked !== undefined && (
          <td>
            <input
              type="checkbox"
              aria-label={`Pick ${ingredient.name}`}
              checked={picked}
              onChange={(e) => onPick(e.target.checked)}
            />
          </td>
        )}
        <th scope="row" className="text-left font-normal">
          {ingredient.recipe || ingredient.closed ? (
            <Link data-row to={placeOf(ingredient)} className="inline-flex min-h-8 items-center hover:underline">
              {name}
            </Link>
          ) : (
            <button
              data-row
              type="button"
              onClick={onOpen}
              className="min-h-8 text-left hover:underline max-sm:min-h-11"
            >
              {name}
            </button>
          )}
          {stock && stock !== 'stocked' && (
            <span className={`ml-2 text-sm ${STOCK_TONES[stock]}`}>{STOCK_STATES[stock]}</span>
          )}
        </th>
        {[figures.abvPct, figures.sugarGPer100Ml, figures.acidGPer100Ml].map((figure, n) => (
          <td
            key={n}
            className={`px-2 text-right ${isHomework(figure) ? 'text-soft italic' : ''}`}
            title={basisText(figure)}
          >
            {figure.value < 0.005
              ? '·'
              : `${isHomework(figure) ? '≈ ' : ''}${Number(figure.value.toFixed(n === 2 ? 2 : 1))}`}
          </td>
        ))}
        <td className="px-2 text-right text-sm text-soft max-md:hidden">
          {price === undefined ? '·' : moneyText(price, currency)}
          {isWeighed(ingredient.kind) && price !== undefined && ' kg'}
        </td>
        <td className="caption pl-6 max-md:hidden">{know.filter(Boolean).join(' · ')}</td>
      </tr>
    </>
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
