import type { Recipe } from './recipe.ts'
import { isByWeight } from './recipeMeasures.ts'

export const FEWEST_IN_A_BLEND = 2
export const MOST_IN_A_BLEND = 6
/** A whole, in per cent, to the last digit that anybody types. */
const WHOLE_PCT = 100
const PCT_TOLERANCE = 0.01

/** What keeps a recipe from being a blend: by its form alone, whatever is on the shelf. */
export function blendProblems(recipe: Recipe | undefined): { path: (string | number)[]; message: string }[] {
  if (!recipe) return [{ path: ['recipe'], message: 'a blend is made of something; give it two to six spirits' }]
  const problems: { path: (string | number)[]; message: string }[] = []
  const { components, by } = recipe
  const n = components.length
  if (n < FEWEST_IN_A_BLEND || n > MOST_IN_A_BLEND)
    problems.push({
      path: ['recipe', 'components'],
      message: `${n} ${n === 1 ? 'part is' : 'parts are'} no blend; ${FEWEST_IN_A_BLEND} to ${MOST_IN_A_BLEND}`,
    })
  if (isByWeight(by))
    problems.push({ path: ['recipe', 'by'], message: 'a blend is by volume: in parts, in ml or in per cent' })
  components.forEach((c, i) => {
    if (!(c.amount > 0))
      problems.push({ path: ['recipe', 'components', i, 'amount'], message: `${c.amount} is no part; more than 0` })
  })
  const sum = components.reduce((total, c) => total + c.amount, 0)
  if (by === 'percentByVolume' && Math.abs(sum - WHOLE_PCT) > PCT_TOLERANCE)
    problems.push({
      path: ['recipe', 'components'],
      message: `the parts add up to ${Number(sum.toFixed(2))} %; together they are 100 %`,
    })
  if (recipe.reduceToG !== undefined)
    problems.push({ path: ['recipe', 'reduceToG'], message: 'a blend is not boiled down' })
  return problems
}
