import { isAcidPowder } from '../house/index.ts'
import type { Mix } from './resolveMix.ts'

/** Strength below which alcohol keeps nothing, % ABV. */
const KEEPING_ABV_PCT = 15

/** What is fresh in it, at any depth, by name. */
function freshIn(mix: Mix): string[] {
  return mix.parts.flatMap((p) =>
    p.mix ? freshIn(p.mix) : ['juice', 'puree', 'dairy'].includes(p.ingredient.kind) ? [p.name] : [],
  )
}

const hasAcidPowder = (mix: Mix): boolean =>
  mix.parts.some((p) => (p.mix ? hasAcidPowder(p.mix) : isAcidPowder(p.ingredient)))

/** What to mind while making and keeping a mix. Whoever shows it defers to local law and licensed practice. */
export function cautionsOf(mix: Mix): string[] {
  const cautions: string[] = []
  const allergens = mix.allergens.map((a) => a.allergen)
  const fresh = [...new Set(freshIn(mix))]
  const isWeak = mix.figures.abvPct < KEEPING_ABV_PCT
  if (allergens.some((a) => a === 'tree nuts' || a === 'peanuts') && isWeak)
    cautions.push('raw nut milk spoils fast: keep it cold, date it, discard it in time')
  if (allergens.includes('dairy')) cautions.push('butter and cream: keep it cold, date it, discard it in time')
  if (fresh.length > 0 && isWeak) cautions.push(`fresh in it: ${fresh.join(', ')}; keep it cold and date it`)
  if (hasAcidPowder(mix))
    cautions.push('food-grade acids only, on the fine scale; eye protection for what is concentrated')
  const notFood = mix.parts.filter((p) => p.ingredient.isFoodGrade === false).map((p) => p.name)
  if (notFood.length > 0) cautions.push(`not food: ${notFood.join(', ')}; it does not belong in a mix`)
  return cautions
}
