import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { slotSchema } from '../schema/palate.ts'
import { bottle, testDrink, testHouse } from '../testing/house.ts'
import {
  alignPours,
  type Comparable,
  changedMost,
  changeText,
  comparableOf,
  comparedRemarks,
  EQUAL_SYRUP_G_PER_100_ML,
  NORMAL_STEP_NAMES,
  type NormalStep,
  normalise,
  pouredMlOf,
} from './index.ts'

const book = {
  ...testHouse(),
  ingredients: [
    ...testHouse().ingredients,
    bottle('lemon-juice', 0, 2, 6, { kind: 'juice' }),
    bottle('old-rum', 46, 0, 0, { stock: 'discontinued' }),
    bottle('passion-puree', 0, 10, 3, { kind: 'puree', name: 'Passion fruit purée' }),
    bottle('passion-syrup', 0, 65, 1, { kind: 'syrup', name: 'Passion fruit syrup' }),
    bottle('apricot', 24, 25, 0, { kind: 'liqueur' }),
    bottle('bitters', 44, 0, 0, { kind: 'bitters' }),
  ],
  slots: [
    slotSchema.parse({
      slug: 'aged',
      name: 'aged rum',
      target: { weight: 5 },
      abvPct: { low: 38, high: 50 },
      candidates: [{ ingredient: 'plain-rum' }, { ingredient: 'old-rum' }],
      pick: 'plain-rum',
    }),
  ],
}
type Pour = [what: string, ml: number, into?: 'tin' | 'glass' | 'float']
const sideOf = (key: string, pours: Pour[], serves = 1): Comparable => {
  const document = testDrink({
    name: key,
    serves,
    pours: pours.map(([ingredient, value, into = 'tin']) => ({ ingredient, amount: { value, unit: 'ml' }, into })),
  })
  const made = comparableOf(key, document, book, 'front')
  if (!made.ok) throw new Error(JSON.stringify(made.problems))
  return made.side
}
const lineWords = (side: Comparable | undefined) => side?.lines.map((l) => `${l.name} ${Number(l.volumeMl.toFixed(1))}`)
const step = (sides: Comparable[], ...steps: NormalStep[]) => normalise(sides, new Set(steps), book)

