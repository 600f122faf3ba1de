/** Recipes as people paste them, in our own words, and what must come out of them. */

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { HouseBook } from '../house/index.ts'
import { glassSchema, wellSchema } from '../house/schema.ts'
import { volumeMlOfAmount } from '../measure/index.ts'
import { bottle, testHouse } from '../testing/house.ts'
import { isUnusual, type ReadSpec, readSpec, type SpecContext, shippedRange, type UsualRange } from './index.ts'

const house = testHouse()
const glass = (slug: string, name: string) => glassSchema.parse({ ...house.glasses[0], slug, name })
const book: HouseBook = {
  ...house,
  wells: [
    wellSchema.parse({ ...house.wells[0], scoops: [{ name: 'steel scoop', kind: 'crushed', massG: 90 }] }),
    ...house.wells.slice(1),
  ],
  glasses: [glass('tall', 'tall glass'), glass('coupe', 'coupe'), glass('low', 'low glass')],
  ingredients: [
    bottle('gold-rum', 42, 0, 0, { name: 'Gold rum' }),
    bottle('black-rum', 45, 0, 0, { name: 'Black rum' }),
    bottle('lime', 0, 1.5, 6, { kind: 'juice', name: 'Lime juice' }),
    bottle('lemon', 0, 2.3, 5.7, { kind: 'juice', name: 'Lemon juice' }),
    bottle('pineapple', 0, 12, 0.8, { kind: 'juice', name: 'Pineapple juice' }),
    bottle('sugar', 0, 61, 0, { kind: 'syrup', name: 'Sugar syrup' }),
    bottle('nut', 0, 70, 0, { kind: 'syrup', name: 'Nut syrup' }),
    bottle('passion-puree', 0, 11, 3.5, { kind: 'puree', name: 'Passion-fruit purée' }),
    bottle('bitters', 44, 0, 0, { kind: 'bitters', name: 'Aromatic bitters' }),
    bottle('saline', 0, 0, 0, { kind: 'houseMix', name: 'Saline' }),
    bottle('anise', 40, 30, 0, { kind: 'liqueur', name: 'Anise liqueur' }),
    bottle('soda', 0, 0, 0, { kind: 'soda', name: 'Soda water' }),
    bottle('egg', 0, 0, 0, { kind: 'other', name: 'Egg white' }),
  ],
}
const context: SpecContext = { book, usual: shippedRange }
const read = (text: string) => readSpec(text, context)

/** What a line pours, shortly: "1.5 oz gold-rum float". */
const pours = (spec: ReadSpec) =>
  spec.lines.map((l) =>
    [l.amount ? `${Number(l.amount.value.toFixed(3))} ${l.amount.unit}` : '?', l.sure ?? '?', l.into ?? '']
      .join(' ')
      .trim(),
  )

