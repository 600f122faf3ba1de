import { describe, expect, it } from 'vitest'
import type { HouseBook } from '../house/index.ts'
import { bottle, testDrink, testHouse } from '../testing/house.ts'
import { amongOthers, balanceOf, type DrinkDocumentInput, glassFor, resolveDrink } from './index.ts'

const house: HouseBook = {
  ...testHouse(),
  ingredients: [
    ...testHouse().ingredients,
    bottle('rich-syrup', 0, 86, 0, { kind: 'syrup' }),
    bottle('dry-liqueur', 40, 25, 0, { kind: 'liqueur' }),
    bottle('orange-juice', 0, 9.5, 0.9, { kind: 'juice' }),
    bottle('unsaid-syrup', 0, 0, 0, {
      kind: 'syrup',
      figures: {
        abvPct: { value: 0, basis: 'label' },
        sugarGPer100Ml: { value: 0, basis: 'unknown' },
        acidGPer100Ml: { value: 0, basis: 'label' },
      },
    }),
  ],
}
const pours = (...list: [ingredient: string, volumeMl: number][]): DrinkDocumentInput['pours'] =>
  list.map(([ingredient, volumeMl]) => ({ ingredient, volumeMl }))
const balance = (list: DrinkDocumentInput['pours'], serves = 1) => {
  const resolved = resolveDrink(testDrink({ pours: list, serves, stages: [] }), house)
  return resolved.ok ? balanceOf(resolved.drink) : undefined
}
const codes = (changes: Partial<DrinkDocumentInput>) => {
  const glass = glassFor(testDrink(changes), house)
  if (!glass.ok) throw new Error(glass.problems[0]?.message)
  return new Map(glass.consequences.map((c) => [c.code, c]))
}

describe('sour against sweet', () => {
  it('is said in ml of a serve, and about the same is no remark', () => {
    expect(balance(pours(['plain-rum', 60], ['lime-juice', 22.5], ['sugar-syrup', 22.5]))).toMatchObject({
      sourMl: 22.5,
      sweetMl: 22.5,
      remark: undefined,
    })
    expect(balance(pours(['plain-rum', 240], ['lime-juice', 90], ['sugar-syrup', 90]), 4)).toMatchObject({
      sourMl: 22.5,
      sweetMl: 22.5,
    })
    expect(balance(pours(['plain-rum', 60], ['sugar-syrup', 10]))).toBeUndefined()
    // How sweet one of them is nobody knows: then nothing is said of the two.
    expect(balance(pours(['lime-juice', 20], ['sugar-syrup', 20], ['unsaid-syrup', 10]))).toBeUndefined()
  })

  it('where they differ says why it works all the same, or that nothing makes up for it', () => {
    const remark = (...list: [string, number][]) => balance(pours(...list))?.remark
    expect(remark(['lime-juice', 30], ['rich-syrup', 15])).toBe(
      'more sour than sweet by volume; it works all the same because rich syrup is rich',
    )
    expect(remark(['lime-juice', 30], ['sugar-syrup', 15], ['orange-juice', 60])).toContain(
      'orange juice sweetens it, too',
    )
    expect(remark(['lime-juice', 15], ['dry-liqueur', 30])).toBe(
      'more sweet than sour by volume; it works all the same because dry liqueur is drier than syrup',
    )
    expect(remark(['lime-juice', 30], ['sugar-syrup', 15])).toBe(
      'more sour than sweet by volume; nothing in it makes up for that',
    )
  })

  it('is compared with the house’s other drinks, when there are three', () => {
    const named = (name: string, sugarMl: number) =>
      testDrink({ name, pours: pours(['plain-rum', 60], ['lime-juice', 22.5], ['sugar-syrup', sugarMl]) })
    const others = [named('A', 15), named('B', 20), named('C', 25)]
    expect(amongOthers(named('D', 22), others, house, 'front')).toMatchObject({ others: 3, standing: 'among' })
    expect(amongOthers(named('D', 40), others, house, 'front')?.standing).toBe('sweeter')
    expect(amongOthers(named('D', 8), others, house, 'front')?.standing).toBe('drier')
    expect(amongOthers(named('A', 40), others, house, 'front')).toBeUndefined()
  })
})

describe('cautions', () => {
  it('overproof is said without any flame; "flamed" in a garnish is flame', () => {
    const strong = { pours: pours(['strong-rum', 45], ['lime-juice', 20]) }
    expect(codes(strong).get('overproof')).toMatchObject({ weight: 'mind', isSafety: true })
    expect(codes(strong).get('overproofFlame')).toBeUndefined()
    const flamed = codes({ ...strong, garnish: [{ text: 'flamed lime shell' }] })
    expect(flamed.get('overproofFlame')).toMatchObject({ weight: 'stop', isSafety: true })
    expect(flamed.get('overproof')).toBeUndefined()
    expect(codes({ garnish: [{ text: 'flamingo pick' }] }).get('overproofFlame')).toBeUndefined()
  })

  it('soda in a tin that is shaken stops; in the glass, or stirred, it does not', () => {
    const fizzy = (into: 'tin' | 'glass', method: 'hardShake' | 'stir' | 'build') =>
      codes({
        pours: [...(pours(['plain-rum', 45]) ?? []), { ingredient: 'soda', volumeMl: 30, into }],
        stages: [{ method }],
      }).get('sodaShaken')
    expect(fizzy('tin', 'hardShake')).toMatchObject({ weight: 'stop', isSafety: true })
    expect([fizzy('glass', 'hardShake'), fizzy('tin', 'stir'), fizzy('tin', 'build')]).toEqual([
      undefined,
      undefined,
      undefined,
    ])
  })

  it('a line above 92 % spills when it is carried', () => {
    const at = (volumeMl: number) =>
      codes({ glass: 'tall', stages: [], serveIce: [], pours: pours(['soda', volumeMl]) })
    expect(at(440).get('highLine')?.text).toMatch(/^stands at 9\d % of the glass/)
    expect(at(300).get('highLine')).toBeUndefined()
    expect(at(700).get('overflow')).toBeDefined()
  })

  it('what nobody knows is not zero: the drink says what it is without', () => {
    const said = codes({ pours: pours(['plain-rum', 45], ['unsaid-syrup', 20]) })
    expect(said.get('unknownFigure')).toMatchObject({
      weight: 'mind',
      text: 'without the sugar of unsaid syrup: nobody has said what it is',
    })
    expect(codes({}).get('unknownFigure')).toBeUndefined()
  })
})
