import type { OthersKnow } from '@conch/contract'
import { isAllergenUnsure, sealedAsOf } from '@conch/core/formula'
import type { Actor } from '../../access/actor.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { partFor } from '../../held/index.ts'
import type { Services } from '../../http/route.ts'
import { WAYS } from './countWays.ts'

/**
 * What others know of a sealed mix, whether it is still so, and how many fillings fit it.
 * @throws Refusal `notFound` for what is not sealed
 */
export async function showOthersKnow(slug: string, actor: Actor, { held, work }: Services): Promise<OthersKnow> {
  const house = await held.now()
  const ingredient = house.ingredient(slug)
  if (!ingredient?.isSealed || !ingredient.recipe) throw new Refusal('notFound', `nothing sealed is called “${slug}”`)
  const { recipe } = ingredient
  const now = sealedAsOf(ingredient, partFor(house, [slug]).ingredients, house.onShelf())
  const known = ingredient.sealedAs ?? now
  if (!known) throw new Refusal('cannotCompute', `${ingredient.name} cannot be computed`)
  const { abvPct, sugarGPer100Ml, acidGPer100Ml } = known.figures
  const order = { recipe, known: { abvPct, sugarGPer100Ml, allergens: known.allergens }, shelf: house.allIngredients() }
  const isSame = now === undefined || JSON.stringify(now.figures) === JSON.stringify(known.figures)
  return {
    figures: { abvPct, sugarGPer100Ml, acidGPer100Ml },
    allergens: known.allergens,
    isOld: !isSame || now?.allergens.join() !== known.allergens.join(),
    isAllergenUnsure: isAllergenUnsure(known, house.onShelf()),
    ...(await work.run(actor.name, WAYS, order)),
  }
}
