import { describe, expect, it } from 'vitest'
import { DEFAULT_KIT, readLine, type Unit } from '../measure/index.ts'
import type { Slot } from '../palate/index.ts'
import { bottle, testDrink, testHouse } from '../testing/house.ts'
import { matchIngredient, matchSlot, readSpec, type SpecContext, shippedRange, sureMatch, usualRange } from './index.ts'

const line = (text: string) => readLine(text, { kit: DEFAULT_KIT })

describe('a line as people write it', () => {
  it.each<[string, number, Unit, string]>([
    ['1 1/2 oz fresh lime juice', 1.5, 'oz', 'fresh lime juice'],
    ['1½ oz lime', 1.5, 'oz', 'lime'],
    ['½oz. falernum', 0.5, 'oz', 'falernum'],
    ['¼ oz grenadine', 0.25, 'oz', 'grenadine'],
    ['45 ml / 1.5 oz gold rum', 45, 'ml', 'gold rum'],
    ['45ml (1½ oz) gold rum', 45, 'ml', 'gold rum'],
    ['3 dashes of bitters', 3, 'dash', 'bitters'],
    ['⅛ tsp salt solution', 0.125, 'tsp', 'salt solution'],
    ['1 bsp allspice liqueur', 1, 'barSpoon', 'allspice liqueur'],
    ['2 parts white rum', 2, 'part', 'white rum'],
    ['8 counts black rum', 8, 'count', 'black rum'],
    ['2,5 cl orgeat', 2.5, 'cl', 'orgeat'],
    ['- 22,5 ml lemon juice', 22.5, 'ml', 'lemon juice'],
    ['sugar syrup, 15 ml', 15, 'ml', 'sugar syrup'],
    ['Lime juice 3/4 oz', 0.75, 'oz', 'Lime juice'],
    ['half oz honey mix', 0.5, 'oz', 'honey mix'],
  ])('%s', (text, value, unit, words) => {
    expect(line(text)).toEqual({
      asWritten: text,
      amount: { value, unit, asWritten: text },
      words,
      flags: [],
    })
  })

  it.each<[string, number, number, string]>([
    ['half a lime', 0.5, 12.5, 'lime'],
    ['juice of 1 lemon', 1, 40, 'lemon'],
    ['juice of half a grapefruit', 0.5, 75, 'grapefruit'],
    ['the juice of two limes', 2, 50, 'lime'],
    ['2 limes, juiced', 2, 50, 'lime'],
    ['1 1/2 lemons', 1.5, 60, 'lemon'],
  ])('%s is a count of fruit, and says so', (text, count, ml, name) => {
    const read = line(text)
    expect(read.fruit).toEqual({ count, name })
    expect(read.amount).toEqual({ value: ml, unit: 'ml', asWritten: text })
    expect(read.words).toBe(`${name} juice`)
    expect(read.flags[0]?.text).toContain('assumed: nobody has pressed one here')
  })

  it('counts fruit by the house’s own pressings where there are some', () => {
    const read = readLine('2 limes', { kit: DEFAULT_KIT, fruitMl: () => ({ ml: 31, basis: 'measured' }) })
    expect(read.amount?.value).toBe(62)
    expect(read.flags[0]?.text).toBe('a count of fruit is not a measure: 31 ml each, by the house’s pressings')
  })

  it.each<[string, string]>([
    ['45 ml / 3 oz rum', '3 oz (90 ml) is not 45 ml (45 ml): twice as much'],
    ['30 ml / 3 oz rum', '3 oz (90 ml) is not 30 ml (30 ml): three times as much'],
    ['1 oz / 300 ml soda', '300 ml (300 ml) is not 1 oz (30 ml): ten times as much'],
    ['1 oz (40 ml) rum', '40 ml (40 ml) is not 1 oz (30 ml): 33 % apart'],
  ])('%s is flagged, not mended', (text, message) => {
    const read = line(text)
    expect(read.flags.map((f) => f.text)).toEqual([message])
    expect(read.flags[0]?.likely).toBeDefined()
  })

  it.each(['1.5 oz / 45 ml rum', '1 oz / 28 ml rum', '1 oz (29.57 ml) rum', '2 oz / 6 cl rum'])(
    '%s agrees within rounding',
    (text) => expect(line(text).flags).toEqual([]),
  )

  it('takes the lower end of a range and says so', () => {
    const read = line('2-3 dashes bitters')
    expect(read.amount).toMatchObject({ value: 2, unit: 'dash' })
    expect(read.flags).toEqual([
      { code: 'range', text: 'a range: 2 to 3; the lower end is taken', likely: { value: 2.5, unit: 'dash' } },
    ])
    expect(line('¾ to 1 oz lime').amount).toMatchObject({ value: 0.75, unit: 'oz' })
  })

  it('without an amount keeps the words', () => {
    expect(line('mint for show')).toMatchObject({ amount: undefined, words: 'mint for show' })
    expect(line('a splash of soda')).toMatchObject({ amount: undefined })
  })

  it('says which unit it took when none is written', () => {
    expect(line('2 white rum')).toMatchObject({
      amount: { value: 2, unit: 'oz' },
      flags: [{ code: 'noUnit', text: 'no unit is written; taken as oz' }],
    })
  })
})

