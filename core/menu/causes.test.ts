import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { DrinkDocument } from '../drink/index.ts'
import { glassFor, MEASURE_NAMES } from '../drink/index.ts'
import { resolveHouse } from '../formula/index.ts'
import type { HouseBook } from '../house/index.ts'
import { bottle, testDrink, testHouse } from '../testing/house.ts'
import { type Cause, causesOf, changesSince, shapley } from './index.ts'

const NIGHT = '2026-03-01'
const mix = (slug: string, components: [string, number][]) =>
  bottle(slug, 0, 0, 0, {
    kind: 'houseMix',
    recipe: { by: 'weight', components: components.map(([ingredient, amount]) => ({ ingredient, amount })) } as never,
  })
/** A house with a mix of a mix. */
const kept = () => {
  const house = testHouse()
  const ingredients = [
    ...house.ingredients,
    mix('inner', [
      ['nut-syrup', 50],
      ['lime-juice', 50],
    ]),
    mix('outer', [
      ['inner', 60],
      ['sugar-syrup', 40],
    ]),
  ]
  return { ...house, ingredients, lots: [] }
}
type Kept = ReturnType<typeof kept>
const bookOf = (house: Kept): HouseBook => resolveHouse(house, NIGHT)
const change = (house: Kept, slug: string, to: (i: Kept['ingredients'][number]) => object): Kept => ({
  ...house,
  ingredients: house.ingredients.map((i) => (i.slug === slug ? { ...i, ...to(i) } : i)),
})
const sugar = (house: Kept, slug: string, value: number) =>
  change(house, slug, (i) => ({ figures: { ...i.figures, sugarGPer100Ml: { value, basis: 'measured' } } }))

const drink = testDrink({
  pours: [
    { ingredient: 'plain-rum', amount: { value: 2, unit: 'oz' } },
    { ingredient: 'lime-juice', amount: { value: 0.75, unit: 'oz' } },
    { ingredient: 'outer', amount: { value: 0.5, unit: 'oz' } },
    { ingredient: 'nut-syrup', amount: { value: 0.25, unit: 'oz' } },
  ],
})
function moved(document: DrinkDocument, locked: HouseBook, today: HouseBook, well = 'front') {
  const then = glassFor(document, locked, well)
  if (!then.ok) throw new Error('it could not be computed then')
  const found = causesOf({ document, locked, lockedPredictions: then.result.predictions, today, well })
  if (!found.ok) throw new Error(found.reason)
  return found.moved
}
const words = (c: Cause) => ('of' in c ? `${c.kind} ${c.of}`.trim() : c.kind)

describe('the value of each of some players (Shapley 1953)', () => {
  it('shares what two do only together, and gives nothing to one who does nothing', () => {
    // Worth of: none, a, b, ab, c, ac, bc, abc.
    expect(shapley(3, [0, 0, 0, 10, 0, 0, 0, 10])).toEqual([5, 5, 0])
  })

  it('is what the glove game is known for: left 2/3, the two right ones 1/6 each', () => {
    // One left glove (a), two right ones: a pair is worth 1.
    const shares = shapley(3, [0, 0, 0, 1, 0, 1, 0, 1])
    for (const [i, known] of [2 / 3, 1 / 6, 1 / 6].entries()) expect(shares[i]).toBeCloseTo(known, 12)
  })

  it('adds up, is the same for those who do the same, and is the mean over every order', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 5 }),
        fc.array(fc.double({ min: -9, max: 9, noNaN: true }), { minLength: 32, maxLength: 32 }),
        (n, all) => {
          const worth = all.slice(0, 2 ** n)
          const shares = shapley(n, worth)
          const total = shares.reduce((a, b) => a + b, 0)
          expect(total).toBeCloseTo((worth[worth.length - 1] as number) - (worth[0] as number), 9)
          const orders = permutations(Array.from({ length: n }, (_, i) => i))
          for (let player = 0; player < n; player++) {
            const mean =
              orders.reduce((sum, order) => {
                const before = order.slice(0, order.indexOf(player)).reduce((set, p) => set | (1 << p), 0)
                return sum + (worth[before | (1 << player)] as number) - (worth[before] as number)
              }, 0) / orders.length
            expect(shares[player]).toBeCloseTo(mean, 9)
          }
        },
      ),
      { numRuns: 60, seed: 4 },
    )
  })
})

function permutations(all: number[]): number[][] {
  if (all.length <= 1) return [all]
  return all.flatMap((x) => permutations(all.filter((y) => y !== x)).map((rest) => [x, ...rest]))
}

describe('what changed since an edition', () => {
  const changes = (today: HouseBook, locked = bookOf(kept())) =>
    changesSince({ locked, today, well: 'front' }).changes.map(words)

  it('is nothing where nothing did', () => expect(changes(bookOf(kept()))).toEqual([]))

  it('is a bottle, and not the mixes that follow from it', () =>
    expect(changes(bookOf(sugar(kept(), 'nut-syrup', 80)))).toEqual(['figures nut-syrup']))

  it('is a recipe, and not the mix around it', () => {
    const today = bookOf(
      change(kept(), 'inner', () =>
        mix('inner', [
          ['nut-syrup', 70],
          ['lime-juice', 30],
        ]),
      ),
    )
    expect(changes(today)).toEqual(['recipe inner'])
  })

  it('is a well, a station, a glass and the house’s measures, each by itself', () => {
    const house = kept()
    const today = bookOf({
      ...house,
      settings: { ...house.settings, kit: { ...house.settings.kit, ounceMl: 29.5735 } },
      wells: house.wells.map((w) => ({
        ...w,
        roomTemperatureC: 28,
        stations: w.stations.map((s) => ({ ...s, handling: 2 }) as never),
      })),
      glasses: house.glasses.map((g) => ({ ...g, heatCapacityJPerK: 300 })),
    })
    expect(changes(today)).toEqual([
      'glass tall',
      'glass thimble',
      'well front',
      'station mixer',
      'station tin',
      'settings',
    ])
  })
})

