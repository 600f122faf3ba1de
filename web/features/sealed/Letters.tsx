import { lettersOf, mixerOfToday, type Recipe } from '@conch/core/formula'
import { type Ingredient, nameIn } from '@conch/core/house'
import { useHouse } from '../../app/house.tsx'

/**
 * Which letter on the weighing sheets is which bottle, and how much by the recipe as it is saved: for whoever may open it, to
 * read and to print.
 */
export function Letters({ saved }: { saved: Ingredient & { recipe: Recipe } }) {
  const { house, today } = useHouse()
  const made = mixerOfToday(house, today).freshMixOf(saved.slug)
  const parts = made.ok ? made.mix.parts : []
  const rows = [...lettersOf(saved.recipe)]
    .map(([slug, { name }]) => ({ slug, letter: name, part: parts.find((p) => p.ingredient.slug === slug) }))
    .sort((a, b) => a.letter.localeCompare(b.letter))
  return (
    <section aria-label="Letters" className="mt-5 max-w-xl">
      <h2 className="flex items-baseline border-b border-ink text-lg">
        <span className="mr-auto">Letters on the sheets</span>
        <button type="button" className="act act-quiet no-print text-sm font-normal" onClick={() => window.print()}>
          Print this page
        </button>
      </h2>
      <table className="w-full">
        <tbody>
          {rows.map(({ slug, letter, part }) => (
            <tr key={slug} className="border-b border-hair/60">
              <th scope="row" className="w-10 text-left text-lg">
                {letter}
              </th>
              <td>{nameIn(house.ingredients, slug)}</td>
              <td className="text-right text-soft">{part && `${part.massG.toFixed(part.massG < 10 ? 1 : 0)} g`}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="caption mt-1">
        Whoever weighs sees the letters alone. A bottle keeps its letter when the recipe changes; this is as saved.
      </p>
    </section>
  )
}