describe('a hundred lines', () => {
  it.each<[line: string, pour: string]>([
    ['1 oz gold rum', '1 oz gold-rum'],
    ['1½ oz gold rum', '1.5 oz gold-rum'],
    ['1 1/2 oz gold rum', '1.5 oz gold-rum'],
    ['1-1/2 oz gold rum', '1.5 oz gold-rum'],
    ['1 and 1/2 oz gold rum', '1.5 oz gold-rum'],
    ['1 & 1/2 oz. gold rum', '1.5 oz gold-rum'],
    ['one and a half oz gold rum', '1.5 oz gold-rum'],
    ['one and a half ounces of gold rum', '1.5 oz gold-rum'],
    ['two oz gold rum', '2 oz gold-rum'],
    ['Two ounces gold rum', '2 oz gold-rum'],
    ['1.5oz gold rum', '1.5 oz gold-rum'],
    ['1,5 oz gold rum', '1.5 oz gold-rum'],
    ['.5 oz lime juice', '0.5 oz lime'],
    ['.75oz lime juice', '0.75 oz lime'],
    ['0.75 oz lime juice', '0.75 oz lime'],
    ['¾ oz lime juice', '0.75 oz lime'],
    ['3/4 oz lime juice', '0.75 oz lime'],
    ['three quarters of an ounce lime juice', '0.75 oz lime'],
    ['three-quarters oz lime juice', '0.75 oz lime'],
    ['half an ounce of lime juice', '0.5 oz lime'],
    ['half oz lime juice', '0.5 oz lime'],
    ['a quarter oz lime juice', '0.25 oz lime'],
    ['a quarter of an ounce of lime juice', '0.25 oz lime'],
    ['two thirds of an oz lime juice', '0.667 oz lime'],
    ['⅜ oz nut syrup', '0.375 oz nut'],
    ['1⅛ oz nut syrup', '1.125 oz nut'],
    ['22.5 ml nut syrup', '22.5 ml nut'],
    ['22,5ml nut syrup', '22.5 ml nut'],
    ['2,5 cl nut syrup', '2.5 cl nut'],
    ['15 millilitres nut syrup', '15 ml nut'],
    ['- 1 oz nut syrup', '1 oz nut'],
    ['* 1 oz nut syrup', '1 oz nut'],
    ['• 1 oz nut syrup', '1 oz nut'],
    ['– 1 oz nut syrup', '1 oz nut'],
    ['2) 1 oz nut syrup', '1 oz nut'],
    ['nut syrup, 1 oz', '1 oz nut'],
    ['nut syrup: 1 oz', '1 oz nut'],
    ['nut syrup 15 ml', '15 ml nut'],
    ['nut syrup - ½ oz', '0.5 oz nut'],
    ['soda water (2 oz)', '2 oz soda'],
    ['1 oz (30 ml) gold rum', '1 oz gold-rum'],
    ['30 ml / 1 oz gold rum', '30 ml gold-rum'],
    ['30 ml or 1 oz gold rum', '30 ml gold-rum'],
    ['1 oz = 30 ml gold rum', '1 oz gold-rum'],
    ['½ to ¾ oz (22 ml) lime juice', '0.5 oz lime'],
    ['½–¾ oz lime juice', '0.5 oz lime'],
    ['1 to 1½ oz gold rum', '1 oz gold-rum'],
    ['2-3 dashes aromatic bitters', '2 dash bitters'],
    ['2 to 3 dashes of aromatic bitters', '2 dash bitters'],
    ['a dash of aromatic bitters', '1 dash bitters'],
    ['1 dash aromatic bitters', '1 dash bitters'],
    ['two dashes aromatic bitters', '2 dash bitters'],
    ['6 drops anise liqueur', '6 drop anise'],
    ['six drops anise liqueur', '6 drop anise'],
    ['1 spray saline', '1 spray saline'],
    ['two sprays of saline', '2 spray saline'],
    ['1 spritz anise liqueur', '1 spray anise'],
    ['⅛ tsp anise liqueur', '0.125 tsp anise'],
    ['1 teaspoon anise liqueur', '1 tsp anise'],
    ['1 bsp anise liqueur', '1 barSpoon anise'],
    ['1 bar spoon anise liqueur', '1 barSpoon anise'],
    ['a barspoon of anise liqueur', '1 barSpoon anise'],
    ['½ tbsp sugar syrup', '0.5 tbsp sugar'],
    ['1 tablespoon sugar syrup', '1 tbsp sugar'],
    ['1 cup pineapple juice', '1 cup pineapple'],
    ['6 counts gold rum', '6 count gold-rum'],
    ['2 parts gold rum', '2 part gold-rum'],
    ['2 gold rum', '2 oz gold-rum'],
    ['45 gold rum', '45 ml gold-rum'],
    ['Pour 2 oz gold rum', '2 oz gold-rum'],
    ['Add 1 oz lime juice', '1 oz lime'],
    ['scant 1 oz lime juice', '1 oz lime'],
    ['about 1 oz lime juice', '1 oz lime'],
    ['1 oz fresh lime juice', '1 oz lime'],
    ['1 oz freshly squeezed lime juice', '1 oz lime'],
    ['Float ½ oz black rum', '0.5 oz black-rum float'],
    ['float of ½ oz black rum', '0.5 oz black-rum float'],
    ['½ oz black rum, floated', '0.5 oz black-rum float'],
    ['½ oz black rum (float)', '0.5 oz black-rum float'],
    ['½ oz black rum to float', '0.5 oz black-rum float'],
    ['½ oz black rum on top', '0.5 oz black-rum float'],
    ['Float black rum', '? black-rum float'],
    ['Top with 1 oz soda water', '1 oz soda glass'],
    ['top up with 60 ml soda water', '60 ml soda glass'],
    ['Top with soda water', '? soda glass'],
    ['soda water, to top', '? soda glass'],
    ['60 ml soda water to top', '60 ml soda glass'],
    ['a splash of soda water', '? soda'],
    ['some lime juice', '? lime'],
    ['lime juice', '? lime'],
    ['half a lime', '12.5 ml lime'],
    ['½ lime', '12.5 ml lime'],
    ['1/2 a lime, juiced', '12.5 ml lime'],
    ['juice of 1 lime', '25 ml lime'],
    ['the juice of two limes', '50 ml lime'],
    ['juice of half a lemon', '20 ml lemon'],
    ['juice of 3 lime halves', '37.5 ml lime'],
    ['Juice from ½ lemon', '20 ml lemon'],
    ['2 lime halves', '25 ml lime'],
    ['1 egg white', '30 ml egg'],
    ['2 egg whites', '60 ml egg'],
    ['white of one egg', '30 ml egg'],
    ['1 oz moonwater', '1 oz ?'],
    ['1 oz passion fruit syrup', '1 oz ?'],
    ['1 oz passion fruit purée', '1 oz passion-puree'],
  ])('%s', (line, pour) => {
    // Under a name, as lines stand in a recipe.
    const spec = read(`Quay Lantern\n${line}`)
    expect(spec.name).toBe('Quay Lantern')
    expect(spec.unplaced).toEqual([])
    expect(pours(spec)).toEqual([pour])
    // Typed alone it is the same.
    expect(pours(read(line))).toEqual([pour])
  })
})

