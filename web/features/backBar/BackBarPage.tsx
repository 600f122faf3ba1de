import { mayDo } from '@conch/contract'
import { bySlug, type Figure, INGREDIENT_KINDS, type Ingredient, type IngredientKind, PLACES } from '@conch/core/house'
import { useState } from 'react'
import { useSearchParams } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { hasAllWords } from '../../ui/hasAllWords.ts'
import { Empty } from '../../ui/States.tsx'
import { IngredientDialog } from './IngredientDialog.tsx'

/** Everything the house can pour, with figures and how we know them. */
export function BackBarPage() {
  const { book, house } = useHouse()
  const who = useWho()
  const [search, setSearch] = useSearchParams()
  const [wanted, setWanted] = useState('')
  const asked = search.get('open')
  const open = asked === 'new' ? 'new' : bySlug(house.ingredients, asked ?? undefined)
  const found = book.ingredients.filter((i) => hasAllWords([i.name, ...i.formerNames, i.note ?? ''].join(' '), wanted))
  const assumedCount = book.ingredients.filter((i) => Object.values(i.figures).some(isHomework)).length
  return (
    <div className="px-4 pt-4 pb-10">
      <header className="mb-3 flex flex-wrap items-center gap-3">
        <div className="mr-auto">
          <h1 className="text-3xl">Back bar</h1>
          <p className="caption">
            {book.ingredients.length} things to pour ·{' '}
            {assumedCount === 0
              ? 'every figure is measured or from a label'
              : `${assumedCount} with a figure that is only assumed (≈)`}
          </p>
        </div>
        <input
          type="search"
          aria-label="Find on the back bar"
          placeholder="Find by any name it had"
          className="field max-w-60"
          value={wanted}
          onChange={(e) => setWanted(e.target.value)}
        />
        {mayDo(who.role, 'editHouse') && (
          <button type="button" className="act act-main" onClick={() => setSearch({ open: 'new' })}>
            Put on the shelf
          </button>
        )}
      </header>
      {found.length === 0 && <Empty title="Nothing of that name">Earlier names and notes are searched, too.</Empty>}
      <div className="overflow-x-auto">
        <table className="w-full max-w-6xl">
          {(Object.keys(INGREDIENT_KINDS) as IngredientKind[]).map((kind) => {
            const rows = found.filter((i) => i.kind === kind)
            if (rows.length === 0) return null
            return (
              <tbody key={kind}>
                <tr className="border-b border-ink">
                  <th scope="colgroup" className="pt-4 text-left font-display text-lg font-semibold">
                    {INGREDIENT_KINDS[kind]}
                  </th>
                  {['strength, %', 'sugar, g/100 ml', 'acid, g/100 ml'].map((h) => (
                    <th key={h} scope="col" className="caption w-32 px-2 pt-4 text-right align-bottom font-normal">
                      {h}
                    </th>
                  ))}
                  <th scope="col" className="caption pt-4 pl-6 text-left align-bottom font-normal max-md:hidden">
                    kept, and what to know
                  </th>
                </tr>
                {rows.map((i) => (
                  <IngredientRow key={i.slug} ingredient={i} onOpen={() => setSearch({ open: i.slug })} />
                ))}
              </tbody>
            )
          })}
        </table>
      </div>
      {open && (
        <IngredientDialog key={asked} ingredient={open === 'new' ? undefined : open} onClose={() => setSearch({})} />
      )}
    </div>
  )
}

const isHomework = (figure: Figure | undefined) => figure?.basis === 'assumed' && figure.value !== 0

function IngredientRow({ ingredient, onOpen }: { ingredient: Ingredient; onOpen: () => void }) {
  const { figures } = ingredient
  const know = [
    PLACES[ingredient.storedIn],
    ingredient.allergens.length > 0 ? `contains ${ingredient.allergens.join(', ')}` : '',
    ingredient.formerNames.length > 0 ? `once ${ingredient.formerNames.join(', ')}` : '',
    ingredient.note ?? '',
  ]
  return (
    <tr className="border-b border-hair/60 hover:bg-shoal">
      <th scope="row" className="text-left font-normal">
        <button type="button" onClick={onOpen} className="min-h-8 w-full text-left hover:underline max-sm:min-h-11">
          {ingredient.name}
        </button>
      </th>
      {[figures.abvPct, figures.sugarGPer100Ml, figures.acidGPer100Ml].map((figure, n) => (
        <td
          key={n}
          className={`px-2 text-right ${isHomework(figure) ? 'text-soft italic' : ''}`}
          title={basisText(figure)}
        >
          {figure.value === 0 ? '·' : `${isHomework(figure) ? '≈ ' : ''}${figure.value}`}
        </td>
      ))}
      <td className="caption pl-6 max-md:hidden">{know.filter(Boolean).join(' · ')}</td>
    </tr>
  )
}

function basisText({ basis, on, by }: Figure): string {
  return [basis === 'label' ? 'from the label' : basis, on, by].filter(Boolean).join(', ')
}