describe('why a drink is not what its edition locked', () => {
  it('one syrup in two places is one cause', () => {
    const { causes, measures } = moved(drink, bookOf(kept()), bookOf(sugar(kept(), 'nut-syrup', 84)))
    expect(causes.map(words)).toEqual(['figures nut-syrup'])
    expect(measures.sweetGPer100Ml?.shares[0]).toBeGreaterThan(0.3)
  })

  it('two causes share it, each with its own sign', () => {
    const today = bookOf(sugar(sugar(kept(), 'nut-syrup', 84), 'sugar-syrup', 40))
    const { causes, measures } = moved(drink, bookOf(kept()), today)
    expect(causes.map(words)).toEqual(['figures sugar-syrup', 'figures nut-syrup'])
    const [less, more] = measures.sweetGPer100Ml?.shares ?? []
    expect(less).toBeLessThan(0)
    expect(more).toBeGreaterThan(0)
  })

  it('says what another model of the ice did, first', () => {
    const locked = bookOf(kept())
    const then = glassFor(drink, locked, 'front')
    if (!then.ok) throw new Error('it could not be computed then')
    const { dilutionPct } = then.result.predictions
    const lockedPredictions = {
      ...then.result.predictions,
      dilutionPct: { low: 0, high: 99, value: (dilutionPct?.value ?? 0) - 4 },
    }
    const found = causesOf({
      document: drink,
      locked,
      lockedPredictions,
      today: bookOf(sugar(kept(), 'nut-syrup', 84)),
      well: 'front',
    })
    expect(found.ok && found.moved.causes.map(words)).toEqual(['model', 'figures nut-syrup'])
    expect(found.ok && found.moved.measures.dilutionPct?.shares[0]).toBeCloseTo(4, 9)
  })

  it('the shares add up to all of it, whatever changed at once', () => {
    const slugs = ['plain-rum', 'lime-juice', 'sugar-syrup', 'nut-syrup'] as const
    const figures = fc.record(
      Object.fromEntries(
        slugs.map((s) => [s, fc.option(fc.double({ min: 0, max: 90, noNaN: true }), { nil: undefined })]),
      ),
    )
    fc.assert(
      fc.property(
        figures,
        fc.option(fc.integer({ min: 5, max: 95 })),
        fc.integer({ min: 10, max: 35 }),
        (changed, share, room) => {
          let house: Kept = kept()
          for (const [slug, value] of Object.entries(changed))
            if (value !== undefined) house = sugar(house, slug, Math.min(value, slug === 'plain-rum' ? 5 : 90))
          if (share !== null)
            house = change(house, 'inner', () =>
              mix('inner', [
                ['nut-syrup', share],
                ['lime-juice', 100 - share],
              ]),
            )
          house = { ...house, wells: house.wells.map((w) => ({ ...w, roomTemperatureC: room })) }
          const { causes, measures } = moved(drink, bookOf(kept()), bookOf(house))
          expect(causes.some((c) => c.kind === 'rest')).toBe(false)
          for (const name of MEASURE_NAMES) {
            const m = measures[name]
            if (!m) continue
            expect(m.shares.reduce((a, b) => a + b, 0)).toBeCloseTo(m.now - m.was, 9)
          }
        },
      ),
      { numRuns: 12, seed: 5 },
    )
  })

  it('takes together what moves least, beyond eight', () => {
    const pours = Array.from({ length: 10 }, (_, i) => bottle(`syrup-${i}`, 0, 40, 0, { kind: 'syrup' }))
    const house = { ...kept(), ingredients: [...kept().ingredients, ...pours] }
    const many = testDrink({
      pours: pours.map((p) => ({ ingredient: p.slug, amount: { value: 10, unit: 'ml' } })),
      stages: [{ method: 'build', durationS: 5 }],
    })
    const today = {
      ...house,
      ingredients: house.ingredients.map((i) =>
        i.slug.startsWith('syrup-')
          ? {
              ...i,
              figures: {
                ...i.figures,
                sugarGPer100Ml: { value: 41 + Number(i.slug.slice(6)), basis: 'measured' as const },
              },
            }
          : i,
      ),
    }
    const { causes, measures } = moved(many, bookOf(house), bookOf(today))
    expect(causes.map(words)).toEqual([3, 4, 5, 6, 7, 8, 9].map((n) => `figures syrup-${n}`).concat('pooled'))
    const sweet = measures.sweetGPer100Ml
    expect(sweet?.shares.reduce((a, b) => a + b, 0)).toBeCloseTo((sweet?.now ?? 0) - (sweet?.was ?? 0), 9)
  }, 60_000)
})