interface Expected {
  name?: string
  pours: string[]
  stages?: object[]
  serveIce?: object[]
  glass?: string
  garnish?: string[]
  serves?: number
  unplaced?: string[]
}

const RECIPES: [about: string, text: string, expected: Expected][] = [
  [
    'an old card for four, in ounces',
    `Four Lanterns
     Serves 4
     6 oz gold rum
     Juice of 3 limes
     2 oz passion fruit syrup
     2 sprays saline
     Shake hard with cubes 12 s, strain into a tall glass over crushed ice
     Top with 4 oz soda water
     Float 2 oz black rum
     Garnish: none`,
    {
      name: 'Four Lanterns',
      pours: ['6 oz gold-rum', '75 ml lime', '2 oz ?', '2 spray saline', '4 oz soda glass', '2 oz black-rum float'],
      stages: [{ method: 'hardShake', durationS: 12, ice: [{ kind: 'machineCube', massG: 180 }], pour: 'strained' }],
      serveIce: [{ kind: 'crushed', fill: 'toLine', asWritten: 'strain into a tall glass over crushed ice' }],
      glass: 'tall',
      garnish: [],
      serves: 4,
    },
  ],
  [
    'a flash blend with its seconds and pour',
    'Ebb Bell\n1½ oz gold rum\n¾ oz lime juice\nFlash blend with crushed ice for 4 seconds, open pour',
    {
      name: 'Ebb Bell',
      pours: ['1.5 oz gold-rum', '0.75 oz lime'],
      stages: [{ method: 'flashBlend', durationS: 4, ice: [{ kind: 'crushed', massG: 170 }], pour: 'open' }],
    },
  ],
  [
    'a sentence that does everything',
    'Night Rope\n2 oz gold rum\n1 oz lime juice\nHard shake 12 s with 180 g cubes and double strain into a coupe. Garnish with a lime wheel.',
    {
      pours: ['2 oz gold-rum', '1 oz lime'],
      stages: [
        {
          method: 'hardShake',
          durationS: 12,
          ice: [{ kind: 'machineCube', massG: 180, asWritten: '180 g' }],
          pour: 'doubleStrained',
        },
      ],
      glass: 'coupe',
      garnish: ['a lime wheel'],
    },
  ],
  [
    'steps on lines of their own',
    'Pilot Rest\n60 ml gold rum\n15 ml sugar syrup\nStir 30 s\nStrain\nServe over one big cube\nGlass: low glass\nGarnish: mint, nutmeg',
    {
      pours: ['60 ml gold-rum', '15 ml sugar'],
      stages: [{ method: 'stir', durationS: 30, pour: 'strained' }],
      serveIce: [{ kind: 'bigCube', massG: 115, asWritten: 'Serve over one big cube' }],
      glass: 'low',
      garnish: ['mint', 'nutmeg'],
    },
  ],
  [
    'ice by the scoop, and the glass filled up',
    'Rail Song\n2 oz gold rum\n1 oz lime juice\nShake with 2 scoops crushed ice 7 s, open pour into a tall glass, fill with crushed',
    {
      pours: ['2 oz gold-rum', '1 oz lime'],
      stages: [
        {
          method: 'crushedShake',
          durationS: 7,
          ice: [{ kind: 'crushed', massG: 180, asWritten: '2 scoops' }],
          pour: 'open',
        },
      ],
      serveIce: [{ kind: 'crushed', fill: 'toLine', asWritten: 'fill with crushed' }],
      glass: 'tall',
    },
  ],
  [
    'ice on a line of its own',
    'Slow Buoy\n2 oz gold rum\nwith 120 g crushed ice\nShake 8 s\nover one big cube',
    {
      pours: ['2 oz gold-rum'],
      stages: [{ method: 'hardShake', durationS: 8 }],
      serveIce: [
        { kind: 'crushed', massG: 120, asWritten: 'with 120 g crushed ice' },
        { kind: 'bigCube', massG: 115, asWritten: 'over one big cube' },
      ],
    },
  ],
  [
    'two shakes, the first without ice',
    'White Signal\n2 oz gold rum\n1 egg white\nDry shake 10 s\nHard shake with 150 g cubes 12 s\nFine strain into coupe',
    {
      pours: ['2 oz gold-rum', '30 ml egg'],
      stages: [
        { method: 'hardShake', durationS: 10, ice: [] },
        {
          method: 'hardShake',
          durationS: 12,
          ice: [{ kind: 'machineCube', massG: 150, asWritten: '150 g' }],
          pour: 'doubleStrained',
        },
      ],
      glass: 'coupe',
    },
  ],
  [
    'bursts',
    'Froth Line\n2 oz gold rum\n1 oz pineapple juice\nFlash blend two bursts of 1.5 s with 120 g crushed',
    {
      pours: ['2 oz gold-rum', '1 oz pineapple'],
      stages: [
        {
          method: 'flashBlend',
          durationS: 3,
          bursts: 2,
          restS: 5,
          ice: [{ kind: 'crushed', massG: 120, asWritten: '120 g' }],
        },
      ],
    },
  ],
  [
    'built in the glass and swizzled',
    'Canal Reed\n2 oz gold rum\n½ oz lime juice\nBuild in a tall glass, swizzle 15 s with 200 g crushed ice',
    {
      pours: ['2 oz gold-rum', '0.5 oz lime'],
      stages: [{ method: 'swizzle', durationS: 15, ice: [{ kind: 'crushed', massG: 200, asWritten: '200 g' }] }],
      glass: 'tall',
    },
  ],
  [
    'a title with a number in it',
    'Half Lantern\n1 oz gold rum',
    { name: 'Half Lantern', pours: ['1 oz gold-rum'], serves: 1 },
  ],
  ['a title like a count', '12 Bells\n1 oz gold rum', { name: '12 Bells', pours: ['1 oz gold-rum'] }],
  [
    'a title of a method',
    'Blind Swizzle\n1 oz gold rum\nSwizzle 12 s',
    { name: 'Blind Swizzle', pours: ['1 oz gold-rum'], stages: [{ method: 'swizzle', durationS: 12 }] },
  ],
  ['no title at all', '1 oz gold rum\n1 oz lime juice', { pours: ['1 oz gold-rum', '1 oz lime'] }],
  [
    'for somewhere between two and four',
    'Wide Bowl\nserves 2-4\n8 oz gold rum',
    { name: 'Wide Bowl', pours: ['8 oz gold-rum'], serves: 2 },
  ],
  [
    'makes, in words',
    'Deep Bowl\nMakes six drinks\n12 oz gold rum',
    { name: 'Deep Bowl', pours: ['12 oz gold-rum'], serves: 6 },
  ],
  [
    'a story and a warning',
    'Old Rope\n2 oz gold rum\nthe harbour pilot drank it standing\nnever on a Monday, 3 of them at most',
    {
      pours: ['2 oz gold-rum'],
      unplaced: ['the harbour pilot drank it standing', 'never on a Monday, 3 of them at most'],
    },
  ],
  [
    'a stir at the end that nothing hangs on',
    'Soft Keel\n2 oz gold rum\nShake with cubes 10 s and strain\nTop with 2 oz soda water\nStir gently',
    {
      pours: ['2 oz gold-rum', '2 oz soda glass'],
      stages: [{ method: 'hardShake', durationS: 10, ice: [{ kind: 'machineCube', massG: 180 }], pour: 'strained' }],
      unplaced: ['Stir gently'],
    },
  ],
  [
    'garnish among the lines',
    'Leaf Post\n2 oz gold rum\n8 mint leaves\n1 lime wheel\nGarnish - spent lime shell and a cherry',
    { pours: ['2 oz gold-rum'], garnish: ['8 mint leaves', '1 lime wheel', 'spent lime shell', 'a cherry'] },
  ],
  [
    'fire',
    'Ember Post\n2 oz gold rum\nSwizzle 10 s, flame the lime shell',
    { pours: ['2 oz gold-rum'], stages: [{ method: 'swizzle', durationS: 10 }] },
  ],
  [
    'windows line ends, blank lines and tabs',
    'Tab Row\r\n\r\n\t1 oz\tgold rum\r\n\t1 oz lime juice\r\n\r\n',
    { name: 'Tab Row', pours: ['1 oz gold-rum', '1 oz lime'] },
  ],
]

