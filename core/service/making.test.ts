import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { allergensOf, computeDrink, resolveDrink, standardFrom } from '../drink/index.ts'
import { bottle, testDrink, testHouse } from '../testing/house.ts'
import { tune } from '../tune/index.ts'
import {
  afterWorking,
  chillClock,
  isForgotten,
  makeLoad,
  ordersBy,
  paceAt,
  readingAt,
  rescueOf,
  standingAt,
  wishAsked,
} from './index.ts'

const BOOK = testHouse()
const held = (document: ReturnType<typeof testDrink>) => {
  const resolution = resolveDrink(document, BOOK, 'front')
  const made = resolution.ok ? computeDrink(resolution.drink) : undefined
  if (!made?.ok) throw new Error('bug: it can be made')
  return { ...document, standard: standardFrom(made.result.predictions) }
}
const loadOf = (document: ReturnType<typeof testDrink>, glasses = 1) => {
  const load = makeLoad(document, BOOK, 'front', glasses)
  if (!load.ok) throw new Error(load.words)
  return load.made
}

describe('the clock of a chill', () => {
  const document = held(
    testDrink({ stages: [{ method: 'flashBlend', durationS: 4 }], serveIce: [{ kind: 'crushed', massG: 30 }] }),
  )
  const made = loadOf(document)
  const clock = chillClock(document, BOOK, 'front', made)
  if (!clock) throw new Error('bug: a chill has a clock')

  it('reads what the glass would be if the work stopped now: at its seconds, what is promised', () => {
    const at = readingAt(clock, 4)
    expect(at?.dilutionPct).toBeCloseTo(made.predictions.dilutionPct?.value ?? 0, 0)
    expect(at?.temperatureC).toBeCloseTo(made.predictions.temperatureC?.value ?? 0, 0)
    const all = clock.readings.map((r) => r.dilutionPct)
    expect(all).toEqual([...all].sort((a, b) => a - b))
    expect(readingAt(clock, 1e6)).toBe(clock.readings.at(-1))
  })

  it('is too soon, in the window, too long; a window without an end is never too long', () => {
    const { window } = clock
    if (!window) throw new Error('bug: it is in its standard')
    expect([window.lowS - 0.1, 4, window.highS + 0.1].map((s) => standingAt(window, s))).toEqual(['soon', 'in', 'long'])
    expect(standingAt({ ...window, isOpenEnded: true }, 1e4)).toBe('in')
    expect(standingAt(undefined, 4)).toBe('open')
  })

  it('counts down a machine, and a hand up', () => {
    expect(clock.isMachine).toBe(true)
    const shaken = testDrink({ stages: [{ method: 'hardShake', durationS: 10 }] })
    expect(chillClock(shaken, BOOK, 'front', loadOf(shaken))?.isMachine).toBe(false)
  })

  it('works in bursts, with rests that do not count as work, and goes on past its end', () => {
    const bursts = testDrink({ stages: [{ method: 'flashBlend', durationS: 6, bursts: 3, restS: 2, waitS: 5 }] })
    const stretches = chillClock(bursts, BOOK, 'front', loadOf(bursts))?.stretches ?? []
    expect(stretches.map((s) => `${s.kind} ${s.durationS}`)).toEqual([
      'wait 5',
      'work 2',
      'rest 2',
      'work 2',
      'rest 2',
      'work 2',
    ])
    expect(paceAt(stretches, 3)).toMatchObject({ kind: 'wait', workedS: 0 })
    expect(paceAt(stretches, 6)).toMatchObject({ kind: 'work', burst: 1, bursts: 3, workedS: 1 })
    expect(paceAt(stretches, 8)).toMatchObject({ kind: 'rest', workedS: 2 })
    expect(paceAt(stretches, 14)).toMatchObject({ kind: 'work', burst: 3, workedS: 5 })
    expect(paceAt(stretches, 20)).toMatchObject({ kind: 'work', workedS: 11 })
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 60, noNaN: true }),
        fc.double({ min: 0, max: 5, noNaN: true }),
        (s, more) => {
          // It never runs backwards, and never faster than time.
          const [a, b] = [paceAt(stretches, s).workedS, paceAt(stretches, s + more).workedS]
          expect(b - a).toBeGreaterThanOrEqual(-1e-9)
          expect(b - a).toBeLessThanOrEqual(more + 1e-9)
        },
      ),
    )
  })

  it('does not count what it ran overnight', () => {
    expect(isForgotten(9 * 3600, clock)).toBe(true)
    expect(isForgotten(30, clock)).toBe(false)
  })

  it('says what the glass is after too long, and whether a scoop saves it: it takes no water out', () => {
    const after = afterWorking(document, BOOK, 'front', made, (clock.window?.highS ?? 0) + 6)
    expect(after?.worst).toBeGreaterThan(1)
    expect(after?.withScoop?.isSaved).toBe(false)
    expect(after?.withScoop?.predictions.dilutionPct?.value).toBeGreaterThanOrEqual(
      after?.predictions.dilutionPct?.value ?? 0,
    )
    expect(afterWorking(document, BOOK, 'front', made, 4)?.worst).toBeLessThanOrEqual(1)
  })
})

