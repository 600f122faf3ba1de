import { describe, expect, it } from 'vitest'
import { mlFromWater, readMeasures, writeMeasures } from './measureKit.ts'

describe('a measure weighed with water', () => {
  it('is its share of the weight, at water’s density at 20 °C', () => {
    expect(mlFromWater('dashMl', 9)).toBeCloseTo(0.902, 3)
    expect(mlFromWater('barSpoonMl', 21)).toBeCloseTo(4.208, 3)
  })
  it('is none when it cannot be one', () => {
    expect(mlFromWater('dashMl', 900)).toBeUndefined()
    expect(mlFromWater('dropMl', 0)).toBeUndefined()
  })
})

describe('what the house owns', () => {
  it('is written a line each', () => {
    const text = 'two-sided jigger: 30, 45\nbar spoon: 4.2 ml\n'
    expect(readMeasures(text)).toEqual({
      ok: true,
      measures: [
        { name: 'two-sided jigger', volumesMl: [30, 45] },
        { name: 'bar spoon', volumesMl: [4.2] },
      ],
    })
    expect(writeMeasures([{ name: 'jigger', volumesMl: [30, 45] }])).toBe('jigger: 30, 45')
  })
  it.each(['jigger', 'jigger:', ': 30', 'jigger: 0', 'jigger: half', 'a: 1,2,3,4,5,6,7,8,9'])(
    '%s names its line',
    (text) => {
      expect(readMeasures(text)).toMatchObject({ ok: false, reason: expect.stringContaining('line 1') })
    },
  )
})