describe('twenty recipes', () => {
  it.each(RECIPES)('%s', (_, text, expected) => {
    const spec = read(text)
    expect(pours(spec)).toEqual(expected.pours)
    if (expected.name) expect(spec.name).toBe(expected.name)
    if (expected.stages) expect(spec.stages).toEqual(expected.stages)
    if (expected.serveIce) expect(spec.serveIce).toEqual(expected.serveIce)
    if (expected.glass) expect(spec.glass).toBe(expected.glass)
    if (expected.garnish) expect(spec.garnish).toEqual(expected.garnish)
    if (expected.serves) expect(spec.serves).toBe(expected.serves)
    expect(spec.unplaced).toEqual(expected.unplaced ?? [])
    expect(readWhole(spec)).toEqual(linesOf(text))
  })

  it('says what it filled in itself', () => {
    const spec = read('Bare\n2 oz gold rum\nShake')
    expect(spec.ours).toEqual([
      'hard shake: 12 s',
      'hard shake: 180 g cubes',
      'hard shake: strained',
      'no glass of the house is named',
    ])
    expect(read('Bare\n2 oz gold rum\nShake 9 s with 100 g cubes, open pour into a coupe').ours).toEqual([])
  })

  it('asks how many a range is for, and reads fire', () => {
    expect(read('Wide Bowl\nserves 2-4\n8 oz gold rum').servesUpTo).toBe(4)
    expect(read('Ember\n2 oz gold rum\nflame the lime shell').hasFlame).toBe(true)
  })
})

