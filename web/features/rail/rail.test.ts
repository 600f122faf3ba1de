import type { Step } from '@conch/core/service'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { testDrink } from '../../../core/testing/house.ts'
import { clockAt, setClockSpeed } from '../../devices/clock.ts'
import { simulated, simulatedOrders, startOrders, stopOrders } from '../../devices/orders.ts'
import { type Asked, addTo, fromRound, glassesOf, takeFrom } from './asked.ts'
import { apart, canJoin, earlier, grouped, joined, type Loads, lettered } from './loads.ts'
import { begunIn, changeRound, inTinOf, newRound, railRound, roundWords, setRound, withOwnGoes } from './railRound.ts'
import type { RailDrink } from './useRailMenu.ts'

const drink = (slug: string, more: Partial<RailDrink> = {}): RailDrink => ({
  drink: slug,
  version: 1,
  name: slug,
  chapter: 'All',
  document: testDrink({ name: slug }),
  state: 'made',
  words: undefined,
  ...more,
})
const load = (slug: string, glasses = 1) => ({ drink: slug, version: 1, document: testDrink({ name: slug }), glasses })

beforeEach(() => {
  localStorage.clear()
  setRound(undefined)
})
afterEach(() => {
  setClockSpeed(1)
  stopOrders()
})

describe('the round on a tablet', () => {
  it('is on the disk with every tick, and comes back as it was when the page is opened anew', async () => {
    setRound(newRound('front', [load('a'), load('b', 2)], { words: 'Table 4' }))
    changeRound((round) => ({ ...round, ticks: [...round.ticks, 'pour:a:0'] }))
    const before = railRound.now()
    vi.resetModules()
    const again = await import('./railRound.ts')
    expect(again.railRound.now()).toEqual(before)
    expect(again.railRound.now()?.ticks).toEqual(['pour:a:0'])
  })

  it('that another version left in another form is none, and nothing breaks', async () => {
    localStorage.setItem('conch:rail', '{"loads":[{"id":"a"}]}')
    vi.resetModules()
    expect((await import('./railRound.ts')).railRound.now()).toBeUndefined()
  })

  it('that was begun in goes goes on like that at another well; what is not begun takes the goes of that well', () => {
    const steps = [
      { load: 'a', go: { number: 1, of: 2 } },
      { load: 'a', go: { number: 2, of: 2 } },
      { load: 'b' },
      { load: 'c' },
    ] as unknown as Step[]
    const round = begunIn(newRound('front', [load('bowl'), load('small'), load('both', 2)]), steps)
    expect(round.loads.map((l) => l.goes)).toEqual([2, 1, undefined])
    const elsewhere = (...ticks: string[]) => withOwnGoes({ ...round, ticks }).loads.map((l) => l.goes)
    expect(elsewhere('before:all', 'glass:a')).toEqual([undefined, undefined, undefined])
    expect(elsewhere('pour:a2:0')).toEqual([2, undefined, undefined])
    expect(elsewhere('ice:b')).toEqual([undefined, 1, undefined])
  })

  it('is said in a few words: the same drink once, with how many', () => {
    expect(roundWords(newRound('front', [load('Tide', 2), load('Tide'), load('Bell')]))).toBe('3 × Tide, Bell')
  })

  it('has letters for its loads, a key of its own, and knows what is in which tin', () => {
    const [a, b] = [newRound('front', [load('x'), load('y')]), newRound('front', [load('x')])]
    expect(a.loads.map((l) => l.id)).toEqual(['a', 'b'])
    expect(a.key).toMatch(/^[0-9a-f]{32}$/)
    expect(a.key).not.toBe(b.key)
    expect(inTinOf({ ...a, poured: { 'pour:a:1': 45, 'pour:b:0': 30, 'float:a:2': 5 } }, 'a')).toEqual({ 1: 45 })
  })
})

