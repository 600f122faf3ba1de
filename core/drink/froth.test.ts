import { describe, expect, it } from 'vitest'
import { frothFromRuler, frothingOf, type HouseBook } from '../house/index.ts'
import { bottle, testDrink, testHouse } from '../testing/house.ts'
import { frothAdvice, frothMlOf, NO_FROTH, settled, worked } from './froth.ts'
import { type DrinkDocumentInput, glassFor } from './index.ts'

const frothy = (mlPerMl: number): HouseBook => {
  const house = testHouse()
  return {
    ...house,
    ingredients: house.ingredients.map((i) => (i.slug === 'lime-juice' ? { ...i, frothMlPerMl: mlPerMl } : i)),
  }
}
const served = (house: HouseBook, changes: Partial<DrinkDocumentInput> = {}) => {
  const glass = glassFor(testDrink(changes), house)
  if (!glass.ok) throw new Error(glass.problems[0]?.message)
  return glass
}

describe('froth', () => {
  it('comes up with the seconds, and goes down again: coarse in seconds, fine over a minute or two', () => {
    const after = (durationS: number) => frothMlOf(worked(NO_FROTH, 100, { durationS }))
    expect([after(1), after(3), after(12)].map(Math.round)).toEqual([28, 63, 98])
    const at = (restS: number) => frothMlOf(settled({ coarseMl: 60, fineMl: 40 }, restS))
    expect(at(0)).toBe(100)
    expect(at(20)).toBeGreaterThan(30)
    expect(at(60)).toBeLessThan(20)
    expect(at(120)).toBeLessThan(10)
  })

  it('is less of two bursts than of one, and never more for a rest', () => {
    const one = frothMlOf(worked(NO_FROTH, 100, { durationS: 3 }))
    const two = frothMlOf(worked(NO_FROTH, 100, { durationS: 3, bursts: 2, restS: 5 }))
    expect(two).toBeLessThan(0.9 * one)
    expect(two).toBeLessThan(frothMlOf(worked(NO_FROTH, 100, { durationS: 3, bursts: 2, restS: 1 })))
  })

  it('stirred there is none; blended it stands over the liquid and takes its part of it', () => {
    const glass = { glass: 'tall', serveIce: [] }
    const plain = served(testHouse(), glass).result.glass
    const blended = served(frothy(2), glass).result.glass
    expect(blended?.froth?.atHandOverMl).toBeGreaterThan(10)
    expect(blended?.fill.foamTopMm).toBeGreaterThan((blended?.fill.washLineMm ?? 0) + 2)
    expect(plain?.froth).toBeUndefined()
    const stirred = served(frothy(2), { ...glass, stages: [{ method: 'stir' }] }).result.glass
    expect(stirred?.froth).toBeUndefined()
    expect(stirred?.fill.foamTopMm).toBeUndefined()
  })

  it('over the brim it says what keeps it under: the fewest bursts, else standing, else a larger glass', () => {
    expect(frothAdvice(3, 0, 0.9)).toEqual({ bursts: 2, burstS: 1.5 })
    expect(frothAdvice(3, 0, 0.83)).toMatchObject({ bursts: 3, burstS: 1 })
    expect(frothAdvice(undefined, 0, 0.4)).toMatchObject({ standS: expect.any(Number) })
    expect(frothAdvice(3, 0, 0.01)).toBeUndefined()
    // What is advised holds.
    const advised = frothAdvice(4, 20, 0.95)
    if (!advised?.bursts) throw new Error('no bursts')
    const left = (pace: { durationS: number; bursts?: number; restS?: number }) =>
      frothMlOf(settled(worked(NO_FROTH, 1, pace), 20))
    expect(left({ durationS: 4, bursts: advised.bursts, restS: 5 })).toBeLessThanOrEqual(0.95 * left({ durationS: 4 }))

    const brimful = served(frothy(3), { glass: 'tall', serves: 1, serveIce: [{ kind: 'crushed', massG: 205 }] })
    const foam = brimful.consequences.find((c) => c.code === 'foam')
    expect(foam?.text).toMatch(/^(foams \d+ ml over the brim, assumed: (two|three) bursts of|froths: )/)
  })

  it('is known by a ruler on a tin, else by what things are called', () => {
    // 20 mm in a tin of 80 mm is 100.5 ml; of 60 ml of juice.
    expect(frothFromRuler({ volumeMl: 60, heightMm: 20, tinDiameterMm: 80 })).toBeCloseTo(1.6755, 4)
    const juice = (name: string, more = {}) => bottle('x', 0, 0, 0, { kind: 'juice', name, ...more })
    expect(frothingOf(juice('Pineapple juice'))).toEqual({ mlPerMl: 0.6, isAssumed: true })
    expect(frothingOf(juice('Lime juice'))).toBeUndefined()
    expect(frothingOf(juice('Lime juice', { frothMlPerMl: 0.2, frothBasis: 'measured' }))).toEqual({
      mlPerMl: 0.2,
      isAssumed: false,
    })
    expect(frothingOf(bottle('x', 40, 0, 0, { name: 'Pineapple rum' }))).toBeUndefined()
  })
})