const linesOf = (text: string) =>
  text
    .split(/\r?\n/)
    .map((l) => l.trim())
    .filter(Boolean)
/** The pieces in their order are the text. */
const readWhole = (spec: ReadSpec) => spec.pieces.map((p) => p.text)

const NUMBERS = [
  '1',
  '2',
  '½',
  '1½',
  '1 1/2',
  '1 and 1/2',
  '.5',
  '0.75',
  '2,5',
  'one and a half',
  'three quarters of an',
  'half an',
  'two',
  '22.5',
  '45',
  '15',
  '6',
  '2-3',
  '½ to ¾',
  '12',
  '120',
]
const UNITS = [
  'oz',
  'oz.',
  'ounce',
  'ml',
  'cl',
  'dash',
  'dashes',
  'drops',
  'sprays',
  'tsp',
  'bar spoon',
  'parts',
  'g',
  's',
  'scoops',
  'cups',
  '',
]
const WORDS = [
  'gold rum',
  'black rum',
  'lime juice',
  'nut syrup',
  'passion fruit syrup',
  'soda water',
  'aromatic bitters',
  'anise liqueur',
  'moonwater',
  'crushed ice',
  'cubes',
  'one big cube',
  'mint leaves',
  'the old pilot',
]
const BEFORE = [
  '',
  '',
  '',
  'Float ',
  'Top with ',
  'Add ',
  'juice of ',
  'Shake with ',
  'over ',
  'fill with ',
  '- ',
  'Stir ',
  'Serves ',
  'Garnish: ',
  'about ',
]
const AFTER = [
  '',
  '',
  '',
  ', floated',
  ' (30 ml)',
  ', strain into a coupe',
  ' for 12 s',
  ' and double strain',
  ', open pour',
  ' / 1 oz',
  '; swizzle 10 s',
  ' then flash blend',
]
const pick = (list: readonly string[]) => fc.constantFrom(...list)
const aLine = fc
  .tuple(pick(BEFORE), pick(NUMBERS), pick(UNITS), pick(WORDS), pick(AFTER))
  .map(([before, number, unit, words, after]) =>
    `${before}${number} ${unit} ${words}${after}`.replace(/ +/g, ' ').trim(),
  )

