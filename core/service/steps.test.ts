import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { resolveDrink } from '../drink/index.ts'
import { BUILD_ORDERS, type BuildOrder } from '../house/index.ts'
import { keysOf } from '../schema/keysOf.ts'
import { bottle, testDrink, testHouse, withTinsOf } from '../testing/house.ts'
import { leftSo, makeLoad } from './load.ts'
import { isAllIn, missingBefore, nextAfter, skippedOf, stepInHand, withTick } from './progress.ts'
import { roundSchema, stepIdSchema } from './roundSchema.ts'
import type { LoadToMake, Step } from './step.ts'
import { stepsOf } from './steps.ts'

const HOUSE = testHouse()
const BOOK = {
  ...HOUSE,
  ingredients: [
    ...HOUSE.ingredients.map((i) => (i.slug === 'plain-rum' ? { ...i, size: 700, price: 28 } : i)),
    bottle('bitters', 44, 0, 0, { kind: 'bitters' }),
  ],
}
const withOrder = (buildOrder: BuildOrder) => ({ ...BOOK, settings: { ...BOOK.settings, buildOrder } })
const load = (id: string, document: LoadToMake['document'], glasses = 1): LoadToMake => ({
  id,
  name: document.name,
  document,
  glasses,
  made: undefined,
})
const FULL = testDrink({
  pours: [
    { ingredient: 'soda', volumeMl: 40, into: 'glass' },
    { ingredient: 'plain-rum', amount: { value: 2, unit: 'oz' } },
    { ingredient: 'lime-juice', amount: { value: 0.75, unit: 'oz' } },
    { ingredient: 'sugar-syrup', amount: { value: 0.5, unit: 'oz' } },
    { ingredient: 'bitters', amount: { value: 2, unit: 'dash' } },
    { ingredient: 'strong-rum', amount: { value: 0.25, unit: 'oz' }, into: 'float' },
    { ingredient: 'plain-rum', volumeMl: 5, into: 'glass' },
  ],
  serveIce: [{ kind: 'crushed', massG: 40 }],
  garnish: [{ text: 'lime wheel' }, { text: 'an oleander', isFood: false }],
  hasFlame: true,
})
const kinds = (steps: readonly Step[]) => steps.map((s) => s.kind)
const names = (steps: readonly Step[]) => steps.filter((s) => s.kind === 'pour').map((s) => s.name)

