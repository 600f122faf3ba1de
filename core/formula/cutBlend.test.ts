import { describe, expect, it } from 'vitest'
import type { Recipe } from '../schema/recipe.ts'
import { sharesOf } from './blendLines.ts'
import { withoutPart, withPart, writtenBy } from './cutBlend.ts'

const CUT = { pourMl: 60, stepMl: 7.5 }
const blend = (by: Recipe['by'], amounts: number[]): Recipe => ({
  by,
  components: amounts.map((amount, i) => ({ ingredient: `rum-${i + 1}`, amount })),
})
const shares = (recipe: Recipe) => sharesOf(recipe).map((s) => Number(s.share.toFixed(6)))
const sum = (all: number[]) => all.reduce((a, b) => a + b, 0)

describe('a part put into a blend', () => {
  it('takes one step of the pour from the largest where shares come to a hundred', () => {
    const next = withPart(blend('percentByVolume', [75, 25]), 'dark', CUT)
    expect(shares(next)).toEqual([0.625, 0.25, 0.125])
  })

  it('takes half of the largest where that is less than a step', () => {
    const next = withPart(blend('percentByVolume', [50, 50]), 'dark', { pourMl: 10, stepMl: 5 })
    expect(sum(shares(next))).toBeCloseTo(1)
    expect(Math.min(...shares(next))).toBeGreaterThan(0)
  })

  it('leaves what was typed as it was typed where amounts are parts or ml', () => {
    expect(withPart(blend('partsByVolume', [3, 2]), 'dark', CUT).components.map((c) => c.amount)).toEqual([3, 2, 1])
    expect(withPart(blend('volume', [420, 280]), 'dark', CUT).components.map((c) => c.amount)).toEqual([420, 280, 280])
  })
})

describe('a part left out of a blend', () => {
  it('is shared by the others where shares come to a hundred, and by nobody where they do not', () => {
    const left = withoutPart(blend('percentByVolume', [50, 25, 25]), 0, CUT)
    expect(shares(left)).toEqual([0.5, 0.5])
    expect(withoutPart(blend('partsByVolume', [3, 2, 1]), 1, CUT).components.map((c) => c.amount)).toEqual([3, 1])
  })
})

describe('a blend written in another measure', () => {
  const measures = ['percentByVolume', 'partsByVolume', 'volume'] as const
  it.each(measures.flatMap((from) => measures.map((to) => [from, to] as const)))(
    'is the same blend from %s to %s',
    (from, to) => {
      const before = blend(from, from === 'percentByVolume' ? [50, 37.5, 12.5] : [4, 3, 1])
      const after = writtenBy(before, to, CUT)
      expect(after.by).toBe(to)
      expect(shares(after)).toEqual(shares(before))
    },
  )

  it('is a bottle of it where it is written by volume', () => {
    const after = writtenBy(blend('partsByVolume', [1, 1]), 'volume', CUT)
    expect(sum(after.components.map((c) => c.amount))).toBe(700)
  })
})