describe('twenty thousand lines', () => {
  it('lose nothing: what was read, asked and noted is the text; and propose nothing further off', () => {
    const range: UsualRange = { lowMl: 8, highMl: 75, basis: 'house' }
    const usual = () => range
    let lines = 0
    fc.assert(
      fc.property(fc.array(aLine, { minLength: 4, maxLength: 4 }), (texts) => {
        lines += texts.length
        const spec = readSpec(['A Name', ...texts].join('\n'), { ...context, usual })
        expect(readWhole(spec)).toEqual(['A Name', ...texts])
        for (const piece of spec.pieces) {
          const amount = /(?:\d+[.,])?[\d½¾]+ (?:oz|ml|cl|dashes|drops|sprays|tsp|parts)\b/.exec(piece.text)?.[0]
          const isOfIce = /ice|cube/.test(piece.text)
          if (piece.as === 'method' && amount && !isOfIce) {
            const found = [...spec.unplaced, ...spec.lines.map((l) => l.asWritten)].filter((t) => t.includes(amount))
            expect(found.length, piece.text).toBeGreaterThan(0)
          }
          if (piece.as !== 'asked') continue
          expect(spec.unplaced).toContain(piece.text)
        }
        // A pour that is read has its amount, or asks for it; what it may be is never a guess without words.
        for (const line of spec.lines) {
          expect(line.words.length + line.asWritten.length).toBeGreaterThan(0)
          const { amount } = line
          if (!amount) continue
          expect(amount.value).toBeGreaterThan(0)
          const ml = volumeMlOfAmount(amount, book.settings.kit, 30) as number
          const off = (value: number) => Math.max(range.lowMl / value, value / range.highMl, 1)
          for (const flag of line.flags) {
            if (!flag.likely || !line.sure || flag.code === 'range') continue
            const likelyMl = volumeMlOfAmount(flag.likely, book.settings.kit, 30) as number
            expect(off(likelyMl / spec.serves)).toBeLessThanOrEqual(off(ml / spec.serves))
            if (flag.code === 'unusual')
              expect(isUnusual(flag.likely, range, book.settings.kit, spec.serves)).toBe(false)
          }
        }
      }),
      { numRuns: 5000, seed: 20_000 },
    )
    expect(lines).toBeGreaterThanOrEqual(20_000)
  })

  it('keep every amount that is plainly written: as a pour, as ice, as seconds or as what is asked', () => {
    const plain = fc.tuple(
      pick(['1 oz', '22.5 ml', '2 dashes', '1½ oz', '.75 oz', 'one and a half oz']),
      pick(['gold rum', 'lime juice', 'nut syrup', 'soda water']),
    )
    fc.assert(
      fc.property(fc.array(plain, { minLength: 1, maxLength: 8 }), (all) => {
        const spec = readSpec(['A Name', ...all.map((p) => p.join(' '))].join('\n'), context)
        expect(spec.lines).toHaveLength(all.length)
        expect(spec.lines.every((l) => l.amount && l.sure)).toBe(true)
      }),
    )
  })
})