describe('the steps of one drink', () => {
  it('set out the glass, pour, ice last, chill, soda first, pour off, top up, float, garnish, flame', () => {
    const steps = stepsOf([load('a', FULL)], BOOK, 'front')
    expect(kinds(steps)).toEqual([
      'glass',
      'pour',
      'pour',
      'pour',
      'pour',
      'ice',
      'chill',
      'soda',
      'strain',
      'topIce',
      'after',
      'float',
      'garnish',
      'garnish',
      'flame',
    ])
    expect(steps.find((s) => s.name === 'an oleander')?.minds).toEqual(['not food: keep it out of the glass'])
    expect(steps.find((s) => s.kind === 'float')?.minds).toContain('overproof: no flame near it')
  })

  it.each([
    ['cheapestFirst', ['sugar syrup', 'bitters', 'lime juice', 'plain rum']],
    ['citrusFirst', ['lime juice', 'sugar syrup', 'bitters', 'plain rum']],
    ['spiritFirst', ['plain rum', 'bitters', 'lime juice', 'sugar syrup']],
  ] as const)('%s', (order, wanted) => {
    expect(names(stepsOf([load('a', FULL)], withOrder(order), 'front'))).toEqual(wanted)
  })

  it('has its ice first where the spec lets it lie on it', () => {
    const waiting = testDrink({ stages: [{ method: 'crushedShake', durationS: 6, waitS: 20 }] })
    const steps = kinds(stepsOf([load('a', waiting)], BOOK, 'front'))
    expect(steps.indexOf('ice')).toBeLessThan(steps.indexOf('pour'))
    expect(steps.filter((k) => k === 'ice')).toHaveLength(1)
  })

  it('is built in its glass with the soda first, and without a clock', () => {
    const built = testDrink({
      pours: [
        { ingredient: 'soda', volumeMl: 90, into: 'glass' },
        { ingredient: 'plain-rum', volumeMl: 45 },
      ],
      stages: [{ method: 'build' }],
    })
    const steps = stepsOf([load('a', built)], BOOK, 'front')
    expect(names(steps)).toEqual(['soda', 'plain rum'])
    expect(kinds(steps)).not.toContain('chill')
  })

  it('fetches a cold glass only when it is poured into', () => {
    const cold = { ...BOOK, glasses: BOOK.glasses.map((g) => ({ ...g, storedIn: 'freezer' as const })) }
    const steps = kinds(stepsOf([load('a', FULL)], cold, 'front'))
    expect(steps.indexOf('glass')).toBeGreaterThan(steps.indexOf('chill'))
    expect(steps.indexOf('glass')).toBeLessThan(steps.indexOf('strain'))
  })

  it('measures with the jiggers of the house, and says where none does', () => {
    const [rum] = stepsOf(
      [load('a', testDrink({ pours: [{ ingredient: 'plain-rum', volumeMl: 52.5 }] }))],
      BOOK,
      'front',
    ).filter((s) => s.kind === 'pour')
    expect(rum?.moves?.moves.map((m) => m.volumeMl)).toEqual([45, 7.5])
    const [odd] = stepsOf(
      [load('a', testDrink({ pours: [{ ingredient: 'plain-rum', volumeMl: 3 }] }))],
      BOOK,
      'front',
    ).filter((s) => s.kind === 'pour')
    expect(odd?.moves).toBeUndefined()
    expect(odd?.minds).toEqual(['no jigger of the house measures this: by the scale or by eye'])
  })

  it('says what is poured for what is out, and what is left off', () => {
    const book = {
      ...BOOK,
      outAt: { front: { ingredients: ['lime-juice'], glasses: [], fruits: ['Lime'] } },
    }
    const steps = stepsOf([load('a', FULL)], book, 'front')
    expect(steps.find((s) => s.name === 'lime juice')?.minds).toEqual(['lime juice is out: what is poured instead?'])
    expect(steps.find((s) => s.name === 'lime wheel')?.minds).toEqual(['is out tonight: leave it off'])
  })
})

