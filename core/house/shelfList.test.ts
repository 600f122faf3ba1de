import { describe, expect, it } from 'vitest'
import { type Ingredient, type ShelfShown, type ShelfSort, shelfList } from './index.ts'

const label = (value: number) => ({ value, basis: 'label' as const })
const thing = (name: string, abv: number, more: Partial<Ingredient> = {}): Ingredient => ({
  slug: name.toLowerCase().replaceAll(' ', '-'),
  name,
  kind: 'spirit',
  figures: { abvPct: label(abv), sugarGPer100Ml: label(0), acidGPer100Ml: label(0) },
  storedIn: 'shelf',
  allergens: [],
  formerNames: [],
  ...more,
})
const SHELF = [
  thing('Orlop', 40, { price: 20, size: 700, style: 'white column' }),
  thing('Brack', 63, { stock: 'out', formerNames: ['Old Brack'] }),
  thing('Syrup', 0, {
    kind: 'syrup',
    price: 2,
    size: 1000,
    figures: { abvPct: label(0), sugarGPer100Ml: { value: 60, basis: 'assumed' }, acidGPer100Ml: label(0) },
  }),
]
const names = (change: { shown?: ShelfShown; sort?: ShelfSort; isDown?: boolean }) =>
  shelfList(SHELF, { shown: 'all', sort: 'shelf', isDown: false, ...change }).map((i) => i.name)

describe('the back bar', () => {
  it('shows what is homework, what runs out, what has no price', () => {
    expect(names({ shown: 'homework' })).toEqual(['Syrup'])
    expect(names({ shown: 'low' })).toEqual(['Brack'])
    expect(names({ shown: 'priceless' })).toEqual(['Brack'])
    expect(names({ shown: 'syrup' })).toEqual(['Syrup'])
  })
  it('is sorted by any column, either way', () => {
    expect(names({ sort: 'name' })).toEqual(['Brack', 'Orlop', 'Syrup'])
    expect(names({ sort: 'abvPct', isDown: true })).toEqual(['Brack', 'Orlop', 'Syrup'])
    expect(names({ sort: 'price', isDown: true })).toEqual(['Orlop', 'Syrup', 'Brack'])
  })
})