describe('counted alike', () => {
  const bowl = sideOf(
    'bowl',
    [
      ['plain-rum', 180],
      ['lime-juice', 90],
      ['nut-syrup', 60],
    ],
    4,
  )
  const one = sideOf('one', [
    ['old-rum', 60],
    ['lime-juice', 30],
    ['sugar-syrup', 15],
  ])

  it('one serve of each', () => {
    const { sides, done } = step([bowl, one], 'oneServe')
    expect(lineWords(sides[0])).toEqual(['plain rum 45', 'lime juice 22.5', 'nut syrup 15'])
    expect(sides[1]).toBe(one)
    expect(done).toEqual([{ step: 'oneServe', key: 'bowl', words: 'one of 4 serves' }])
  })

  it('a bottle that is gone as the slot that it may fill; one that is there stays', () => {
    const { sides, done } = step([bowl, one], 'slots')
    expect(lineWords(sides[1])?.[0]).toBe('aged rum 60')
    expect(sides[0]?.lines[0]?.what).toBe('plain-rum')
    expect(done.map((d) => d.words)).toEqual(['old rum is gone: as aged rum'])
  })

  it('syrups by their sugar, and nothing else: no liqueur, no juice', () => {
    const side = sideOf('s', [
      ['nut-syrup', 30],
      ['apricot', 15],
      ['lime-juice', 20],
    ])
    const { sides } = step([side], 'equalSugar')
    expect(lineWords(sides[0])).toEqual([
      `nut syrup ${Number(((30 * 70) / EQUAL_SYRUP_G_PER_100_ML).toFixed(1))}`,
      'apricot 15',
      'lime juice 20',
    ])
    expect(sides[0]?.lines[0]?.sugarG).toBe(side.lines[0]?.sugarG)
  })

  it('an equal-weights syrup has 61.5 g of sugar in 100 ml (sucrose tables: 50 °Bx, 1.2296 g/ml)', () => {
    expect(EQUAL_SYRUP_G_PER_100_ML).toBeCloseTo(61.48, 1)
  })

  it('to the volume of the first', () => {
    const { sides } = step([one, bowl], 'oneServe', 'commonVolume')
    expect(pouredMlOf(sides[1] as Comparable)).toBeCloseTo(105, 9)
  })

  it('in the house’s measures: what was counted stays counted, all else is ml', () => {
    const document = testDrink({
      pours: [
        { ingredient: 'plain-rum', amount: { value: 2, unit: 'oz', asWritten: 'a wineglass' } },
        { ingredient: 'bitters', amount: { value: 2, unit: 'dash', asWritten: 'two dashes, no more' } },
      ],
    })
    const made = comparableOf('x', document, book, 'front')
    if (!made.ok) throw new Error('it can be counted')
    expect(made.side.lines.map((l) => l.written)).toEqual(['a wineglass', 'two dashes, no more'])
    expect(step([made.side], 'houseMeasures').sides[0]?.lines.map((l) => l.written)).toEqual([undefined, '2 dashes'])
  })

  it('done again changes nothing, whichever steps are taken', () => {
    const names = [
      'plain-rum',
      'old-rum',
      'lime-juice',
      'lemon-juice',
      'sugar-syrup',
      'nut-syrup',
      'apricot',
      'bitters',
    ]
    const side = fc.record({
      pours: fc.array(fc.tuple(fc.constantFrom(...names), fc.double({ min: 0.5, max: 200, noNaN: true })), {
        minLength: 1,
        maxLength: 6,
      }),
      serves: fc.integer({ min: 1, max: 12 }),
    })
    fc.assert(
      fc.property(fc.array(side, { minLength: 1, maxLength: 5 }), fc.subarray([...NORMAL_STEP_NAMES]), (all, steps) => {
        const sides = all.map(({ pours, serves }, i) => sideOf(String(i), pours, serves))
        const once = normalise(sides, new Set(steps), book)
        const twice = normalise(once.sides, new Set(steps), book)
        expect(twice.done).toEqual([])
        expect(twice.sides).toEqual(once.sides)
      }),
      { numRuns: 200, seed: 21 },
    )
  })
})

describe('pours beside each other', () => {
  const rowsOf = (...sides: Comparable[]) =>
    alignPours(sides).map((r) => `${r.part}: ${r.cells.map((c) => (c ? `${c.name} ${c.volumeMl}` : '–')).join(' | ')}`)

  it('the same thing in one row, and what stands in for it', () => {
    const a = sideOf('a', [
      ['lemon-juice', 30],
      ['sugar-syrup', 20],
      ['plain-rum', 60],
    ])
    const b = sideOf('b', [
      ['plain-rum', 45],
      ['strong-rum', 15],
      ['lime-juice', 25],
      ['apricot', 10],
    ])
    expect(rowsOf(a, b)).toEqual([
      'base: plain rum 60 | plain rum 45',
      'base: – | strong rum 15',
      'strong: – | apricot 10',
      'sweet: sugar syrup 20 | –',
      'sour: lemon juice 30 | lime juice 25',
    ])
  })

  it('never puts two pours of one version into one row', () => {
    const a = sideOf('a', [
      ['plain-rum', 30],
      ['plain-rum', 10, 'float'],
    ])
    const b = sideOf('b', [
      ['strong-rum', 10, 'float'],
      ['plain-rum', 30],
    ])
    expect(rowsOf(a, b)).toEqual(['base: plain rum 30 | plain rum 30', 'base: plain rum 10 | strong rum 10'])
  })

  it('loses no line and doubles none', () => {
    const names = [
      'plain-rum',
      'strong-rum',
      'lime-juice',
      'lemon-juice',
      'sugar-syrup',
      'nut-syrup',
      'apricot',
      'soda',
    ]
    const pours = fc.array(fc.tuple(fc.constantFrom(...names), fc.integer({ min: 1, max: 90 })), {
      minLength: 1,
      maxLength: 8,
    })
    fc.assert(
      fc.property(fc.array(pours, { minLength: 1, maxLength: 5 }), (all) => {
        const sides = all.map((p, i) => sideOf(String(i), p))
        const rows = alignPours(sides)
        sides.forEach((side, i) => {
          const there = rows.flatMap((r) => r.cells[i] ?? [])
          expect(new Set(there)).toEqual(new Set(side.lines))
          expect(there).toHaveLength(side.lines.length)
        })
        for (const r of rows) for (const c of r.cells) if (c) expect(c.part).toBe(r.part)
      }),
      { numRuns: 200, seed: 22 },
    )
  })
})