describe('several loads', () => {
  const anyLoads = fc.array(
    fc.record({
      rum: fc.integer({ min: 1, max: 8 }),
      lime: fc.integer({ min: 0, max: 4 }),
      syrup: fc.integer({ min: 0, max: 4 }),
      method: fc.constantFrom('flashBlend' as const, 'hardShake' as const, 'swizzle' as const),
      glasses: fc.integer({ min: 1, max: 3 }),
    }),
    { minLength: 1, maxLength: 4 },
  )

  it('pour every line once into its own tin, in the same order for all, and add up to what is in it', () => {
    fc.assert(
      fc.property(anyLoads, fc.constantFrom(...keysOf(BUILD_ORDERS)), (all, order) => {
        const loads = all.map(({ rum, lime, syrup, method, glasses }, i) => {
          const line = (ingredient: string, quarters: number) =>
            quarters > 0 ? [{ ingredient, amount: { value: quarters / 4, unit: 'oz' as const } }] : []
          const document = testDrink({
            pours: [...line('plain-rum', rum), ...line('lime-juice', lime), ...line('sugar-syrup', syrup)],
            stages: [{ method }],
          })
          return load('abcd'[i] as string, document, method === 'swizzle' ? 1 : glasses)
        })
        const steps = stepsOf(loads, withOrder(order), 'front')
        expect(new Set(steps.map((s) => s.id)).size).toBe(steps.length)
        for (const l of loads) {
          const own = steps.filter((s) => s.load === l.id && s.kind === 'pour')
          const made = resolveDrink(l.document, BOOK, 'front')
          if (!made.ok) throw new Error('bug: it can be made')
          const wanted = made.drink.pours.reduce((sum, p) => sum + p.volumeMl * l.glasses, 0)
          expect(own).toHaveLength(made.drink.pours.length)
          expect(own.reduce((sum, s) => sum + (s.volumeMl ?? 0), 0)).toBeCloseTo(wanted, 6)
          // Level on level, from empty to full.
          let at = 0
          for (const s of own) {
            expect(s.levelMl?.from).toBeCloseTo(at, 6)
            at = s.levelMl?.to ?? 0
          }
          expect(at).toBeCloseTo(wanted, 6)
          // Ice comes after all that is poured, for whichever tin.
          const lastPour = steps.findLastIndex((s) => s.kind === 'pour')
          expect(steps.findIndex((s) => s.kind === 'ice')).toBeGreaterThan(lastPour)
        }
        // Whoever has a bottle in hand pours it for all.
        const poured = names(steps)
        for (const name of new Set(poured)) {
          const first = poured.indexOf(name)
          expect(poured.slice(first, first + poured.filter((n) => n === name).length).every((n) => n === name)).toBe(
            true,
          )
        }
        for (const s of steps)
          if (s.shared) {
            const group = steps.filter((x) => x.kind === 'pour' && x.name === s.name)
            expect(s.shared.totalMl).toBeCloseTo(
              group.reduce((sum, x) => sum + (x.volumeMl ?? 0), 0),
              6,
            )
          }
      }),
      { numRuns: 40 },
    )
  })

  it('say a bottle that is poured for all: each part, and what they come to', () => {
    const drink = (value: number) => testDrink({ pours: [{ ingredient: 'lime-juice', amount: { value, unit: 'oz' } }] })
    const [first] = stepsOf([load('a', drink(0.75), 2), load('b', drink(0.5))], BOOK, 'front').filter(
      (s) => s.kind === 'pour',
    )
    expect(first?.amount).toBe('1½ oz')
    expect(first?.shared).toMatchObject({
      parts: [{ text: '1½' }, { text: '½' }],
      totalText: '2 oz',
      totalMl: 60,
      index: 0,
    })
  })

  it('take what is in already off what is poured', () => {
    const document = testDrink({ pours: [{ ingredient: 'plain-rum', amount: { value: 2, unit: 'oz' } }] })
    const [rest] = stepsOf([{ ...load('a', document, 2), inTin: { 0: 75 } }], BOOK, 'front').filter(
      (s) => s.kind === 'pour',
    )
    expect(rest).toMatchObject({ amount: '1½ oz', volumeMl: 45, levelMl: { from: 75, to: 120 } })
    expect(rest?.notes).toEqual(['75 ml of it is in already'])
    expect(rest?.whole).toEqual({ volumeMl: 120, text: '4 oz' })
  })

  it('say of what too much is in, and want nothing more of it', () => {
    const document = testDrink({ pours: [{ ingredient: 'plain-rum', amount: { value: 2, unit: 'oz' } }] })
    const [left] = stepsOf([{ ...load('a', document), inTin: { 0: 75 } }], BOOK, 'front').filter(
      (s) => s.kind === 'pour',
    )
    expect(left).toMatchObject({ amount: 'enough', volumeMl: 0, notes: [], minds: ['75 ml of it is in, for 2 oz'] })
  })

  it('have the ice and the seconds that were reckoned for the load', () => {
    const document = testDrink()
    const made = makeLoad(document, BOOK, 'front', 2)
    if (!made.ok) throw new Error(made.words)
    const steps = stepsOf([{ ...load('a', document, 2), made: made.made }], BOOK, 'front')
    expect(steps.find((s) => s.kind === 'chill')?.amount).toBe(`${made.made.durationS} s`)
    expect(steps.find((s) => s.kind === 'ice')?.amount).toBe(made.made.ice.map((p) => `${p.massG} g`).join(' + '))
    expect(steps.find((s) => s.kind === 'strain')?.also).toMatch(/^\d+ ml each$/)
  })
})

