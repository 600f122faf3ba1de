/** A house with mixes and lots, as its drinks see it. */

import { describe, expect, it } from 'vitest'
import { glassFor } from '../drink/index.ts'
import type { Ingredient } from '../house/index.ts'
import { fruitFor, fruitYieldOf, type Lot, standingOfLot } from '../lots/index.ts'
import { DEFAULT_KIT, nearestOnGrid, pourGrid, usualMeasures } from '../measure/index.ts'
import { lockEdition } from '../menu/index.ts'
import { editionLockSchema } from '../menu/schema.ts'
import { bottle, testDrink, testHouse } from '../testing/house.ts'
import {
  acidCurveOf,
  createMixer,
  currentLots,
  lotsWithin,
  partsOf,
  type Recipe,
  resolveHouse,
  substituteAtEqualSugar,
} from './index.ts'

const mix = (
  slug: string,
  components: Recipe['components'],
  more: Partial<Recipe> = {},
  own: Partial<Ingredient> = {},
) => bottle(slug, 0, 0, 0, { kind: 'houseMix', recipe: { by: 'weight', components, keepsDays: 10, ...more }, ...own })
const sugar = (slug: string, sugarG: number, acidG = 0): Ingredient => ({
  ...bottle(slug, 0),
  kind: 'dryGood',
  figures: {
    abvPct: { value: 0, basis: 'label' },
    sugarGPer100Ml: { value: sugarG, basis: 'label' },
    acidGPer100Ml: { value: acidG, basis: 'label' },
  },
})
const NUT = mix(
  'nut-mix',
  [
    { ingredient: 'nut-syrup', amount: 50 },
    { ingredient: 'soda', amount: 50 },
  ],
  { isEmulsion: true },
)
const TOP = mix('top-mix', [
  { ingredient: 'nut-mix', amount: 80 },
  { ingredient: 'white-sugar', amount: 20 },
])
const SHARP = mix('sharp-orange', [
  { ingredient: 'orange-juice', amount: 950 },
  { ingredient: 'citric-acid', amount: 50 },
])
const SHELF = [
  sugar('white-sugar', 100),
  sugar('citric-acid', 0, 100),
  bottle('orange-juice', 0, 9.5, 0.9, { kind: 'juice' }),
  NUT,
  TOP,
  SHARP,
]
const TODAY = '2026-06-10'

function lot(id: number, ingredient: string, change: Partial<Lot> & { measured?: object } = {}): Lot {
  const { measured, ...rest } = change
  const house = testHouse()
  const of = [...house.ingredients, ...SHELF].find((i) => i.slug === ingredient)
  const batch = of?.recipe ? createMixer([...house.ingredients, ...SHELF]).freshMixOf(ingredient) : undefined
  return {
    id,
    ingredient,
    name: ingredient,
    madeOn: '2026-06-01',
    madeBy: 'Lead',
    useBy: '2026-06-20',
    document: {
      weighed: [],
      theory: { massG: 0, volumeMl: 0, brix: 0, abvPct: 0, sugarGPer100Ml: 0, acidGPer100Ml: 0 },
      allergens: [],
      ...(batch?.ok ? { made: batch.mix.liquid } : {}),
    },
    events: measured ? [{ at: '2026-06-01T12:00:00Z', by: 'Lead', event: { kind: 'measured', measured } }] : [],
    ...rest,
  }
}
const houseWith = (lots: Lot[] = [], shelf: Ingredient[] = SHELF) => {
  const house = testHouse()
  return resolveHouse({ ...house, ingredients: [...house.ingredients, ...shelf], lots }, TODAY)
}
const said = (pours: string[], lots: Lot[] = [], shelf?: Ingredient[]) => {
  const document = testDrink({ pours: pours.map((ingredient) => ({ ingredient, volumeMl: 30 })), standard: {} })
  const glass = glassFor(document, houseWith(lots, shelf))
  if (!glass.ok) throw new Error(glass.problems[0]?.message)
  return glass.consequences
}
const texts = (code: string, ...rest: Parameters<typeof said>) =>
  said(...rest).flatMap((c) => (c.code === code ? [c.text] : []))