describe('what changed most', () => {
  it.each([
    [30, 20, 'a third less'],
    [30, 15, 'half as much'],
    [20, 30, 'half as much again'],
    [20, 25, 'a quarter more'],
    [10, 20, 'twice as much'],
    [10, 30, '3 times as much'],
    [10, 24, '2.4 times as much'],
    [100, 58, '42 % less'],
  ])('%d to %d: %s', (before, after, words) => expect(changeText(before, after)).toBe(words))

  it('a spoken fraction is within two hundredths of what it says', () => {
    const spoken: Record<string, number> = {
      tenth: 0.1,
      eighth: 0.125,
      sixth: 1 / 6,
      fifth: 0.2,
      quarter: 0.25,
      third: 1 / 3,
    }
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 999 }), (thousandths) => {
        const words = changeText(1000, 1000 - thousandths)
        const named = Object.keys(spoken).find((w) => words === `a ${w} less` || words === `an ${w} less`)
        if (named) expect(Math.abs(thousandths / 1000 - (spoken[named] ?? 0))).toBeLessThanOrEqual(0.02 + 1e-9)
        const pct = /^(\d+) % less$/.exec(words)
        if (pct) expect(Math.abs(thousandths / 10 - Number(pct[1]))).toBeLessThanOrEqual(0.5 + 1e-9)
      }),
    )
  })

  it('says pours, where the sweetness went, and how it ends', () => {
    const from = sideOf('from', [
      ['plain-rum', 60],
      ['lemon-juice', 30],
      ['nut-syrup', 20],
    ])
    const to = sideOf('to', [
      ['plain-rum', 60],
      ['lemon-juice', 20],
      ['nut-syrup', 8],
      ['apricot', 22],
    ])
    expect(
      changedMost(from, to, {
        from: { strengthPct: 16.4, sourGPer100Ml: 1 },
        to: { strengthPct: 15, sourGPer100Ml: 0.99 },
      }),
    ).toBe('the sweetness moved from syrup to liqueur, apricot added, 60 % less nut syrup; ends 1.4 points weaker')
  })

  it('says what stands in for what, and by how much', () => {
    const from = sideOf('from', [
      ['plain-rum', 60],
      ['lemon-juice', 30],
    ])
    const to = sideOf('to', [
      ['plain-rum', 60],
      ['lime-juice', 20],
    ])
    expect(changedMost(from, to)).toBe('lime juice for lemon juice (a third less)')
  })

  it('says so where nothing is worth a word', () => {
    const from = sideOf('from', [
      ['plain-rum', 60],
      ['lime-juice', 30],
    ])
    expect(
      changedMost(
        from,
        sideOf('to', [
          ['lime-juice', 31],
          ['plain-rum', 60],
        ]),
      ),
    ).toBe('the same pours')
  })
})

describe('said aloud', () => {
  it('a purée in one version and a syrup of the same fruit in another', () => {
    const a = sideOf('a', [['passion-puree', 15]])
    const b = sideOf('b', [['passion-syrup', 15]])
    expect(comparedRemarks([a, b])).toEqual([
      'Passion fruit purée (10 g sugar/100 ml) is not Passion fruit syrup (65 g sugar/100 ml): one does not stand in for the other',
    ])
    expect(comparedRemarks([a, sideOf('c', [['sugar-syrup', 15]])])).toEqual([])
  })
})