const house = testHouse()
const context: SpecContext = {
  book: {
    ...house,
    ingredients: [
      ...house.ingredients,
      bottle('tamber-gold', 43, 0, 0, { name: 'Tamber Gold', formerNames: ['Tamber Seal'], note: 'gold column rum' }),
      bottle('mango-puree', 0, 14, 0.5, { kind: 'puree', name: 'Mango purée' }),
      bottle('mango-syrup', 0, 70, 0.2, { kind: 'syrup', name: 'Mango syrup' }),
    ],
  },
  usual: shippedRange,
}

describe('what a line means', () => {
  const slugOf = (words: string) => sureMatch(matchIngredient(words, context.book.ingredients))
  it('is found by name, earlier name and style', () => {
    expect(slugOf('fresh lime juice')).toBe('lime-juice')
    expect(slugOf('Tamber Seal')).toBe('tamber-gold')
    expect(slugOf('tamber rum')).toBe('tamber-gold')
    expect(slugOf('sugar syrup')).toBe('sugar-syrup')
  })
  it('is asked when several would do, or none', () => {
    expect(slugOf('rum')).toBeUndefined()
    expect(matchIngredient('rum', context.book.ingredients).length).toBeGreaterThan(1)
    expect(slugOf('yak butter')).toBeUndefined()
    expect(matchIngredient('', context.book.ingredients)).toEqual([])
  })
})

describe('a whole recipe', () => {
  const pasted = `Harbour Bell
    2 oz plain rum
    45 ml / 3 oz lime juice
    half a lime
    1/2 oz mango syrup
    1 oz moonwater

    Shake with 160 g crushed ice for 7 seconds, open pour into a tall glass
    Garnish: mint, spent lime shell
    the old man at the quay swore by it`

  it('becomes lines that are sure or ask, a stage, a glass, a garnish and notes', () => {
    const spec = readSpec(pasted, context)
    expect(spec.name).toBe('Harbour Bell')
    expect(spec.lines.map((l) => l.sure)).toEqual(['plain-rum', 'lime-juice', 'lime-juice', 'mango-syrup', undefined])
    expect(spec.lines[1]?.flags[0]?.code).toBe('unitsDisagree')
    expect(spec.stages).toEqual([
      {
        method: 'crushedShake',
        durationS: 7,
        ice: [{ kind: 'crushed', massG: 160, asWritten: '160 g' }],
        pour: 'open',
      },
    ])
    expect(spec.glass).toBe('tall')
    expect(spec.garnish).toEqual(['mint', 'spent lime shell'])
    expect(spec.unplaced).toEqual(['the old man at the quay swore by it'])
  })

  it('asks about a syrup where the older version had the purée', () => {
    const older = testDrink({ pours: [{ ingredient: 'mango-puree', amount: { value: 1, unit: 'oz' } }] })
    const flags = readSpec(pasted, { ...context, older }).lines[3]?.flags
    expect(flags?.[0]).toEqual({
      code: 'swapped',
      text: 'the older version has Mango purée here: a syrup and a purée of one fruit are easily swapped',
      likelyIngredient: 'mango-puree',
    })
  })

  it('flags what is not usual, with what was likely meant', () => {
    const [rum] = readSpec('Odd\n45 oz plain rum', context).lines
    expect(rum?.flags).toEqual([
      {
        code: 'unusual',
        text: '45 oz of plain rum: one usually pours 5 to 90 ml',
        likely: { value: 45, unit: 'ml' },
      },
    ])
  })

  it('takes what is usual from the house’s own specs once there are some', () => {
    const documents = [0.5, 0.5, 0.75, 0.75, 1].map((value) =>
      testDrink({ pours: [{ ingredient: 'plain-rum', amount: { value, unit: 'oz' } }] }),
    )
    const [rum] = readSpec('Odd\n2 oz plain rum', {
      ...context,
      usual: (ingredient) => usualRange(ingredient, documents, DEFAULT_KIT),
    }).lines
    expect(rum?.flags[0]?.text).toBe('2 oz of plain rum: this house pours 9.4 to 48 ml')
  })

  it('for a bowl of four is judged by the serve', () => {
    const spec = readSpec('Bowl\nServes 4\n8 oz plain rum', context)
    expect(spec.serves).toBe(4)
    expect(spec.lines[0]?.flags).toEqual([])
  })

  it('that is empty is empty', () => {
    expect(readSpec('  \n ', context)).toMatchObject({ name: undefined, lines: [], unplaced: [] })
  })
})

describe('a line that names a style', () => {
  const slot = (slug: string, name: string) => ({ slug, name }) as Slot
  const slots = [slot('lightly-aged', 'Lightly aged blend'), slot('black', 'Black rum'), slot('pot', 'Aged pot still')]
  it('means its slot; the word rum alone means none', () => {
    expect(sureMatch(matchSlot('lightly aged blend', slots))).toBe('lightly-aged')
    expect(sureMatch(matchSlot('black rum', slots))).toBe('black')
    expect(matchSlot('rum', slots)).toEqual([])
    expect(matchSlot('lime juice', slots)).toEqual([])
  })
})
