import { othersKnowSchema } from '@conch/contract'
import type { Ingredient } from '@conch/core/house'
import { ingredientSchema } from '@conch/core/house/schema'
import { useQuery } from '@tanstack/react-query'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { KEPT } from '../../app/queries.ts'
import { useSaveThing } from '../../foresight/index.ts'

/** What everybody else sees of it, how well that keeps its secret, and the way to let them see today's. */
export function OthersKnow({ saved }: { saved: Ingredient }) {
  const { house } = useHouse()
  const save = useSaveThing()
  const known = useQuery({
    queryKey: [KEPT, 'others-know', saved.slug],
    queryFn: () => api.get(`/api/ingredients/${saved.slug}/others-know`, othersKnowSchema),
  }).data
  if (!known) return null
  const { figures, allergens, isOld, isAllergenUnsure, ways, isWhole } = known
  const again = () =>
    save(`/api/ingredients/${saved.slug}`, ingredientSchema.parse(saved), house.revisions.ingredients[saved.slug] ?? 0)
  return (
    <section aria-label="What others know of it" className="mt-5 max-w-xl">
      <h2 className="border-b border-ink text-lg">What others know of it</h2>
      <p className="mt-1">
        {figures.abvPct} % ABV, {figures.sugarGPer100Ml} g sugar in 100 ml
        {figures.acidGPer100Ml > 0 && `, ${figures.acidGPer100Ml} g acid`}
        {allergens.length > 0 && `; contains ${allergens.join(', ')}`}. No cost, and no weight but a half’s, under
        letters, for its night.
      </p>
      <p className={`mt-1 text-sm ${isWhole ? 'text-mind' : 'text-soft'}`}>
        {isWhole
          ? `Who knew even the ratio would find ${ways === 1 ? 'only this filling' : `only ${ways} fillings`} of your shelf that ${ways === 1 ? 'fits' : 'fit'}: more bottles alike would hide it better.`
          : `Who knew even the ratio would find ${ways} fillings of your shelf that fit, and more: it cannot be told which.`}
      </p>
      {(isOld || isAllergenUnsure) && (
        <p className="mt-2 flex flex-wrap items-center gap-3 border-l-4 border-mind pl-3">
          <span className="min-w-0 flex-1">
            {isAllergenUnsure
              ? 'An allergen on the shelf was changed since you saved it: until you save it again, others are told to ask you.'
              : 'What it is made of came out otherwise since you saved it. Others see the figures of then.'}
          </span>
          <button type="button" className="act" onClick={() => void again()}>
            Let them know today’s
          </button>
        </p>
      )}
    </section>
  )
}
