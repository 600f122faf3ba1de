import { describe, expect, it } from 'vitest'
import { testHouse } from '../testing/house.ts'
import { nameApart, nameIn, namesIn } from './index.ts'
import type { Ingredient } from './schema.ts'

const bottle = testHouse().ingredients.find((i) => i.kind === 'spirit') as Ingredient
const called = (slug: string, abvPct: number, more: Partial<Ingredient> = {}): Ingredient => ({
  ...bottle,
  slug,
  name: 'Weir Gold',
  figures: { ...bottle.figures, abvPct: { value: abvPct, basis: 'label' } },
  ...more,
})
const namesOf = (all: Ingredient[]) => all.map((i) => nameApart(i, all))

describe('things of one name', () => {
  it('are told apart by strength, else style, origin or size, else by their slug', () => {
    expect(namesOf([called('a', 40), called('b', 46)])).toEqual(['Weir Gold (40 %)', 'Weir Gold (46 %)'])
    expect(
      namesOf([called('a', 40, { style: 'aged' }), called('b', 40, { style: 'cask', name: ' weir gold ' })]),
    ).toEqual(['Weir Gold (aged)', ' weir gold  (cask)'])
    expect(namesOf([called('a', 40, { size: 700 }), called('b', 40, { size: 1000 }), called('c', 46)])).toEqual([
      'Weir Gold (700 ml)',
      'Weir Gold (1000 ml)',
      'Weir Gold (46 %)',
    ])
    expect(namesOf([called('a', 40), called('b', 40)])).toEqual(['Weir Gold (a)', 'Weir Gold (b)'])
  })

  it('go by their name alone where nothing else has it, and by the slug where they are not there', () => {
    const all = [called('a', 40), called('b', 40, { name: 'Weir Black' })]
    expect(namesOf(all)).toEqual(['Weir Gold', 'Weir Black'])
    expect(nameIn(all, 'b')).toBe('Weir Black')
    expect(nameIn(all, 'gone')).toBe('gone')
    // The list of the next house is looked through anew.
    const nameOf = namesIn({ ingredients: [...all, called('c', 46)] })
    expect(['a', 'c', 'gone'].map(nameOf)).toEqual(['Weir Gold (40 %)', 'Weir Gold (46 %)', 'gone'])
  })
})
