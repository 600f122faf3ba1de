import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { resolveDrink } from '../drink/index.ts'
import { causesOf } from '../menu/index.ts'
import type { Slot } from '../palate/index.ts'
import { slotSchema } from '../schema/palate.ts'
import { bottle, testDrink, testHouse } from '../testing/house.ts'
import { drinkTonight, type OutMark, outMarkOf, outsAt } from './index.ts'

const WELLS = [{ slug: 'front' }, { slug: 'yard' }]
let id = 0
const mark = (kind: OutMark['kind'], of: string, more: Partial<OutMark> = {}): OutMark => ({
  id: ++id,
  kind,
  of,
  well: null,
  level: 'out',
  ...more,
})

const LIME = { slug: 'lime-juice', name: 'lime juice', kind: 'juice', fruit: { name: 'Lime', mlPerFruit: 26 } } as const
const slot: Slot = slotSchema.parse({
  slug: 'light',
  name: 'Light rum',
  target: { oak: 1 },
  abvPct: { low: 30, high: 70 },
  candidates: [{ ingredient: 'plain-rum' }, { ingredient: 'strong-rum' }],
  pick: 'plain-rum',
})
const houseWith = (marks: readonly OutMark[], lots: { id: number; ingredient: string }[] = []) => {
  const house = testHouse()
  const { ingredients, glasses } = house
  return { ...house, slots: [slot], outAt: outsAt(marks, { ingredients, glasses, lots }, WELLS) }
}

describe('what is out', () => {
  it('is so where it was said, and nowhere else', () => {
    const marks = [mark('ingredient', 'plain-rum', { well: 'yard' }), mark('glass', 'tall'), mark('ingredient', 'soda')]
    const { outAt } = houseWith(marks)
    expect(outAt).toEqual({
      front: { ingredients: ['soda'], glasses: ['tall'], fruits: [] },
      yard: { ingredients: ['plain-rum', 'soda'], glasses: ['tall'], fruits: [] },
    })
  })

  it('is told apart from what only runs low', () => {
    expect(houseWith([mark('ingredient', 'plain-rum', { level: 'low' })]).outAt.front?.ingredients).toEqual([])
  })

  it('is a mix when all of its lots are, and not before', () => {
    const lots = [
      { id: 3, ingredient: 'lime-juice' },
      { id: 4, ingredient: 'lime-juice' },
    ]
    const three = mark('lot', '3', { ingredient: 'lime-juice' })
    const four = mark('lot', '4', { ingredient: 'lime-juice', well: 'yard' })
    const at = (well: string, marks: OutMark[], open = lots) => outMarkOf(LIME, well, marks, open)?.of
    expect(at('front', [three])).toBeUndefined()
    expect(at('yard', [three, four])).toBe('3')
    expect(at('front', [three, four])).toBeUndefined()
    // Used up since: it is still the last word; a new lot takes it back.
    expect(at('front', [three], [])).toBe('3')
    expect(at('front', [three], [{ id: 5, ingredient: 'lime-juice' }])).toBeUndefined()
  })

  it('is a juice when its fruit is and nothing pressed of it is left', () => {
    const limes = [mark('fruit', 'lime')]
    expect(outMarkOf(LIME, 'front', limes, [])?.of).toBe('lime')
    expect(outMarkOf(LIME, 'front', limes, [{ id: 1, ingredient: 'lime-juice' }])).toBeUndefined()
    const peel = { slug: 'peel', name: 'Lime', kind: 'produce' } as const
    expect(outMarkOf(peel, 'front', limes, [])?.of).toBe('lime')
  })

  it('never says anything of what a mix is made of, and says the same in whatever order it is told', () => {
    const kinds = fc.constantFrom<OutMark['kind']>('ingredient', 'fruit', 'glass', 'lot')
    const slugs = fc.constantFrom('plain-rum', 'strong-rum', 'lime-juice', 'tall', '3', 'lime')
    const one = fc.record({ kind: kinds, of: slugs, well: fc.constantFrom(null, 'front', 'yard') })
    fc.assert(
      fc.property(fc.array(one, { maxLength: 8 }), (said) => {
        const marks = said.map((s) => mark(s.kind, s.of, { well: s.well }))
        const house = testHouse()
        const shelf = { ...house, lots: [] }
        const [a, b] = [outsAt(marks, shelf, WELLS), outsAt([...marks].reverse(), shelf, WELLS)]
        for (const { slug } of WELLS) {
          expect(new Set(a[slug]?.ingredients)).toEqual(new Set(b[slug]?.ingredients))
          for (const i of a[slug]?.ingredients ?? [])
            expect(marks.some((m) => m.of === i && (m.well === null || m.well === slug))).toBe(true)
        }
        // More marks never bring anything back.
        const fewer = outsAt(marks.slice(1), shelf, WELLS)
        for (const { slug } of WELLS)
          for (const i of fewer[slug]?.ingredients ?? []) expect(a[slug]?.ingredients).toContain(i)
      }),
    )
  })
})

