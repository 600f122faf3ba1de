import type { Recipe } from '@conch/core/formula'
import { describe, expect, it } from 'vitest'
import { cannotAdd, withAdditions } from './adjustRecipe.ts'

const recipe: Recipe = { by: 'weight', components: [{ ingredient: 'water', amount: 500 }] }
const rum = { ingredient: 'rum', massG: 90, volumeMl: 100 }

describe('an addition to a recipe', () => {
  it('is in the recipe’s own measure', () => {
    expect(withAdditions(recipe, [rum]).components[1]).toEqual({ ingredient: 'rum', amount: 90 })
    expect(withAdditions({ ...recipe, by: 'volume' }, [rum]).components[1]?.amount).toBe(100)
    expect(withAdditions({ ...recipe, by: 'partsByWeight' }, [rum]).components[1]?.amount).toBe(0.9)
  })
  it('makes more of what is there, and makes up for losses', () => {
    expect(withAdditions(recipe, [{ ...rum, ingredient: 'water' }]).components).toEqual([
      { ingredient: 'water', amount: 590 },
    ])
    expect(withAdditions({ ...recipe, lossFraction: 0.1 }, [rum]).components[1]?.amount).toBe(100)
  })
  it('does not go into a pan that is boiled down', () => {
    expect(cannotAdd(recipe)).toBeUndefined()
    expect(cannotAdd({ ...recipe, reduceToG: 400 })).toContain('boiled down')
  })
})