describe('what is asked for', () => {
  it('counts the same drink together, and never what is not known here', () => {
    let asked = addTo(addTo(addTo([], drink('a')), drink('b')), drink('a'))
    expect(asked.map((x) => [x.load.drink, x.glasses])).toEqual([
      ['a', 2],
      ['b', 1],
    ])
    expect(addTo(asked, drink('c', { document: undefined }))).toEqual(asked)
    asked = takeFrom(takeFrom(asked, 0), 0)
    expect(asked.map((x) => x.load.drink)).toEqual(['b'])
    expect(glassesOf(asked)).toBe(1)
  })

  it('says why something is made otherwise tonight', () => {
    const [only] = addTo([], drink('a', { state: 'instead', words: 'tonight another rum' })) as [Asked]
    expect(only.load.otherwise).toBe('tonight another rum')
  })

  it('made again is made as it is now: what is dark or gone is left out, a guest’s wish stays', () => {
    const wished = { ...load('a'), otherwise: 'less sweet' }
    const round = newRound('front', [load('a', 2), load('dark'), load('gone'), wished])
    const again = fromRound({ round }, [drink('a', { version: 3 }), drink('dark', { state: 'dark' })])
    expect(again.map((x) => [x.load.drink, x.load.version, x.glasses, x.load.otherwise])).toEqual([
      ['a', 3, 2, undefined],
      ['a', 1, 1, 'less sweet'],
    ])
  })
})

describe('loads put together by hand', () => {
  const of = (...all: [string, string, number][]): Loads =>
    all.map(([id, slug, glasses]) => ({ id, ...load(slug, glasses) }))
  const words = (loads: Loads) => loads.map((l) => `${l.id}${l.glasses}${l.drink}`).join(' ')

  it('keep their letters, by which their ticks go; what is split off gets a free one', () => {
    const loads = of(['a', 'x', 3], ['b', 'y', 1])
    expect(words(lettered(earlier(loads, 1)))).toBe('b1y a3x')
    expect(words(lettered(apart(loads, 'a')))).toBe('a2x c1x b1y')
    expect(words(lettered(apart(lettered(apart(loads, 'a')), 'a')))).toBe('a1x d1x c1x b1y')
    expect(apart(loads, 'b')).toEqual(loads)
  })

  it('go together where they are the same, made the same way, and no more than six', () => {
    const loads = of(['a', 'x', 2], ['b', 'x', 1], ['c', 'y', 1])
    expect(canJoin(loads, 1)).toBe(true)
    expect(words(joined(loads, 1))).toBe('a3x c1y')
    expect(canJoin(loads, 2)).toBe(false)
    expect(joined(loads, 2)).toEqual(loads)
    expect(canJoin(of(['a', 'x', 5], ['b', 'x', 2]), 1)).toBe(false)
    const wished = [...of(['a', 'x', 1]), { ...load('x'), id: 'b', document: { ...testDrink(), name: 'other' } }]
    expect(canJoin(wished, 1)).toBe(false)
    expect(grouped(of(['a', 'x', 1], ['b', 'y', 1], ['c', 'x', 1])).map((g) => g.map((l) => l.id).join(''))).toEqual([
      'ac',
      'b',
    ])
  })
})

describe('the made-up feed of orders', () => {
  it('opens orders as their time comes, once taken they are gone, and come back when they are not made', () => {
    startOrders(7, 'rush', 1_000_000)
    const state = simulated.now()
    if (!state) throw new Error('bug: it was started')
    const feed = () => simulatedOrders(simulated.now() ?? state, ['a', 'b'])
    expect(feed().open(1_000_000)).toEqual([])
    const open = feed().open(1_000_000 + 600_000)
    expect(open.length).toBeGreaterThan(3)
    const [first] = open
    feed().take([first?.id ?? ''])
    expect(
      feed()
        .open(1_000_000 + 600_000)
        .map((o) => o.id),
    ).not.toContain(first?.id)
    feed().giveBack([first?.id ?? ''])
    expect(feed().open(1_000_000 + 600_000)).toEqual(open)
    expect(feed().leftS(1_000_000 + 4_000_000)).toBe(0)
  })
})

describe('the clock of the bar', () => {
  it('is the time of day, runs faster from where it is, and is the time of day again', () => {
    expect(clockAt(5_000)).toBe(5_000)
    setClockSpeed(5, 10_000)
    expect(clockAt(10_000)).toBe(10_000)
    expect(clockAt(12_000)).toBe(20_000)
    setClockSpeed(2, 12_000)
    expect(clockAt(13_000)).toBe(22_000)
    setClockSpeed(1, 13_000)
    expect(clockAt(14_000)).toBe(14_000)
  })
})