describe('a drink of house mixes', () => {
  it('is told to stir what separates, from any depth, and what it contains', () => {
    expect(texts('stir', ['plain-rum', 'top-mix'])).toEqual(['stir before every pour: nut mix'])
    expect(texts('allergens', ['plain-rum', 'top-mix'])).toEqual(['contains tree nuts'])
    expect(texts('stir', ['plain-rum', 'sugar-syrup'])).toEqual([])
  })

  it('with sharpened juice beside a sour one is warned of double acid', () => {
    expect(texts('doubleAcid', ['plain-rum', 'sharp-orange', 'lime-juice'])).toEqual([
      'sharp orange beside lime juice: sharpened juice replaces the sour one, or the acid is there twice',
    ])
    expect(texts('doubleAcid', ['plain-rum', 'sharp-orange'])).toEqual([])
    expect(texts('doubleAcid', ['orange-juice', 'lime-juice'])).toEqual([])
  })

  it('is coloured by a lot that is due or expired, with the words of safety', () => {
    expect(texts('expired', ['top-mix'], [lot(3, 'top-mix', { useBy: '2026-06-09' })])).toEqual([
      'top mix: lot 3 of 1 Jun 2026 was to be used by 9 Jun 2026',
    ])
    expect(texts('due', ['top-mix'], [lot(3, 'top-mix', { useBy: '2026-06-11' })])).toEqual([
      'top mix: use lot 3 by 11 Jun 2026',
    ])
    expect(
      said(['top-mix'], [lot(3, 'top-mix', { useBy: '2026-06-09' })]).find((c) => c.code === 'expired')?.isSafety,
    ).toBe(true)
    const gone = lot(3, 'top-mix', {
      useBy: '2026-06-09',
      events: [{ at: '2026-06-10T09:00:00Z', by: 'Lead', event: { kind: 'usedUp' } }],
    })
    expect(texts('expired', ['top-mix'], [gone])).toEqual([])
  })

  it('is coloured through a mix that has no lot of its own, at any depth', () => {
    const old = lot(3, 'nut-mix', { useBy: '2026-06-09' })
    expect(texts('expired', ['top-mix'], [old])).toEqual([
      'top mix would be made with nut mix: lot 3 was to be used by 9 Jun 2026',
    ])
    // A lot that is made already was made before.
    expect(texts('expired', ['top-mix'], [old, lot(4, 'top-mix')])).toEqual([])
  })

  it('hears what a lot did to it, and nothing when it did nothing', () => {
    const [text] = texts('lot', ['plain-rum', 'top-mix'], [lot(3, 'top-mix', { measured: { brix: 60 } })])
    expect(text).toMatch(/^top mix, lot 3, is \d+\.\d °Bx sweeter than its recipe: .*sweet \+\d+\.\d g\/100 ml/)
    expect(texts('lot', ['plain-rum', 'top-mix'], [lot(3, 'top-mix')])).toEqual([])
  })

  it('is told what has run out', () => {
    const shelf = [
      ...SHELF,
      bottle('gone-rum', 40, 0, 0, { stock: 'out' }),
      bottle('old-rum', 40, 0, 0, { stock: 'discontinued' }),
    ]
    expect(texts('outOfStock', ['gone-rum', 'old-rum'], [], shelf)).toEqual([
      'gone rum is out',
      'old rum is no longer made',
    ])
  })

  it('does not pour a mix of powders, but what is made of it; and an edition keeps both', () => {
    const blend = mix('acid-blend', [
      { ingredient: 'citric-acid', amount: 2 },
      { ingredient: 'white-sugar', amount: 1 },
    ])
    const sour = mix('sour-water', [
      { ingredient: 'acid-blend', amount: 60 },
      { ingredient: 'soda', amount: 940 },
    ])
    const shelf = [...SHELF, blend, sour]
    const dry = glassFor(testDrink({ pours: [{ ingredient: 'acid-blend', volumeMl: 5 }] }), houseWith([], shelf))
    expect(dry).toEqual({
      ok: false,
      problems: [{ path: ['pours', 0, 'ingredient'], message: 'acid blend is dry; make a mix of it with water' }],
    })
    const document = testDrink({ pours: [{ ingredient: 'sour-water', volumeMl: 30 }] })
    const drink = { drink: 'd', name: 'D', version: 1, versionLabel: '', document }
    const locked = lockEdition([{ name: 'All', drinks: [drink] }], houseWith([], shelf))
    if (!locked.ok) throw new Error('not locked')
    expect(editionLockSchema.safeParse(locked.lock).error).toBeUndefined()
    expect(locked.lock.book.ingredients.map((i) => i.slug)).toContain('acid-blend')
  })

  it('still pours when a mix cannot be resolved, and says so', () => {
    const broken = mix('broken', [{ ingredient: 'moon-dust', amount: 1 }])
    expect(texts('mixProblem', ['plain-rum', 'broken'], [], [...SHELF, broken])).toEqual([
      'broken there is no ingredient “moon-dust”: its typed figures stand in',
    ])
  })
})