describe('the steps of a bowl in goes', () => {
  const bowl = testDrink({
    pours: [
      { ingredient: 'soda', volumeMl: 60, into: 'glass' },
      { ingredient: 'plain-rum', amount: { value: 6, unit: 'oz' } },
      { ingredient: 'lime-juice', amount: { value: 2, unit: 'oz' } },
      { ingredient: 'bitters', amount: { value: 4, unit: 'dash' } },
    ],
    stages: [{ method: 'crushedShake', durationS: 8, ice: [{ kind: 'crushed', massG: 200 }] }],
    serveIce: [{ kind: 'crushed', massG: 100 }],
    garnish: [{ text: 'mint' }],
  })
  const small = withTinsOf(260, BOOK)
  const stepsWith = (inTin?: LoadToMake['inTin']) =>
    stepsOf([{ ...load('a', bowl), ...(inTin ? { inTin } : {}) }], small, 'front')
  const pouredMl = (steps: readonly Step[], line: number) =>
    steps.filter((s) => s.kind === 'pour' && s.id.endsWith(`:${line}`)).map((s) => s.volumeMl ?? 0)
  const sum = (list: readonly number[]) => list.reduce((a, b) => a + b, 0)

  it('pour, chill and pour off go by go; glass, soda, ice on top and garnish come once', () => {
    expect(stepsWith().map((s) => `${s.kind}${s.go ? ` ${s.go.number}` : ''}`)).toEqual([
      'glass',
      ...['pour 1', 'pour 1', 'pour 1', 'ice 1', 'chill 1', 'soda', 'strain 1'],
      ...['pour 2', 'pour 2', 'ice 2', 'chill 2', 'strain 2'],
      'topIce',
      'garnish',
    ])
    expect(
      stepsWith()
        .filter((s) => s.kind === 'ice')
        .map((s) => s.amount),
    ).toEqual(['100 g', '100 g'])
    // What is counted is not halved, and every step has a name of its own that a round can keep.
    expect(
      stepsWith()
        .filter((s) => /dash/.test(s.amount ?? ''))
        .map((s) => s.amount),
    ).toEqual(['4 dashes'])
    const ids = stepsWith().map((s) => s.id)
    expect(new Set(ids).size).toBe(ids.length)
    for (const id of ids) expect(stepIdSchema.safeParse(id).success).toBe(true)
  })

  it('come to the whole, and what is too much in one go is less in the last', () => {
    expect(pouredMl(stepsWith(), 1)).toEqual([90, 90])
    fc.assert(
      fc.property(fc.double({ min: 90, max: 200, noNaN: true }), (ml) => {
        const [first, last] = pouredMl(stepsWith([{ 1: ml }]), 1) as [number, number]
        expect(first).toBe(0)
        expect(ml + last).toBeCloseTo(Math.max(180, ml), 6)
        expect(sum(pouredMl(stepsWith([{ 1: ml }]), 2))).toBeCloseTo(60, 6)
      }),
    )
    const made = makeLoad(bowl, small, 'front', 1)
    if (!made.ok) throw new Error(made.words)
    const left = (...goes: Record<number, number>[]) => leftSo(bowl, small, 'front', made.made, goes)
    expect(left({ 1: 120 })).toBe(made.made)
    expect(left({ 1: 120 }, { 1: 60 })).toBe(made.made)
    expect(left({ 1: 120 }, { 1: 90 }).inTin).toEqual({ 1: 210 })
    expect(left({}, { 1: 120 }).inTin).toEqual({ 1: 210 })
  })

  it('are those of the whole where it is read as it is written', () => {
    const written = stepsOf([{ ...load('a', bowl), goes: 1 }], small, 'front')
    expect(written).toEqual(stepsOf([load('a', bowl)], withTinsOf(2000, BOOK), 'front'))
  })

  it('miss before a clock only what belongs to its go', () => {
    const steps = stepsWith()
    const [first, second] = steps.filter((s) => s.kind === 'chill') as [Step, Step]
    const inFirst = steps.filter((s) => s.go?.number === 1 && (s.kind === 'pour' || s.kind === 'ice'))
    expect(missingBefore(steps, { ticks: [] }, first)).toEqual(inFirst)
    const missing = missingBefore(steps, { ticks: inFirst.map((s) => s.id) }, second)
    expect(missing.map((s) => s.go?.number)).toEqual([2, 2, 2])
  })

  it('have a bottle in when it is in all of them', () => {
    const steps = stepsWith()
    const rum = steps.filter((s) => s.line === 1).map((s) => s.id)
    expect(rum).toEqual(['pour:a:1', 'pour:a2:1'])
    expect(isAllIn(steps, { ticks: rum.slice(0, 1) }, 'a', [1])).toBe(false)
    expect(isAllIn(steps, { ticks: rum }, 'a', [1])).toBe(true)
    expect(isAllIn(steps, { ticks: rum }, 'a', [1, 2])).toBe(false)
    // What goes into the glass beside it is poured, too; of another load, or of no line, nothing is in.
    expect(isAllIn(steps, { ticks: ['soda:a:0'] }, 'a', [0])).toBe(true)
    expect(isAllIn(steps, { ticks: rum }, 'b', [1])).toBe(false)
    expect(isAllIn(steps, { ticks: rum }, 'a', [])).toBe(false)
  })

  it('are kept with a clock of each go, and of no other', () => {
    const clock = { startedAt: '2026-09-01T21:00:00Z', ranS: 3 }
    const round = {
      ...{ key: 'a'.repeat(32), well: 'front', startedAt: '2026-09-01T21:00:00Z', poured: { 'pour:a2:1': 80 } },
      loads: [{ id: 'a', drink: 'bowl', version: 1, document: bowl, glasses: 1 }],
      ticks: stepsWith().map((s) => s.id),
    }
    expect(roundSchema.safeParse({ ...round, clocks: { a: clock, a2: clock } }).success).toBe(true)
    expect(roundSchema.safeParse({ ...round, clocks: { b2: clock } }).success).toBe(false)
    expect(roundSchema.safeParse({ ...round, clocks: { a12: clock } }).success).toBe(false)
  })
})

