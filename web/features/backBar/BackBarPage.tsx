import { mayDo } from '@conch/contract'
import {
  bySlug,
  type Figure,
  INGREDIENT_KINDS,
  type Ingredient,
  isWeighed,
  PLACES,
  STOCK_STATES,
} from '@conch/core/house'
import { type KeyboardEvent, lazy, Suspense, useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { moneyText } from '../../graphics/format.ts'
import { IngredientDialog } from '../../shelf/IngredientDialog.tsx'
import { placeOf } from '../../shelf/placeOf.ts'
import { Empty } from '../../ui/States.tsx'
import { BulkEdit } from './BulkEdit.tsx'
import {
  hasHomework,
  isHomework,
  pricePerThousand,
  SHOWN,
  type Shown,
  SORTS,
  type Sort,
  shelfView,
} from './shelfView.ts'

const BottleTableDialog = lazy(() => import('./BottleTableDialog.tsx').then((m) => ({ default: m.BottleTableDialog })))

/** Thousands of rows would make every key wait. */
const SHOWN_AT_ONCE = 250

/** Everything the house can pour, with figures and how we know them. */
export function BackBarPage() {
  const { book, house } = useHouse()
  const who = useWho()
  const [search, setSearch] = useSearchParams()
  const [wanted, setWanted] = useState('')
  const [shown, setShown] = useState<Shown>('all')
  const [{ sort, isDown }, setSort] = useState<{ sort: Sort; isDown: boolean }>({ sort: 'shelf', isDown: false })
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set())
  const [hasTable, setTable] = useState(false)
  const [most, setMost] = useState(SHOWN_AT_ONCE)
  const mayEdit = mayDo(who.role, 'editHouse')
  const asked = search.get('open')
  const open = asked === 'new' ? 'new' : bySlug(house.ingredients, asked ?? undefined)
  const rows = shelfView(book.ingredients, { wanted, shown, sort, isDown })
  const homeworkCount = book.ingredients.filter(hasHomework).length
  const sortBy = (next: Sort) => setSort({ sort: next, isDown: sort === next ? !isDown : false })
  const pick = (slug: string, on: boolean) => {
    const next = new Set(picked)
    if (on) next.add(slug)
    else next.delete(slug)
    setPicked(next)
  }
  const header = (key: Sort, words: string, className = '') => (
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
            {book.ingredients.length} things ·{' '}
            {homeworkCount === 0 ? (
              'every figure is measured or from a label'
            ) : (
              <button type="button" className="underline" onClick={() => setShown('homework')}>
                {homeworkCount} with a figure that is only assumed (≈): homework
              </button>
            )}
          </p>
        </div>
        <select
          aria-label="What is shown"
          className="field w-auto max-w-44"
          value={shown}
          onChange={(e) => setShown(e.target.value as Shown)}
        >
          {Object.entries(SHOWN).map(([key, label]) => (
            <option key={key} value={key}>
              {label}
            </option>
          ))}
        </select>
        <input
          type="search"
          aria-label="Find on the back bar"
          placeholder="Find by any name it had"
          className="field max-w-56"
          value={wanted}
          onChange={(e) => setWanted(e.target.value)}
        />
        <button type="button" className="act" onClick={() => setTable(true)}>
          As a table …
        </button>
        {mayEdit && (
          <button type="button" className="act act-main" onClick={() => setSearch({ open: 'new' })}>
            Put on the shelf
          </button>
        )}
      </header>
      {mayEdit && picked.size > 0 && (
        <BulkEdit
          ingredients={house.ingredients.filter((i) => picked.has(i.slug))}
          onDone={() => setPicked(new Set())}
        />
      )}
      {rows.length === 0 ? (
        <Empty title="Nothing of that name">Earlier names, styles and notes are searched, too.</Empty>
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
                    {SORTS.name}
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
              {rows.slice(0, most).map((i, n) => (
                <IngredientRow
                  key={i.slug}
                  ingredient={i}
                  heading={sort === 'shelf' && rows[n - 1]?.kind !== i.kind ? INGREDIENT_KINDS[i.kind] : undefined}
                  columns={mayEdit ? 7 : 6}
                  picked={mayEdit ? picked.has(i.slug) : undefined}
                  onPick={(on) => pick(i.slug, on)}
                  onOpen={() => setSearch({ open: i.slug })}
                />
              ))}
            </tbody>
          </table>
        </div>
      )}
      {rows.length > most && (
        <button type="button" className="act mt-3" onClick={() => setMost(most + SHOWN_AT_ONCE)}>
          Show more: {rows.length - most} are left
        </button>
      )}
      {open && (
        <IngredientDialog key={asked} ingredient={open === 'new' ? undefined : open} onClose={() => setSearch({})} />
      )}
      {hasTable && (
        <Suspense fallback={null}>
          <BottleTableDialog onClose={() => setTable(false)} />
        </Suspense>
      )}
    </div>
  )
}

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
  /** The kind, above the first of it. */
  heading: string | undefined
  columns: number
  picked: boolean | undefined
  onPick: (on: boolean) => void
  onOpen: () => void
}

function IngredientRow({ ingredient, heading, columns, picked, onPick, onOpen }: IngredientRowProps) {
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
              {ingredient.name}
            </Link>
          ) : (
            <button
              data-row
              type="button"
              onClick={onOpen}
              className="min-h-8 text-left hover:underline max-sm:min-h-11"
            >
              {ingredient.name}
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