describe('the guard over amounts', () => {
  const flags = (line: string, usual = shippedRange) =>
    readSpec(`A Name\n${line}`, { ...context, usual }).lines[0]?.flags ?? []
  it.each([
    '6 drops anise liqueur',
    '2 drops saline',
    '⅛ tsp anise liqueur',
    '1 spray saline',
    '3 dashes aromatic bitters',
    '1 bar spoon anise liqueur',
  ])('%s is usual by its own count', (line) => {
    expect(flags(line).filter((f) => f.code === 'unusual')).toEqual([])
  })

  it.each<[line: string, likely: object | undefined]>([
    ['45 oz gold rum', { value: 45, unit: 'ml' }],
    ['2 ml gold rum', { value: 2, unit: 'oz' }],
    ['60 cl gold rum', { value: 60, unit: 'ml' }],
    ['450 ml gold rum', { value: 45, unit: 'ml' }],
    ['900 ml gold rum', { value: 90, unit: 'ml' }],
    ['60 drops anise liqueur', undefined],
    ['12 dashes aromatic bitters', undefined],
    ['100 ml gold rum', undefined],
  ])('%s is odd; what was likely meant is said only where a known slip explains it', (line, likely) => {
    const odd = flags(line).find((f) => f.code === 'unusual')
    expect(odd).toBeDefined()
    expect(odd?.likely).toEqual(likely)
  })

  it('of two amounts on one line does not propose the odd one', () => {
    const [flag] = flags('45 ml / 30 oz gold rum')
    expect(flag?.code).toBe('unitsDisagree')
    expect(flag?.likely).toBeUndefined()
  })
})

describe('what cannot be as it is written', () => {
  it('is said, not bent', () => {
    const long = read('Long Watch\n2 oz gold rum\nStir 500 s with 200 g cubes')
    expect(long.stages).toEqual([{ method: 'stir', ice: [{ kind: 'machineCube', massG: 200, asWritten: '200 g' }] }])
    expect(long.unplaced).toEqual(['Stir 500 s with 200 g cubes: 500 s; at most 120 s'])
    const heap = read('Heap\n2 oz gold rum\nShake with 9 kg crushed ice 8 s')
    expect(heap.unplaced).toEqual(['Shake with 9 kg crushed ice 8 s: “9 kg” is 9000 g; at most 2000 g'])
    expect(heap.stages).toEqual([{ method: 'crushedShake', durationS: 8 }])
  })

  it('ice that nobody counted in the glass is ours', () => {
    const spec = read('Few\n2 oz gold rum\nStir 30 s and strain over cubes')
    expect(spec.serveIce).toEqual([{ kind: 'machineCube', massG: 80, asWritten: 'strain over cubes', isOurs: true }])
    expect(spec.ours).toContain('in the glass: 80 g cubes')
  })
})
