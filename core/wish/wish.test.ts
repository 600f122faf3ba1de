import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ALLERGENS } from '../schema/lists.ts'
import { fitsWish, readWish, sayWish, type Wished } from './index.ts'

const near = (value: number, by = 0) => ({ value, low: value - by, high: value + by })
const drink = (more: Partial<Wished> = {}): Wished => ({
  predictions: {
    strengthPct: near(12, 1),
    sweetGPer100Ml: near(7),
    sourGPer100Ml: near(0.9),
    volumeMl: near(190),
  },
  serves: 1,
  allergens: [],
  isAllergenUnsure: false,
  stemMm: 0,
  text: 'Low Tide, pot-still rum, lime juice, pineapple juice',
  ...more,
})

describe('a wish', () => {
  it.each([
    ['no nuts, under 15 %, long', ['without tree nuts', 'without peanuts', 'at most 15 %', 'long']],
    ['without dairy or egg', ['without dairy', 'without egg']],
    ['nut-free, gluten free', ['without tree nuts', 'without peanuts', 'without gluten']],
    ['something tart with pineapple, not sweet', ['sour', 'not sweet', '“pineapple” in it']],
    ['12 to 18 % gin', ['at most 18 %', 'at least 12 %', '“gin” in it']],
    ['at least 20 % and short', ['at least 20 %', 'short']],
    ['no gin, no rum', ['no “gin”', 'no “rum”']],
    ['alcohol-free', ['at most 0.5 %']],
    ['not more than 10%', ['at most 10 %']],
    ['', []],
    ['12', ['at most 12 %']],
  ])('“%s” is understood', (text, said) => {
    expect(sayWish(readWish(text))).toEqual(said)
  })

  it('knows every allergen of the lists by its own name', () => {
    for (const a of ALLERGENS) expect(readWish(`no ${a}`).withoutAllergens).toContain(a)
  })

  it('takes whatever is typed', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 80 }), (text) => typeof fitsWish(readWish(text), drink()) === 'boolean'),
    )
  })
})

describe('a drink fits', () => {
  const fits = (text: string, more: Partial<Wished> = {}) => fitsWish(readWish(text), drink(more))
  it('by strength as far as it may be off, by what it is like, and by what is in it', () => {
    expect(fits('under 15 %')).toBe(true)
    // 12.4 ± 1 may be 13.4.
    expect(fits('under 13 %', { predictions: { strengthPct: near(12.4, 1) } })).toBe(false)
    expect(fits('over 10 %, long, sour, pineapple, not sweet')).toBe(true)
    expect(fits('short')).toBe(false)
    expect(fits('long', { serves: 4 })).toBe(false)
    expect(fits('shared', { serves: 4 })).toBe(true)
    expect(fits('up', { stemMm: 85 })).toBe(true)
    expect(fits('pot still')).toBe(true)
    // In the middle of a word is not in it.
    expect(fits('apple')).toBe(false)
    expect(fits('no lime')).toBe(false)
    expect(fits('gin', { text: 'Ginger beer' })).toBe(false)
    expect(fits('no gin', { text: 'Ginger beer' })).toBe(true)
    expect(fits('pinea')).toBe(true)
  })

  it('never by what is not known', () => {
    for (const wish of [
      'under 90 %',
      'over 1 %',
      'sweet',
      'not sweet',
      'dry',
      'not dry',
      'sour',
      'not sour',
      'long',
      'short',
    ])
      expect(fits(wish, { predictions: {} })).toBe(false)
    expect(fits('no celery', { isAllergenUnsure: true })).toBe(false)
    expect(fits('long', { isAllergenUnsure: true })).toBe(true)
  })

  it('never with an allergen that was not wanted, whatever else is wished', () => {
    const wishes = fc.constantFrom('long', 'under 40 %', 'rum', 'sour', 'not dry', '')
    fc.assert(
      fc.property(fc.constantFrom(...ALLERGENS), fc.subarray([...ALLERGENS]), wishes, (a, has, more) => {
        const answer = fits(`no ${a}, ${more}`, { allergens: has })
        expect(answer && has.includes(a)).toBe(false)
      }),
    )
  })
})