describe('a drink tonight', () => {
  it('is dark where something that it names is out, and says what', () => {
    const book = houseWith([
      mark('ingredient', 'lime-juice', { well: 'yard' }),
      mark('glass', 'tall', { well: 'yard' }),
    ])
    expect(drinkTonight(testDrink(), book, 'front').missing).toEqual([])
    expect(drinkTonight(testDrink(), book, 'yard').missing).toEqual([
      { kind: 'ingredient', of: 'lime-juice', name: 'lime juice' },
      { kind: 'glass', of: 'tall', name: 'tall glass' },
    ])
    // The glass that is taken at this well counts.
    const own = testDrink({ glassByWell: { yard: 'thimble' } })
    expect(drinkTonight(own, book, 'yard').missing.map((m) => m.of)).toEqual(['lime-juice'])
  })

  it('pours the next candidate of a slot, says so, and is dark when none is left', () => {
    const drink = testDrink({ pours: [{ slot: 'light', amount: { value: 2, unit: 'oz' } }] })
    const one = houseWith([mark('ingredient', 'plain-rum', { well: 'yard' })])
    expect(drinkTonight(drink, one, 'front')).toEqual({ missing: [], swapped: [], without: [] })
    expect(drinkTonight(drink, one, 'yard').swapped).toEqual([
      { slot: 'Light rum', insteadOf: 'plain rum', is: 'strong rum' },
    ])
    const poured = (well: string) => {
      const made = resolveDrink(drink, one, well)
      return made.ok ? made.drink.pours[0]?.name : made.problems
    }
    expect([poured('front'), poured('yard')]).toEqual(['plain rum', 'strong rum'])
    const both = houseWith([mark('ingredient', 'plain-rum'), mark('ingredient', 'strong-rum')])
    expect(drinkTonight(drink, both, 'yard').missing).toEqual([{ kind: 'slot', of: 'light', name: 'Light rum' }])
  })

  it('is made without a garnish that is not there', () => {
    const house = houseWith([mark('fruit', 'lime'), mark('ingredient', 'mint')])
    const mint = bottle('mint', 0, 0, 0, { kind: 'garnish' })
    const book = {
      ...house,
      ingredients: [...house.ingredients, mint],
      outAt: outsAt(
        [mark('fruit', 'lime'), mark('ingredient', 'mint')],
        { ...house, ingredients: [mint], lots: [] },
        WELLS,
      ),
    }
    const garnish = [{ text: 'Lime wheel' }, { text: 'limestone' }, { text: 'mint, a sprig' }, { text: 'nutmeg' }]
    expect(drinkTonight(testDrink({ garnish }), book, 'front').without).toEqual(['Lime wheel', 'mint, a sprig'])
  })

  it('moves as its causes say: what is out has its share', () => {
    const drink = testDrink({ pours: [{ slot: 'light', amount: { value: 2, unit: 'oz' } }] })
    const locked = { ...testHouse(), slots: [slot] }
    const today = houseWith([mark('ingredient', 'plain-rum')])
    const then = causesOf({ document: drink, locked, lockedPredictions: {}, today, well: 'front' })
    expect(then.ok && then.moved.causes).toEqual([])
    const strength = (value: number) => ({ strengthPct: { value, low: value, high: value } })
    const made = causesOf({ document: drink, locked, lockedPredictions: strength(20), today, well: 'front' })
    if (!made.ok) throw new Error(made.reason)
    const at = made.moved.causes.findIndex((c) => c.kind === 'out')
    const moved = made.moved.measures.strengthPct
    expect(made.moved.causes[at]).toEqual({ kind: 'out', of: 'plain-rum', name: 'plain rum' })
    expect(moved?.shares[at]).toBeGreaterThan(5)
    expect((moved?.was ?? 0) + (moved?.shares.reduce((a, b) => a + b, 0) ?? 0)).toBeCloseTo(moved?.now ?? 0, 9)
  })
})