describe('a wrong amount', () => {
  const document = held(
    testDrink({ stages: [{ method: 'crushedShake', durationS: 6, ice: [{ kind: 'crushed', massG: 100 }] }] }),
  )

  it('is right again with more of the others: what is in and what is still poured is so many times the spec', () => {
    fc.assert(
      fc.property(fc.constantFrom(1.5, 2, 2.5, 3), fc.subarray([0, 2]), (times, alsoIn) => {
        const wants = [60, 22.5, 15]
        const inTin = { ...Object.fromEntries(alsoIn.map((i) => [i, wants[i] as number])), 1: 22.5 * times }
        const rescue = rescueOf(document, BOOK, 'front', 1, inTin)
        if (!rescue?.moreGlasses) {
          expect(rescue?.noMore).toMatch(/./)
          return
        }
        const { glasses, toPour } = rescue.moreGlasses
        expect(glasses).toBe(Math.ceil(times))
        wants.forEach((ml, i) => {
          const there = (inTin as Record<number, number>)[i] ?? 0
          const more = toPour.find((p) => p.index === i)?.volumeMl ?? 0
          expect(there + more).toBeCloseTo(glasses * ml, 6)
        })
        expect(rescue.moreGlasses.worst).toBeLessThanOrEqual(1.05)
      }),
    )
  })

  it('left as it is makes another glass, and says how far off it is', () => {
    const rescue = rescueOf(document, BOOK, 'front', 1, { 1: 45 })
    expect(rescue?.asItIs.worst).toBeGreaterThan(1)
    expect(rescue?.asItIs.misses.some((m) => m.measure === 'sourGPer100Ml' && m.side === 'above')).toBe(true)
    expect(rescue?.asItIs.toPour.map((p) => p.index)).toEqual([0, 2])
    expect(rescue?.lostMl).toBe(45)
    // As much as is wanted is no other glass.
    expect(rescueOf(document, BOOK, 'front', 1, { 1: 22.5 })?.asItIs.worst).toBeLessThanOrEqual(1)
  })

  it('has no more glasses where the drink is made in its own', () => {
    const swizzled = testDrink({ stages: [{ method: 'swizzle', durationS: 12 }] })
    expect(rescueOf(swizzled, BOOK, 'front', 1, { 1: 45 })).toMatchObject({
      noMore: 'it is made in its glass: there is no room for more of it',
    })
  })
})