describe('a measured lot', () => {
  it('gives its figures as measured, on its day, by its hand', () => {
    const book = houseWith([lot(3, 'top-mix', { measured: { brix: 60 } })])
    const figure = book.ingredients.find((i) => i.slug === 'top-mix')?.figures.sugarGPer100Ml
    expect(figure).toMatchObject({ basis: 'measured', on: '2026-06-01', by: 'Lead' })
    expect(book.mixes?.['top-mix']?.brix).toBeCloseTo(60, 6)
  })
  it('of pressed juice replaces what is typed about the juice', () => {
    const book = houseWith([lot(4, 'lime-juice', { measured: { acidGPer100Ml: 5.2 } })])
    const acid = book.ingredients.find((i) => i.slug === 'lime-juice')?.figures.acidGPer100Ml
    expect(acid?.value).toBeCloseTo(5.2, 6)
    expect(acid?.basis).toBe('measured')
  })
  it('is poured from the newest that is not gone', () => {
    const old = lot(1, 'top-mix')
    const gone = lot(5, 'top-mix', {
      events: [{ at: TODAY, by: 'Lead', event: { kind: 'discarded', reason: 'sour' } }],
    })
    expect(currentLots([gone, lot(3, 'top-mix'), old], TODAY).get('top-mix')?.id).toBe(3)
  })
  it('without one is known by its recipe, or assumed when something in it is', () => {
    const basisOf = (shelf: Ingredient[]) =>
      houseWith([], shelf).ingredients.find((i) => i.slug === 'top-mix')?.figures.sugarGPer100Ml.basis
    expect(basisOf(SHELF)).toBe('recipe')
    const guessed = { ...sugar('white-sugar', 100) }
    guessed.figures.sugarGPer100Ml = { value: 100, basis: 'assumed' }
    expect(basisOf([guessed, ...SHELF.slice(1)])).toBe('assumed')
  })
})

describe('a lot through its days', () => {
  it.each([
    ['2026-06-01', '2026-06-20', '2026-06-18', 'fresh'],
    ['2026-06-01', '2026-06-20', '2026-06-19', 'due'],
    ['2026-06-01', '2026-06-20', '2026-06-20', 'due'],
    ['2026-06-01', '2026-06-20', '2026-06-21', 'expired'],
    // Pressed juice is not due from the hour it is pressed.
    ['2026-06-10', '2026-06-11', '2026-06-10', 'fresh'],
    ['2026-06-10', '2026-06-11', '2026-06-11', 'due'],
  ])('made %s, use by %s, on %s is %s', (madeOn, useBy, today, standing) => {
    expect(standingOfLot(lot(1, 'top-mix', { madeOn, useBy }), today)).toBe(standing)
  })
  it('without a use-by stays fresh', () => {
    expect(standingOfLot(lot(1, 'top-mix', { useBy: null }), '2030-01-01')).toBe('fresh')
  })
})

describe('what is in it', () => {
  const all = [...testHouse().ingredients, ...SHELF]
  it('goes down through every level, nearest first', () => {
    expect(partsOf('top-mix', all).map((p) => [p.slug, p.level])).toEqual([
      ['nut-mix', 1],
      ['white-sugar', 1],
      ['nut-syrup', 2],
      ['soda', 2],
    ])
  })
  it('ends in a circle', () => {
    const loop = [mix('a', [{ ingredient: 'b', amount: 1 }]), mix('b', [{ ingredient: 'a', amount: 1 }])]
    expect(partsOf('a', loop).map((m) => m.slug)).toEqual(['b'])
  })
  it('is locked whole with an edition', () => {
    const document = testDrink({ pours: [{ ingredient: 'top-mix', volumeMl: 30 }] })
    const drink = { drink: 'd', name: 'D', version: 1, versionLabel: '', document }
    const locked = lockEdition([{ name: 'All', drinks: [drink] }], houseWith())
    if (!locked.ok) throw new Error('not locked')
    expect(locked.lock.book.ingredients.map((i) => i.slug).sort()).toEqual([
      'nut-mix',
      'nut-syrup',
      'soda',
      'top-mix',
      'white-sugar',
    ])
  })
})

