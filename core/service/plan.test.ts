import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { testDrink, testHouse } from '../testing/house.ts'
import type { MadeLoad } from './load.ts'
import { type AskedFor, bestOrder, type Candidate, fewestParts, meltedBy, planByHand, planRound } from './plan.ts'

const BOOK = testHouse()

function permutations(n: number): number[][] {
  if (n === 0) return [[]]
  return permutations(n - 1).flatMap((p) =>
    Array.from({ length: n }, (_, at) => [...p.slice(0, at), n - 1, ...p.slice(at)]),
  )
}

/** Melts so many tenths of a gram in a minute, and takes so long. */
const candidate = (of: number, glasses: number, perMinG: number, takesS: number): Candidate => ({
  of,
  takesS,
  made: {
    glasses,
    glass: {
      samples: [0, 60, 900].map((timeS) => ({
        timeS,
        addedWaterG: (perMinG * timeS) / 60,
        temperatureC: 0,
        freezingPointC: 0,
        iceG: 50,
      })),
    },
  } as unknown as MadeLoad,
})

/** What an order costs, counted outright: the melt of all that waits, then the wait of the first. */
function costOf(loads: readonly Candidate[], order: readonly number[]) {
  let cost = 0
  order.forEach((i, at) => {
    const waitS = order.slice(at + 1).reduce((sum, j) => sum + (loads[j]?.takesS ?? 0), 0)
    const load = loads[i] as Candidate
    cost += Math.round(load.made.glasses * meltedBy(load.made.glass, waitS) * 10)
  })
  return { cost, waitS: order.slice(1).reduce((sum, j) => sum + (loads[j]?.takesS ?? 0), 0) }
}

describe('the order of a round', () => {
  it('is the best of all orders: least melted, then the first glass waits shortest', () => {
    const anyLoad = fc.tuple(
      fc.integer({ min: 1, max: 3 }),
      fc.constantFrom(0, 0, 0.5, 2, 6),
      fc.integer({ min: 10, max: 90 }),
    )
    fc.assert(
      fc.property(fc.array(anyLoad, { minLength: 1, maxLength: 6 }), (all) => {
        const loads = all.map(([glasses, perMinG, takesS], of) => candidate(of, glasses, perMinG, takesS))
        const found = bestOrder(loads)
        expect([...found.order].sort()).toEqual(loads.map((_, i) => i).sort())
        const tried = permutations(loads.length).map((order) => costOf(loads, order))
        const least = Math.min(...tried.map((t) => t.cost))
        const shortest = Math.min(...tried.filter((t) => t.cost === least).map((t) => t.waitS))
        expect(costOf(loads, found.order)).toEqual({ cost: least, waitS: shortest })
        expect({ cost: found.cost, waitS: found.waitS }).toEqual({ cost: least, waitS: shortest })
      }),
      { numRuns: 60 },
    )
  })

  it('makes last what melts most', () => {
    const loads = [candidate(0, 1, 8, 30), candidate(1, 1, 0.5, 30)]
    expect(bestOrder(loads).order).toEqual([1, 0])
  })
})

describe('how many go in one', () => {
  it('is every way with the fewest loads, and no other', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 8 }), fc.subarray([2, 3, 4]), (glasses, more) => {
        const sizes = [...more, 1].sort((a, b) => b - a)
        const all: number[][] = []
        const go = (left: number, most: number, parts: number[]) => {
          if (left === 0) all.push(parts)
          for (const size of sizes) if (size <= Math.min(left, most)) go(left - size, size, [...parts, size])
        }
        go(glasses, glasses, [])
        const least = Math.min(...all.map((p) => p.length))
        const wanted = all.filter((p) => p.length === least)
        const sorted = (list: number[][]) => list.map((p) => p.join()).sort()
        expect(sorted(fewestParts(glasses, sizes))).toEqual(sorted(wanted))
      }),
    )
  })
})

