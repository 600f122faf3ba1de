import { describe, expect, it } from 'vitest'
import { glassFor } from '../drink/index.ts'
import { mixerOfToday } from '../formula/index.ts'
import { testDrink, testHouse } from '../testing/house.ts'
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

  it('are told apart in what is computed of them: pours, cautions, what a mix is weighed of', () => {
    const strong = called('strong', 63, { formerNames: [] })
    const weak = called('weak', 40)
    const mix: Ingredient = {
      ...bottle,
      slug: 'two-golds',
      name: 'Two Golds',
      kind: 'blend',
      recipe: {
        by: 'partsByVolume',
        components: [
          { ingredient: 'strong', amount: 1 },
          { ingredient: 'weak', amount: 1 },
        ],
        steps: [],
      },
    }
    const house = testHouse()
    const book = { ...house, ingredients: [...house.ingredients, strong, weak, mix] }
    const drink = testDrink({ pours: [strong, weak].map((i) => ({ ingredient: i.slug, volumeMl: 30 })) })
    const glass = glassFor(drink, book, 'front')
    if (!glass.ok) throw new Error(JSON.stringify(glass))
    expect(glass.result.pours.map((p) => p.name)).toEqual(['Weir Gold (63 %)', 'Weir Gold (40 %)'])
    expect(glass.consequences.find((c) => c.code === 'overproof')?.text).toContain('Weir Gold (63 %) is overproof')

    const made = mixerOfToday({ ...book, lots: [] }, '2026-09-01').freshMixOf('two-golds')
    expect(made.ok && made.mix.parts.map((p) => p.name)).toEqual(['Weir Gold (63 %)', 'Weir Gold (40 %)'])
  })
})
