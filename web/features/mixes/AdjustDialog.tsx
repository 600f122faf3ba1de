import { adjustAcid, CITRIC_PER_MALIC, fortify, type Mix, type Recipe } from '@conch/core/formula'
import { type Ingredient, isAcidPowder, nameIn, SAFETY_DEFERRAL, valuesOf } from '@conch/core/house'
import { liquidFromFigures } from '@conch/core/liquid'
import { useMemo, useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { useShelf } from '../../app/shelf.ts'
import { useLimeJuice } from '../../shelf/useLimeJuice.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { DialogButtons } from '../../ui/DialogButtons.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import { type Addition, cannotAdd, withAdditions } from './adjustRecipe.ts'

interface AdjustDialogProps {
  how: 'fortify' | 'sharpen'
  mix: Mix
  recipe: Recipe
  onClose: () => void
  onRecipe: (recipe: Recipe) => void
}

/** What an adjustment comes to, ready to be put into the recipe. */
type Asked = { ok: true; additions: Addition[]; words: string } | { ok: false; reason: string }

/** Spirits and acids that are offered. */
const MOST_OFFERED = 80

/** Brings a mix to a strength with a spirit, or to an acidity with citric and malic acid. */
export function AdjustDialog({ how, mix, recipe, onClose, onRecipe }: AdjustDialogProps) {
  const { book } = useHouse()
  const asked = useMemo(() => ({ strongerThan: Math.min(100, mix.figures.abvPct + 5), limit: MOST_OFFERED }), [mix])
  useShelf(asked)
  const lime = useLimeJuice()
  const spirits = book.ingredients.filter((i) => i.figures.abvPct.value > mix.figures.abvPct + 5 && !i.recipe)
  const acids = book.ingredients.filter((i) => isAcidPowder(i))
  const citric = acids.find((i) => /citric/i.test(i.name)) ?? acids[0]
  const malic = acids.find((i) => /malic/i.test(i.name))
  const strongest = [...spirits].sort((a, b) => b.figures.abvPct.value - a.figures.abvPct.value)[0]
  const [chosen, setSpirit] = useState<Ingredient>()
  const spirit = chosen ?? strongest
  const [targetAbvPct, setTargetAbvPct] = useState(Math.max(16, Math.ceil(mix.figures.abvPct + 1)))
  const [targetAcid, setTargetAcid] = useState(6)
  const [ratio, setRatio] = useState(malic ? 2 : 1000)

  const ask = (): Asked => {
    const boiled = cannotAdd(recipe)
    if (boiled) return { ok: false, reason: boiled }
    if (how === 'fortify') {
      if (!spirit) return { ok: false, reason: 'nothing on the shelf is stronger' }
      const made = liquidFromFigures(100, valuesOf(spirit))
      if (!made.ok) return made
      const found = fortify(mix.liquid, made.liquid, targetAbvPct)
      if (!found.ok) return found
      const { massG, volumeMl } = found.answer
      return {
        ok: true,
        additions: [{ ingredient: spirit.slug, massG, volumeMl }],
        words: `${Math.round(volumeMl)} ml (${Math.round(massG)} g) of ${spirit.name}`,
      }
    }
    if (!citric) return { ok: false, reason: 'put citric acid on the back bar first, as dry goods' }
    const found = adjustAcid(mix.liquid, targetAcid, malic ? ratio : 1000)
    if (!found.ok) return found
    // The bottle's own figure counts: an acid of 95 % is weighed as more.
    const powder = (i: Ingredient, g: number, perG: number): Addition => {
      const massG = (g * perG) / (i.figures.acidGPer100Ml.value / 100)
      return { ingredient: i.slug, massG, volumeMl: massG / (i.bulkGPerMl ?? 0.85) }
    }
    const additions = [powder(citric, found.answer.citricG, 1)]
    if (malic && found.answer.malicG > 0.001) additions.push(powder(malic, found.answer.malicG, CITRIC_PER_MALIC))
    const names = additions.map(
      (a) => `${a.massG.toFixed(1)} g ${book.ingredients.find((i) => i.slug === a.ingredient)?.name}`,
    )
    return { ok: true, additions, words: names.join(' and ') }
  }
  const answer = ask()
  return (
    <Dialog
      isOpen
      onClose={onClose}
      title={how === 'fortify' ? 'Fortify' : 'Sharpen'}
      lead={
        how === 'fortify'
          ? `It has ${mix.figures.abvPct.toFixed(1)} % now. Strong enough, it keeps; how long stays the house’s decision.`
          : `It has ${mix.figures.acidGPer100Ml.toFixed(2)} g acid in 100 ml now. Food-grade acids, weighed on the fine scale; mind your eyes.`
      }
    >
      <form
        onSubmit={(e) => {
          e.preventDefault()
          if (!answer.ok) return
          onRecipe(withAdditions(recipe, answer.additions))
          onClose()
        }}
      >
        <p className="mb-3 flex flex-wrap items-baseline gap-x-3 gap-y-1 text-lg">
          {how === 'fortify' ? (
            <>
              <span>
                to{' '}
                <NumberField
                  label="Target strength"
                  value={targetAbvPct}
                  low={0.5}
                  high={95}
                  step={1}
                  onChange={setTargetAbvPct}
                />{' '}
                % with
              </span>
              <select
                aria-label="Spirit"
                className="inplace"
                value={spirit?.slug ?? ''}
                onChange={(e) => setSpirit(spirits.find((i) => i.slug === e.target.value))}
              >
                {spirits.map((i) => (
                  <option key={i.slug} value={i.slug}>
                    {nameIn(book.ingredients, i.slug)}, {i.figures.abvPct.value} %
                  </option>
                ))}
              </select>
            </>
          ) : (
            <>
              <span>
                to{' '}
                <NumberField
                  label="Target acid"
                  value={targetAcid}
                  low={0.1}
                  high={30}
                  step={0.5}
                  digits={2}
                  onChange={setTargetAcid}
                />{' '}
                g in 100 ml
              </span>
              {malic && (
                <span>
                  citric to malic{' '}
                  <NumberField label="Citric to malic" value={ratio} low={0} high={20} step={0.5} onChange={setRatio} />{' '}
                  to 1
                </span>
              )}
              <button type="button" className="act" onClick={() => setTargetAcid(acidOf(lime))}>
                as sharp as our lime
              </button>
            </>
          )}
        </p>
        <p className={`mb-4 ${answer.ok ? 'text-lg' : 'text-stop'}`} role={answer.ok ? 'status' : 'alert'}>
          {answer.ok ? `takes ${answer.words} for ${Math.round(mix.volumeMl)} ml` : `It cannot be: ${answer.reason}.`}
        </p>
        <p className="caption mb-3">{SAFETY_DEFERRAL}</p>
        <DialogButtons close="Not yet" onClose={onClose} main={answer.ok ? 'Put it into the recipe' : undefined} />
      </form>
    </Dialog>
  )
}

const DEFAULT_LIME_ACID = 6

const acidOf = (lime: Ingredient | undefined) =>
  Number((lime?.figures.acidGPer100Ml.value ?? DEFAULT_LIME_ACID).toFixed(2))