describe('pressing', () => {
  const juice = bottle('lime-juice', 0, 1.5, 6, { kind: 'juice', fruit: { name: 'lime', mlPerFruit: 25 } })
  const pressed = (id: number, fruitCount: number, volumeMl: number) => {
    const l = lot(id, 'lime-juice', { measured: { volumeMl } })
    return { ...l, document: { ...l.document, pressed: { fruitCount } } }
  }
  it('says what a fruit gives with its spread, newest pressings only', () => {
    expect(fruitYieldOf(juice, [])).toEqual({ mlPerFruit: 25, spreadMl: 6.25, pressings: 0, basis: 'assumed' })
    const found = fruitYieldOf(juice, [pressed(1, 100, 2000), pressed(2, 100, 3000), pressed(3, 100, 2500)])
    expect(found).toEqual({ mlPerFruit: 25, spreadMl: 5, pressings: 3, basis: 'measured' })
    expect(fruitYieldOf(bottle('soda', 0), [])).toBeUndefined()
  })
  it('buys enough for a poor box', () => {
    const each = { mlPerFruit: 25, spreadMl: 5, pressings: 3, basis: 'measured' as const }
    expect(fruitFor(1000, each)).toEqual({ safe: 50, mean: 40 })
    // A spread as large as the mean must not ask for endless fruit.
    expect(fruitFor(1000, { ...each, spreadMl: 30 }).safe).toBe(120)
  })
})

describe('what the house can pour', () => {
  it('is one or two moves with what it owns, the fewest first', () => {
    const grid = pourGrid([
      { name: 'jigger', volumesMl: [30, 45] },
      { name: 'spoon', volumesMl: [5] },
    ])
    expect(grid.map((g) => g.volumeMl)).toEqual([5, 10, 30, 35, 45, 50, 60, 75, 90])
    expect(nearestOnGrid(33.5, grid)).toEqual({
      volumeMl: 35,
      moves: [
        { name: 'jigger', volumeMl: 30 },
        { name: 'spoon', volumeMl: 5 },
      ],
    })
    expect(nearestOnGrid(20, grid)?.volumeMl).toBe(10)
    expect(nearestOnGrid(20, [])).toBeUndefined()
  })
  it('takes one move rather than two for the same volume', () => {
    const grid = pourGrid(usualMeasures(DEFAULT_KIT))
    expect(nearestOnGrid(45, grid)?.moves).toEqual([{ name: 'large jigger', volumeMl: 45 }])
  })
})

describe('another syrup at equal sugar', () => {
  const grid = pourGrid(usualMeasures(DEFAULT_KIT))
  const rich = { abvPct: 0, sugarGPer100Ml: 76, acidGPer100Ml: 0 }
  const lean = { abvPct: 0, sugarGPer100Ml: 54, acidGPer100Ml: 0.2 }
  it('says the pour, and what it does to volume and acid', () => {
    const found = substituteAtEqualSugar(rich, lean, 15, grid)
    expect(found?.exactMl).toBeCloseTo(21.11, 2)
    expect(found?.pour.volumeMl).toBe(20)
    expect(found?.volumeMl).toBe(5)
    expect(found?.sugarG).toBeCloseTo(-0.6, 6)
    expect(found?.acidG).toBeCloseTo(0.04, 6)
  })
  it('means nothing without sugar', () => {
    expect(substituteAtEqualSugar({ ...rich, sugarGPer100Ml: 0 }, lean, 15, grid)).toBeUndefined()
  })
})