const asked = (name: string, method: 'flashBlend' | 'crushedShake' | 'swizzle', glasses: number): AskedFor => ({
  name,
  glasses,
  document: testDrink({
    name,
    stages: [{ method, durationS: method === 'swizzle' ? 12 : 5 }],
    serveIce: [{ kind: 'crushed', massG: 30 }],
  }),
})

describe('a round', () => {
  it('is the best of every split into the fewest loads and every order of them', () => {
    const wanted = [
      asked('Mixed', 'flashBlend', 3),
      asked('Shaken', 'crushedShake', 1),
      asked('Swizzled', 'swizzle', 2),
    ]
    const planned = planRound(wanted, BOOK, 'front')
    if (!planned.ok) throw new Error(planned.words)
    const { plan } = planned
    for (const [of, { glasses }] of wanted.entries())
      expect(plan.loads.filter((l) => l.of === of).reduce((sum, l) => sum + l.made.glasses, 0)).toBe(glasses)
    const loads = plan.loads.map(({ of, made, takesS }): Candidate => ({ of, made, takesS }))
    const own = costOf(
      loads,
      loads.map((_, i) => i),
    )
    for (const order of permutations(loads.length)) {
      const other = costOf(loads, order)
      expect(other.cost > own.cost || (other.cost === own.cost && other.waitS >= own.waitS - 1e-9)).toBe(true)
    }
    // Each waits for what comes after it, and nothing else.
    for (const [i, l] of plan.loads.entries())
      expect(l.waitS).toBeCloseTo(plan.loads.slice(i + 1).reduce((sum, x) => sum + x.takesS, 0))
    expect(plan.loads.at(-1)?.waitS).toBe(0)
    expect(plan.notShared.map((n) => n.of)).toContain(2)
  })

  it('says what a glass is after it waited: more water than at once', () => {
    const planned = planByHand(
      [asked('A', 'crushedShake', 1), asked('B', 'swizzle', 1)],
      [
        { of: 0, glasses: 1 },
        { of: 1, glasses: 1 },
      ],
      BOOK,
      'yard',
    )
    if (!planned.ok) throw new Error(planned.words)
    const [first] = planned.plan.loads
    expect(first?.waitS).toBeGreaterThan(10)
    expect(first?.afterWait.predictions.dilutionPct?.value).toBeGreaterThan(
      first?.made.predictions.dilutionPct?.value ?? 0,
    )
    expect(planned.plan.meltedG).toBeGreaterThan(0)
  })

  it('takes an order by hand as it is, and says which load cannot be made so', () => {
    const wanted = [asked('A', 'swizzle', 2), asked('B', 'flashBlend', 1)]
    const apart = planByHand(
      wanted,
      [
        { of: 1, glasses: 1 },
        { of: 0, glasses: 1 },
        { of: 0, glasses: 1 },
      ],
      BOOK,
      'front',
    )
    expect(apart.ok && apart.plan.loads.map((l) => l.of)).toEqual([1, 0, 0])
    expect(planByHand(wanted, [{ of: 0, glasses: 2 }], BOOK, 'front')).toMatchObject({ ok: false, of: 0 })
  })

  it('names what cannot be made at all, and refuses more than a hand keeps in mind', () => {
    const lost = { ...asked('Lost', 'flashBlend', 1) }
    const without = {
      ...lost,
      document: { ...lost.document, pours: [{ ingredient: 'nowhere', volumeMl: 30, into: 'tin' as const }] },
    }
    expect(planRound([asked('A', 'swizzle', 1), without], BOOK, 'front')).toMatchObject({ ok: false, of: 1 })
    expect(() => planRound([asked('A', 'swizzle', 9)], BOOK, 'front')).toThrow('at most 8')
  })

  it('is the same for the same question', () => {
    const wanted = [asked('A', 'flashBlend', 2), asked('B', 'crushedShake', 2)]
    expect(planRound(wanted, BOOK, 'yard')).toEqual(planRound(wanted, BOOK, 'yard'))
  })
})
