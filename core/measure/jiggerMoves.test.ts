import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { jiggerMoves } from './index.ts'

const HOUSE = [
  { name: 'two-sided', volumesMl: [30, 45] },
  { name: 'small', volumesMl: [7.5, 15, 22.5] },
  { name: 'tall', volumesMl: [60] },
]

describe('measuring with jiggers', () => {
  it('fills the fewest sides, the largest first', () => {
    expect(jiggerMoves(52.5, HOUSE)?.moves).toEqual([
      { name: 'two-sided', volumeMl: 45, times: 1 },
      { name: 'small', volumeMl: 7.5, times: 1 },
    ])
    expect(jiggerMoves(120, HOUSE)?.moves).toEqual([{ name: 'tall', volumeMl: 60, times: 2 }])
  })

  it('comes as near as the jiggers go where they do not measure it, and owns up where they cannot', () => {
    expect(jiggerMoves(50, HOUSE)?.volumeMl).toBe(52.5)
    expect(jiggerMoves(1, HOUSE)).toBeUndefined()
    expect(jiggerMoves(30, [])).toBeUndefined()
  })

  it('is what trying every sum finds', () => {
    const sizes = fc.uniqueArray(fc.integer({ min: 2, max: 30 }), { minLength: 1, maxLength: 4 })
    fc.assert(
      fc.property(sizes, fc.integer({ min: 1, max: 90 }), (volumesMl, wantedMl) => {
        // Every sum of up to eight fillings, with the fewest that make it.
        let fewest = new Map([[0, 0]])
        for (let n = 1; n <= 8; n++) {
          const next = new Map(fewest)
          for (const [sum, count] of fewest)
            if (count === n - 1) for (const v of volumesMl) if (!next.has(sum + v)) next.set(sum + v, n)
          fewest = next
        }
        fewest.delete(0)
        const far = (sum: number) => Math.abs(sum - wantedMl)
        const nearest = Math.min(...[...fewest.keys()].map(far))
        const found = jiggerMoves(wantedMl, [{ name: 'x', volumesMl }])
        if (nearest > wantedMl / 2) expect(found).toBeUndefined()
        else {
          expect(far(found?.volumeMl ?? Number.NaN)).toBeCloseTo(nearest, 9)
          const count = found?.moves.reduce((sum, m) => sum + m.times, 0)
          const best = Math.min(...[...fewest].filter(([sum]) => far(sum) === nearest).map(([, n]) => n))
          expect(count).toBe(best)
          expect(found?.moves.reduce((sum, m) => sum + m.times * m.volumeMl, 0)).toBeCloseTo(found?.volumeMl ?? 0, 9)
        }
      }),
    )
  })
})
