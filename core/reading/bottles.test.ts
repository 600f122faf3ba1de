import { describe, expect, it } from 'vitest'
import { ingredientSchema } from '../house/schema.ts'
import { bottle, testHouse } from '../testing/house.ts'
import { readBottleRow, toBottleRow } from './bottleRow.ts'
import { readGrams, readPrice, readSize, readStrength, readSugar } from './readFigures.ts'

describe('a figure as people write it', () => {
  it.each<[string, number]>([
    ['40', 40],
    ['40 %', 40],
    ['63,5% vol', 63.5],
    ['80 proof', 40],
    ['126 US proof', 63],
    ['70 British proof', 40],
    ['100° proof', 50],
  ])('strength %s', (text, abv) => expect(readStrength(text)).toEqual({ ok: true, value: abv }))

  it.each<[string, number]>([
    ['62', 62],
    ['62 g/100 ml', 62],
    ['620 g/l', 62],
    ['250 g / l', 25],
    // 65 °Bx at 1.3163 g/ml (handbook, 20 °C).
    ['65 °Bx', 85.5595],
    ['50 brix', 61.48],
  ])('sugar %s', (text, g) => expect(readSugar(text)).toEqual({ ok: true, value: g }))

  it.each<[string, number]>([
    ['700', 700],
    ['70 cl', 700],
    ['0,7 l', 700],
    ['1 kg', 1000],
  ])('size %s', (text, ml) => expect(readSize(text)).toEqual({ ok: true, value: ml }))

  it('that cannot be says what can', () => {
    expect(readStrength('240 proof')).toEqual({ ok: false, reason: '“240 proof” is 120 % ABV; at most 100' })
    expect(readStrength('strong')).toMatchObject({ ok: false })
    expect(readSugar('120 °Bx')).toEqual({ ok: false, reason: '“120 °Bx” cannot be; a syrup has at most 70 °Bx' })
    expect(readSugar('2000 g/l')).toEqual({ ok: false, reason: '“2000 g/l” is 200 g in 100 ml; at most 130' })
    expect(readGrams('-3', 100)).toMatchObject({ ok: false })
    expect(readSize('0')).toMatchObject({ ok: false })
    expect(readPrice('free')).toMatchObject({ ok: false })
    expect(readPrice('€ 24,50')).toEqual({ ok: true, value: 24.5 })
  })
})

describe('a row of bottles', () => {
  it('becomes a bottle with its figures from the label', () => {
    const read = readBottleRow({
      name: 'Ropewalk Gold',
      kind: 'spirit',
      strength: '80 proof',
      size: '70 cl',
      price: '19,90',
      allergens: 'gluten; sulphites',
      'earlier names': 'Ropewalk Seal; Old Ropewalk',
      stock: 'low',
    })
    if (!read.ok) throw new Error(read.problems.map((p) => p.message).join())
    expect(read.ingredient).toMatchObject({
      slug: 'ropewalk-gold',
      figures: { abvPct: { value: 40, basis: 'label' } },
      size: 700,
      price: 19.9,
      allergens: ['gluten', 'sulphites'],
      formerNames: ['Ropewalk Seal', 'Old Ropewalk'],
      stock: 'low',
    })
    expect(ingredientSchema.safeParse(read.ingredient).success).toBe(true)
  })

  it('names every cell that cannot be', () => {
    expect(
      readBottleRow({
        name: '',
        kind: 'soup',
        strength: '300',
        stock: 'gone',
        allergens: 'cats',
        'known by': 'a dream',
      }),
    ).toEqual({
      ok: false,
      problems: [
        { column: 'name', message: 'give it a name' },
        { column: 'known by', message: '“a dream” is not one of measured, label, assumed, unknown' },
        {
          column: 'kind',
          message:
            '“soup” is not one of spirit, blend, liqueur, wine, bitters, juice, purée, syrup, house mix, soda, dairy, produce, dry goods, garnish, other',
        },
        { column: 'strength', message: '“300” is 300 % ABV; at most 100' },
        { column: 'stock', message: '“gone” is not one of stocked, low, out, discontinued' },
        {
          column: 'allergens',
          message:
            '“cats” is not one of tree nuts, peanuts, dairy, egg, sulphites, coconut, gluten, sesame, soya, celery',
        },
      ],
    })
  })

  it('goes out and comes back the same', () => {
    const full = bottle('quay-cream', 0, 12.5, 0, {
      kind: 'dairy',
      storedIn: 'fridge',
      allergens: ['dairy'],
      formerNames: ['old cream'],
      stock: 'low',
      size: 500,
      price: 3.2,
      style: 'sweetened',
      colour: 'white',
      keepsDays: 3,
      note: 'shake it, then pour',
    })
    for (const i of [full, ...testHouse().ingredients]) {
      const again = readBottleRow(toBottleRow(i))
      if (!again.ok) throw new Error(again.problems.map((p) => p.message).join())
      expect(toBottleRow(again.ingredient)).toEqual({ ...toBottleRow(i) })
      expect(again.ingredient.figures.sugarGPer100Ml.value).toBe(i.figures.sugarGPer100Ml.value)
    }
  })
})