describe('how far a round is', () => {
  const steps = stepsOf([load('a', FULL)], BOOK, 'front')
  const [glass, bitters, syrup] = steps as [Step, Step, Step]

  it('keeps what was passed over in sight until it is done', () => {
    let round = withTick({ ticks: [] as string[] }, glass.id, true)
    expect(stepInHand(steps, round)).toBe(bitters)
    round = withTick(round, syrup.id, true)
    expect(skippedOf(steps, round)).toEqual([bitters])
    expect(stepInHand(steps, round)?.name).toBe('lime juice')
    round = withTick(round, bitters.id, true)
    expect(skippedOf(steps, round)).toEqual([])
    // Unticked again it is open again, and nothing else is.
    round = withTick(round, bitters.id, false)
    expect(skippedOf(steps, round)).toEqual([bitters])
  })

  it('comes round to what was left, and ends when nothing is', () => {
    const all = steps.map((s) => s.id)
    const but = { ticks: all.filter((id) => id !== bitters.id) }
    expect(stepInHand(steps, but)).toBe(bitters)
    expect(nextAfter(steps, but, steps.at(-1)?.id ?? '')).toBe(bitters)
    expect(stepInHand(steps, { ticks: all })).toBeUndefined()
  })

  it('says before the clock what is not in the tin', () => {
    const chill = steps.find((s) => s.kind === 'chill') as Step
    const ticks = steps.filter((s) => s.kind === 'pour' || s.kind === 'ice').map((s) => s.id)
    expect(missingBefore(steps, { ticks }, chill)).toEqual([])
    expect(missingBefore(steps, { ticks: ticks.filter((t) => t !== syrup.id) }, chill)).toEqual([syrup])
  })

  it('does not mind what is ticked twice, or unticked though it never was', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.constantFrom(...steps.map((s) => s.id)), fc.boolean())), (taps) => {
        let round = { ticks: [] as string[] }
        const wanted = new Set<string>()
        for (const [id, on] of taps) {
          round = withTick(round, id, on)
          if (on) wanted.add(id)
          else wanted.delete(id)
        }
        expect(new Set(round.ticks)).toEqual(wanted)
        expect(round.ticks).toHaveLength(wanted.size)
      }),
    )
  })
})
