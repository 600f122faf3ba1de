import { describe, expect, it } from 'vitest'
import { emptyLot, offBy, toRequest } from './makeLotState.ts'

describe('a lot in the making', () => {
  const size = { to: 'yieldG' as const, massG: 1000 }
  it('sends only what was weighed and measured', () => {
    expect(toRequest('plain-syrup', 2, emptyLot(size))).toEqual({ ingredient: 'plain-syrup', factor: 2, weighed: [] })
    const lot = { ...emptyLot(size), weighedG: { sugar: 1010 }, measured: { brix: 53 }, note: ' cloudy ' }
    expect(toRequest('plain-syrup', 2, lot)).toEqual({
      ingredient: 'plain-syrup',
      factor: 2,
      weighed: [{ ingredient: 'sugar', actualG: 1010 }],
      measured: { brix: 53 },
      note: 'cloudy',
    })
  })
  it('of pressed juice sends the fruit', () => {
    const lot = { ...emptyLot(size), fruitCount: 40, fruitSize: ' small ', measured: { volumeMl: 1100 } }
    expect(toRequest('lime-juice', 1, lot)).toEqual({
      ingredient: 'lime-juice',
      pressed: { fruitCount: 40, size: 'small' },
      weighed: [],
      measured: { volumeMl: 1100 },
    })
  })
  it('says how far a weight is off, beyond what a hand can help', () => {
    expect(offBy(1000, 1009)).toBeUndefined()
    expect(offBy(20, 21)).toBeUndefined()
    expect(offBy(1000, 1030)).toBe('30 g too much')
    expect(offBy(20, 15)).toBe('5 g too little')
  })
})