describe('what a guest wishes for one serve', () => {
  const nutty = held(
    testDrink({
      pours: [
        { ingredient: 'plain-rum', amount: { value: 2, unit: 'oz' } },
        { ingredient: 'lime-juice', amount: { value: 0.75, unit: 'oz' } },
        { ingredient: 'nut-syrup', amount: { value: 0.25, unit: 'oz' } },
        { ingredient: 'sugar-syrup', amount: { value: 0.5, unit: 'oz' } },
      ],
    }),
  )

  it('without nuts has none in it, and comes as near as it can', () => {
    const wish = wishAsked(nutty, BOOK, 'front', 'withoutNuts')
    if (!wish.ok || !wish.asked) throw new Error(wish.words)
    expect(wish.words).toBe('without nut syrup')
    const result = tune(wish.asked)
    const answer =
      result.outcome === 'found' ? result.answers[0] : result.outcome === 'none' ? result.closest : undefined
    const made = answer && resolveDrink(answer.document, BOOK, 'front')
    expect(made?.ok && allergensOf(made.drink)).toEqual([])
  })

  it('is what it is where it has none, and nothing where nobody knows for sure', () => {
    expect(wishAsked(testDrink(), BOOK, 'front', 'withoutNuts')).toMatchObject({ ok: true, asked: undefined })
    const unsure = { ...BOOK, mixes: { 'nut-syrup': { isAllergenUnsure: true } } } as unknown as typeof BOOK
    expect(wishAsked(nutty, unsure, 'front', 'withoutNuts')).toEqual({
      ok: false,
      words: 'nobody knows for sure what is in nut syrup: ask a manager first',
    })
  })

  it('says nothing of what brings its own figures: nobody has said what is in it', () => {
    const own = testDrink({
      pours: [
        { figures: { name: 'a gift' }, volumeMl: 20 },
        { ingredient: 'plain-rum', volumeMl: 45 },
      ],
    })
    expect(wishAsked(own, BOOK, 'front', 'withoutNuts')).toEqual({
      ok: false,
      words: 'nobody knows for sure what is in a gift: ask a manager first',
    })
  })

  it('takes the first candidate of a slot that is without, and never one that nobody is sure of', () => {
    const slot = {
      slug: 'sweet',
      name: 'Sweet',
      candidates: ['nut-syrup', 'odd-syrup', 'plain-syrup'].map((ingredient) => ({ ingredient })),
      refused: [],
      pick: 'nut-syrup',
    }
    const book = {
      ...BOOK,
      slots: [slot],
      ingredients: [...BOOK.ingredients, bottle('odd-syrup', 0, 60), bottle('plain-syrup', 0, 60)],
      mixes: {
        'odd-syrup': { isAllergenUnsure: true, stirs: [], isAcidAdjusted: false, stale: [], notes: [], problems: [] },
      },
    } as unknown as typeof BOOK
    const drink = testDrink({
      pours: [
        { slot: 'sweet', volumeMl: 15 },
        { ingredient: 'plain-rum', volumeMl: 60 },
      ],
    })
    const wish = wishAsked(drink, book, 'front', 'withoutNuts')
    expect(wish).toMatchObject({ ok: true, words: 'plain syrup for nut syrup' })
    expect(wish.ok && wish.asked?.document.pours[0]).toEqual({ ingredient: 'plain-syrup', volumeMl: 15, into: 'tin' })
  })

  it.each(['weaker', 'lessSweet', 'lessSour', 'sweeter'] as const)('%s moves its window that way', (which) => {
    const wish = wishAsked(nutty, BOOK, 'front', which)
    if (!wish.ok || !wish.asked) throw new Error(wish.words)
    const measure = which === 'weaker' ? 'strengthPct' : which === 'lessSour' ? 'sourGPer100Ml' : 'sweetGPer100Ml'
    const middle = (band: { low: number; high: number } | undefined) => ((band?.low ?? 0) + (band?.high ?? 0)) / 2
    const moved = middle(wish.asked.standard[measure]) - middle(nutty.standard[measure])
    expect(Math.sign(moved)).toBe(which === 'sweeter' ? 1 : -1)
  })
})

describe('orders that are made up', () => {
  const menu = ['a', 'b', 'c', 'd', 'e']

  it('are the same for the same seed, and others for another', () => {
    expect(ordersBy(7, 'rush', menu)).toEqual(ordersBy(7, 'rush', menu))
    expect(ordersBy(8, 'rush', menu)).not.toEqual(ordersBy(7, 'rush', menu))
    expect(ordersBy(7, 'rush', [])).toEqual([])
  })

  it('come in order within the half hour, in a rush about three times as often, and never more than a hand makes', () => {
    const counts = { slow: 0, rush: 0 }
    for (let seed = 1; seed <= 60; seed++)
      for (const pace of ['slow', 'rush'] as const) {
        const orders = ordersBy(seed, pace, menu)
        counts[pace] += orders.length
        expect(orders.map((o) => o.atS)).toEqual(orders.map((o) => o.atS).sort((a, b) => a - b))
        for (const o of orders) {
          expect(o.atS).toBeLessThanOrEqual(1800)
          const glasses = o.drinks.reduce((sum, d) => sum + d.count, 0)
          expect(glasses).toBeGreaterThanOrEqual(1)
          expect(glasses).toBeLessThanOrEqual(4)
          expect(o.drinks.every((d) => menu.includes(d.drink))).toBe(true)
        }
      }
    // 1800 s apart by 45 and by 150 on average: 40 and 12 a half hour, over sixty of them within a tenth.
    expect(counts.rush / 60).toBeGreaterThan(36)
    expect(counts.rush / 60).toBeLessThan(45)
    expect(counts.slow / 60).toBeGreaterThan(11)
    expect(counts.slow / 60).toBeLessThan(14.5)
  })
})