describe('what goes into a lot', () => {
  const house = testHouse()
  const withLots = (lots: Lot[], today = TODAY, at?: Date) =>
    resolveHouse({ ...house, ingredients: [...house.ingredients, ...SHELF], lots }, today, at)

  it('colours it when it is past its day, at every depth, and every drink of it', () => {
    const nut = lot(1, 'nut-mix', { useBy: '2026-06-09' })
    const within = lotsWithin(freshOf('top-mix'), new Map([['nut-mix', nut]]))
    expect(within).toEqual([{ ingredient: 'nut-mix', name: 'nut mix', lot: 1, useBy: '2026-06-09' }])
    const top = lot(2, 'top-mix', { useBy: '2026-07-01' })
    const made: Lot = { ...top, document: { ...top.document, madeWith: within } }
    // Of what goes into the next one, what had gone into this stays known.
    expect(lotsWithin(freshOf('over-mix'), new Map([['top-mix', made]])).map((w) => w.lot)).toEqual([2, 1])
    const drink = testDrink({ pours: [{ ingredient: 'top-mix', amount: { value: 1, unit: 'oz' } }] })
    const said = (lots: Lot[], today: string) => {
      const glass = glassFor(drink, withLots(lots, today))
      return glass.ok ? glass.consequences.filter((c) => c.code === 'expired').map((c) => c.text) : []
    }
    expect(said([made], '2026-06-09')).toEqual([])
    expect(said([made], TODAY)).toEqual(['top mix was made with nut mix: lot 1 was to be used by 9 Jun 2026'])
    const decided: Lot = {
      ...made,
      document: {
        ...made.document,
        recipe: {
          ...(made.document.recipe as Recipe),
          keepsDecision: { days: 30, reason: 'boiled', by: 'Ada', on: TODAY },
        },
      },
    }
    expect(said([decided], TODAY)).toEqual([])
  })

  it('a juice past the house’s hours says so; one that nobody wrote the hour of does not', () => {
    const pressed = lot(3, 'orange-juice', { useBy: null })
    const timed: Lot = { ...pressed, document: { ...pressed.document, madeAt: '2026-06-10T10:00:00.000Z' } }
    const drink = testDrink({ pours: [{ ingredient: 'orange-juice', amount: { value: 2, unit: 'oz' } }] })
    const said = (of: Lot, at: string, juiceHours?: number) => {
      const book = withLots([of], TODAY, new Date(at))
      const glass = glassFor(drink, { ...book, settings: { ...book.settings, juiceHours } })
      return glass.ok ? glass.consequences.filter((c) => c.code === 'juiceAge').map((c) => c.text) : []
    }
    expect(said(timed, '2026-06-10T17:30:00Z')).toEqual([])
    expect(said(timed, '2026-06-10T19:30:00Z')).toEqual([
      'orange juice was pressed 9 h ago; the house pours it for 8 h',
    ])
    expect(said(timed, '2026-06-10T19:30:00Z', 12)).toEqual([])
    expect(said(pressed, '2026-06-10T19:30:00Z')).toEqual([])
  })

  it('its acid measured again is a curve; measured once it is none', () => {
    const reading = (at: string, acidGPer100Ml: number) => ({
      at,
      by: 'Ada',
      event: { kind: 'measured' as const, measured: { acidGPer100Ml } },
    })
    const pressed = lot(4, 'orange-juice')
    const once = { ...pressed, events: [reading('2026-06-10T12:00:00Z', 0.9)] }
    expect(acidCurveOf(pressed)).toBeUndefined()
    expect(acidCurveOf(once)).toBeUndefined()
    expect(acidCurveOf({ ...once, events: [...once.events, reading('2026-06-10T12:05:00Z', 0.8)] })).toBeUndefined()
    const twice = { ...once, events: [...once.events, reading('2026-06-10T18:00:00Z', 0.78)] }
    expect(acidCurveOf(twice)?.points.map((p) => p.ageH)).toEqual([0, 6])
    expect(acidCurveOf(twice)?.perHour).toBeCloseTo(-0.02, 9)
    const timed = { ...twice, document: { ...twice.document, madeAt: '2026-06-10T09:00:00Z' } }
    expect(acidCurveOf(timed)?.points.map((p) => p.ageH)).toEqual([3, 9])
  })
})

const OVER = mix('over-mix', [
  { ingredient: 'top-mix', amount: 50 },
  { ingredient: 'soda', amount: 50 },
])

function freshOf(slug: string) {
  const made = createMixer([...testHouse().ingredients, ...SHELF, OVER]).freshMixOf(slug)
  if (!made.ok) throw new Error(`${slug} cannot be made`)
  return made.mix
}
