import { substituteAtEqualSugar } from '@conch/core/formula'
import { bySlug, type HouseBook, type Ingredient, isWeighed, nameApart, valuesOf } from '@conch/core/house'
import { type Amount, amountText, pourGrid, toFraction, usualMeasures } from '@conch/core/measure'
import { useMemo } from 'react'
import { useShelf } from '../../app/shelf.ts'
import { Dialog } from '../../ui/Dialog.tsx'

/** Sugar below which "as sweet" means nothing, g in 100 ml. */
const SWEET_G_PER_100ML = 10

/** Whether another one could stand in for this at equal sugar. */
/** What is offered: things of the same kind first. */
const MOST_OFFERED = 80

export const isSweet = (i: Ingredient | undefined) =>
  i !== undefined && !isWeighed(i.kind) && i.figures.sugarGPer100Ml.value >= SWEET_G_PER_100ML

/** A volume as this house writes it: in ounces when that is a plain fraction, else in ml. */
function toAmount(volumeMl: number, ounceMl: number, before: Amount['unit']): Amount {
  const ounces = volumeMl / ounceMl
  const fraction = before === 'oz' ? toFraction(ounces) : undefined
  return fraction
    ? { value: Number(ounces.toFixed(4)), unit: 'oz' }
    : { value: Number(volumeMl.toFixed(2)), unit: 'ml' }
}

const signed = (value: number, digits: number, unit: string) => {
  const text = Math.abs(value).toFixed(digits)
  return Number(text) === 0 ? '·' : `${value < 0 ? '−' : '+'}${text} ${unit}`
}

/** Another syrup, at equal sugar: what to pour of it with the house's jiggers, and what that changes. */
export function SubstituteDialog({
  slug,
  pouredMl,
  unit,
  book,
  onClose,
  onTake,
}: {
  slug: string
  pouredMl: number
  unit: Amount['unit']
  book: HouseBook
  onClose: () => void
  onTake: (ingredient: string, amount: Amount) => void
}) {
  const asked = useMemo(() => ({ sweetLike: slug, limit: MOST_OFFERED }), [slug])
  const found = useShelf(asked)
  const from = bySlug(book.ingredients, slug)
  if (!from) return null
  const { kit, measures } = book.settings
  const grid = pourGrid(measures ?? usualMeasures(kit))
  // Its own kind, and its namesakes, come first.
  const nearness = (i: Ingredient) =>
    Number(i.kind === from.kind) + 2 * Number(from.name.split(' ').some((w) => w.length > 4 && i.name.includes(w)))
  const rows = book.ingredients
    .filter((i) => i.slug !== slug && isSweet(i) && found.picked.includes(i.slug))
    .sort((a, b) => nearness(b) - nearness(a) || a.name.localeCompare(b.name))
    .flatMap((i) => {
      const found = substituteAtEqualSugar(valuesOf(from), valuesOf(i), pouredMl, grid)
      return found ? [{ i, found }] : []
    })
  return (
    <Dialog
      isOpen
      width={760}
      onClose={onClose}
      title={`Instead of ${from.name}`}
      lead={`At equal sugar: ${((pouredMl * from.figures.sugarGPer100Ml.value) / 100).toFixed(1)} g, on what our jiggers pour.`}
    >
      <div className="max-h-[56vh] overflow-y-auto">
        <table className="w-full">
          <thead>
            <tr className="caption border-b border-ink text-right">
              <th className="text-left font-normal">pour</th>
              <th className="px-2 font-normal">exactly</th>
              <th className="px-2 font-normal">volume</th>
              <th className="px-2 font-normal">sugar</th>
              <th className="px-2 font-normal">acid</th>
              <th className="px-2 font-normal">alcohol</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {rows.map(({ i, found }) => {
              const amount = toAmount(found.pour.volumeMl, kit.ounceMl, unit)
              return (
                <tr key={i.slug} className="border-b border-hair/60 text-right">
                  <th scope="row" className="py-1 text-left font-normal">
                    <span className="frac">{amountText(amount)}</span> {nameApart(i, book.ingredients)}
                    <span className="caption block">
                      {found.pour.moves.map((m) => `${m.name} ${Number(m.volumeMl.toFixed(1))}`).join(' + ')}
                    </span>
                  </th>
                  <td className="px-2 text-sm text-soft">{found.exactMl.toFixed(1)} ml</td>
                  <td className="px-2 text-sm">{signed(found.volumeMl, 1, 'ml')}</td>
                  <td className="px-2 text-sm">{signed(found.sugarG, 1, 'g')}</td>
                  <td className="px-2 text-sm">{signed(found.acidG, 2, 'g')}</td>
                  <td className="px-2 text-sm">{signed(found.alcoholMl, 1, 'ml')}</td>
                  <td>
                    <button
                      type="button"
                      className="act min-h-8 text-sm"
                      aria-label={`Pour ${nameApart(i, book.ingredients)}`}
                      onClick={() => onTake(i.slug, { ...amount, asWritten: amountText(amount) })}
                    >
                      Pour it
                    </button>
                  </td>
                </tr>
              )
            })}
          </tbody>
        </table>
      </div>
      {rows.length === 0 && <p className="text-soft">Nothing else on the shelf is sweet.</p>}
    </Dialog>
  )
}
