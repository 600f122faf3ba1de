import { describe, expect, it } from 'vitest'
import {
  type Amount,
  amountLike,
  amountText,
  DEFAULT_KIT,
  nextPourOf,
  pourGrid,
  readAmount,
  toFraction,
  type Unit,
  valueText,
  volumeMlOfAmount,
} from './index.ts'

describe('reading an amount', () => {
  it.each<[string, number, Unit]>([
    ['1 1/2 oz', 1.5, 'oz'],
    ['1½ oz', 1.5, 'oz'],
    ['½oz', 0.5, 'oz'],
    ['¾', 0.75, 'ml'],
    ['45 ml', 45, 'ml'],
    ['2,5 cl', 2.5, 'cl'],
    ['3 dashes', 3, 'dash'],
    ['⅛ tsp', 0.125, 'tsp'],
    ['1 bsp', 1, 'barSpoon'],
    ['2 bar spoons', 2, 'barSpoon'],
    ['2 parts', 2, 'part'],
    ['3/4 oz.', 0.75, 'oz'],
    ['7/8 oz', 0.875, 'oz'],
    ['.5 oz', 0.5, 'oz'],
    [',5 oz', 0.5, 'oz'],
    ['one and a half oz', 1.5, 'oz'],
    ['1 and 1/2 oz', 1.5, 'oz'],
    ['1 & ½ oz', 1.5, 'oz'],
    ['1-1/2 oz', 1.5, 'oz'],
    ['three quarters of an ounce', 0.75, 'oz'],
    ['three-quarters oz', 0.75, 'oz'],
    ['two thirds of an oz', 2 / 3, 'oz'],
    ['half an ounce', 0.5, 'oz'],
    ['a quarter oz', 0.25, 'oz'],
    ['two dashes', 2, 'dash'],
    ['ten sprays', 10, 'spray'],
  ])('%s', (text, value, unit) => {
    expect(readAmount(text)).toEqual({ ok: true, amount: { value, unit, asWritten: text } })
  })

  it('says what it cannot read, and what it can', () => {
    expect(readAmount('some')).toEqual({
      ok: false,
      reason: '“some” is not an amount; write it like 1½ oz, 45 ml or 2 dashes',
    })
    expect(readAmount('a splash')).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/^“splash” is not a unit/),
    })
    expect(readAmount('2 hogsheads')).toEqual({
      ok: false,
      reason:
        '“hogsheads” is not a unit we know; use ml, cl, oz, dash, drop, spray, bar spoon, tsp, tbsp, cup, count, part',
    })
    expect(readAmount('1/0 oz')).toMatchObject({ ok: false })
    expect(readAmount('-2 oz')).toMatchObject({ ok: false })
    expect(readAmount('')).toMatchObject({ ok: false })
  })

  it('takes the fallback unit for a bare number', () => {
    expect(readAmount('1½', 'oz')).toMatchObject({ amount: { value: 1.5, unit: 'oz' } })
  })
})

describe('an amount in ml', () => {
  it('follows the house’s ounce', () => {
    expect(volumeMlOfAmount({ value: 2, unit: 'oz' }, DEFAULT_KIT)).toBe(60)
    expect(volumeMlOfAmount({ value: 2, unit: 'oz' }, { ...DEFAULT_KIT, ounceMl: 29.5735 })).toBeCloseTo(59.147, 6)
  })

  it('of a part is unknown until somebody says how large it is', () => {
    expect(volumeMlOfAmount({ value: 2, unit: 'part' }, DEFAULT_KIT)).toBeUndefined()
    expect(volumeMlOfAmount({ value: 2, unit: 'part' }, DEFAULT_KIT, 25)).toBe(50)
  })
})

describe('an amount to show', () => {
  it('keeps fractions and plurals, and millilitres in decimals', () => {
    expect(valueText(1.5)).toBe('1½')
    expect(valueText(0.41)).toBe('0.41')
    expect(amountText({ value: 2, unit: 'dash' })).toBe('2 dashes')
    expect(amountText({ value: 1, unit: 'barSpoon' })).toBe('1 bar spoon')
    expect(amountText({ value: 0.75, unit: 'oz' })).toBe('¾ oz')
    expect(amountText({ value: 22.5, unit: 'ml' })).toBe('22.5 ml')
    expect(amountText({ value: 0.75, unit: 'cl' })).toBe('0.75 cl')
  })
})

describe('a fraction to show', () => {
  it('is simple or none', () => {
    expect(toFraction(1.5)).toEqual({ whole: 1, above: 1, below: 2 })
    expect(toFraction(0.875)).toEqual({ whole: 0, above: 7, below: 8 })
    expect(toFraction(0.33333)).toEqual({ whole: 0, above: 1, below: 3 })
    expect(toFraction(2)).toEqual({ whole: 2, above: 0, below: 1 })
    expect(toFraction(0.41)).toBeUndefined()
  })
})

describe('an amount written as another was', () => {
  const oz = { value: 1, unit: 'oz' as const }
  it('is in ounces where they make a fraction that people pour, else in ml', () => {
    expect(amountLike(oz, 22.5, 30)).toEqual({ value: 0.75, unit: 'oz' })
    expect(amountLike(oz, 21.3, 30)).toEqual({ value: 21.3, unit: 'ml' })
    expect(amountLike(undefined, 45, 30)).toEqual({ value: 1.5, unit: 'oz' })
  })
  it('of a metric line stays metric', () => {
    expect(amountLike({ value: 3, unit: 'cl' }, 30, 30)).toEqual({ value: 30, unit: 'ml' })
  })
})

describe('arrows over the pours of a house', () => {
  const measures = [{ name: 'jigger', volumesMl: [11.25, 15, 22.5, 30] }]
  const gridMl = pourGrid(measures).map((g) => g.volumeMl)
  const steps = (from: Amount, direction: number, count: number) => {
    const seen: number[] = []
    let amount = from
    for (let i = 0; i < count; i++) {
      const value = nextPourOf(amount, direction, DEFAULT_KIT, gridMl)
      if (value === undefined) break
      seen.push(Number(value.toFixed(4)))
      amount = { ...amount, value }
    }
    return seen
  }
  it('go through every one of them, ⅜ oz too, in the amount’s own unit', () => {
    expect(steps({ value: 0.25, unit: 'oz' }, 1, 4)).toEqual([0.375, 0.5, 0.75, 0.875])
    expect(steps({ value: 20, unit: 'ml' }, 1, 3)).toEqual([22.5, 26.25, 30])
    expect(steps({ value: 3, unit: 'cl' }, -1, 3)).toEqual([2.625, 2.25, 1.5])
  })
  it('from any amount reach the ends, and no further', () => {
    const up = steps({ value: 0.01, unit: 'oz' }, 1, 100)
    expect(up).toHaveLength(gridMl.length)
    expect(steps({ value: (up.at(-1) ?? 0) + 1, unit: 'oz' }, -1, 100)).toHaveLength(gridMl.length)
  })
  it('are not asked of what is counted', () => {
    expect(nextPourOf({ value: 2, unit: 'dash' }, 1, DEFAULT_KIT, gridMl)).toBeUndefined()
  })
})
