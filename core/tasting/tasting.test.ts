import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  drawTasting,
  oftenText,
  permutationTest,
  proposalOf,
  provesText,
  resultsOf,
  type SaidNote,
  saidText,
  signTest,
} from './index.ts'
import { scoresSchema, tastingDocumentSchema } from './tastingSchema.ts'

describe('a draw', () => {
  it('is the same for the same seed, and another for another', () => {
    const asked = { subjects: 3, tasters: 6, seed: 7 }
    expect(drawTasting(asked)).toEqual(drawTasting(asked))
    expect(drawTasting({ ...asked, seed: 8 })).not.toEqual(drawTasting(asked))
  })

  it('gives every taster every glass once, under three digits of its own', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 5 }),
        fc.integer({ min: 1, max: 16 }),
        fc.nat(),
        (subjects, tasters, seed) => {
          const { codes, orders } = drawTasting({ subjects, tasters, seed })
          expect(new Set(codes).size).toBe(subjects)
          for (const c of codes) expect(c).toMatch(/^[1-9]\d\d$/)
          expect(orders).toHaveLength(tasters)
          for (const o of orders) expect([...o].sort()).toEqual(Array.from({ length: subjects }, (_, i) => i))
        },
      ),
    )
  })

  it('puts each as often in each place, and after each other one, when the tasters go round', () => {
    for (const subjects of [2, 3, 4, 5]) {
      const round = subjects % 2 === 0 ? subjects : 2 * subjects
      for (let seed = 0; seed < 20; seed++) {
        const { orders } = drawTasting({ subjects, tasters: round, seed })
        const places = Array.from({ length: subjects }, (_, s) =>
          Array.from({ length: subjects }, (__, place) => orders.filter((o) => o[place] === s).length),
        )
        expect(new Set(places.flat())).toEqual(new Set([round / subjects]))
        const pairs = new Map<string, number>()
        for (const o of orders)
          for (let i = 1; i < subjects; i++)
            pairs.set(`${o[i - 1]} ${o[i]}`, (pairs.get(`${o[i - 1]} ${o[i]}`) ?? 0) + 1)
        expect(pairs.size).toBe(subjects * (subjects - 1))
        expect(new Set(pairs.values()).size).toBe(1)
      }
    }
  })
})

describe('the sign test', () => {
  // Two-sided tails of the binomial distribution with p = ½, from Tables of the binomial probability distribution,
  // National Bureau of Standards, Applied Mathematics Series 6 (1950).
  it.each([
    [5, 0, 0.0625],
    [6, 0, 0.03125],
    [8, 1, 0.0703],
    [10, 1, 0.0215],
    [12, 2, 0.0386],
    [15, 3, 0.0352],
    [16, 4, 0.0768],
  ])('of %d tasters with %d against: %d', (n, fewer, p) => {
    const differences = Array.from({ length: n }, (_, i) => (i < fewer ? -1 : 2))
    expect(signTest(differences).p).toBeCloseTo(p, 4)
    expect(signTest(differences.map((d) => -d)).p).toBeCloseTo(p, 4)
  })

  it('leaves the undecided out, and says nothing where all are', () => {
    expect(signTest([0, 1, 0, -1])).toEqual({ first: 1, second: 1, ties: 2, p: 1 })
    expect(signTest([0, 0])).toEqual({ first: 0, second: 0, ties: 2, p: 1 })
  })
})

describe('the permutation test', () => {
  it('is Fisher’s of Darwin’s fifteen pairs of maize: 1,726 of 32,768 (The design of experiments, 1935, section 21)', () => {
    const eighths = [49, -67, 8, 16, 6, 23, 28, 41, 14, 29, 56, 24, 75, 60, -48]
    expect(permutationTest(eighths)).toBe(1726 / 32768)
  })

  // With ranks for scores it is Wilcoxon's signed-rank test: exact two-sided values from F. Wilcoxon, S. K. Katti and
  // R. A. Wilcox, Critical values and probability levels (1963).
  it.each([
    [5, [], 0.0625],
    [6, [], 0.03125],
    [7, [2], 0.0469],
    [8, [3], 0.0391],
    [9, [5], 0.0391],
    [10, [8], 0.0488],
  ])('with the ranks to %d and %j against is %d', (n, against, p) => {
    const ranks = Array.from({ length: n }, (_, i) => i + 1)
    expect(permutationTest(ranks.map((r) => ((against as number[]).includes(r) ? -r : r)))).toBeCloseTo(p, 4)
  })

  it('is between what all of one mind would be and 1, and does not care for the side', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -4, max: 4 }), { minLength: 1, maxLength: 10 }), (d) => {
        const p = permutationTest(d)
        expect(p).toBeGreaterThanOrEqual(2 ** -d.length)
        expect(p).toBeLessThanOrEqual(1)
        expect(permutationTest(d.map((x) => -x))).toBe(p)
      }),
    )
  })
})

it('promises no more than it knows', () => {
  expect(provesText(0.0625, 5)).toBe(
    'chance alone does as much 1 time in 16; with 5 tasters this proves little: even all of one mind come about by chance 1 time in 16',
  )
  expect(provesText(0.0078, 8)).toBe('chance alone does as much 1 time in 128: it is hardly chance')
  expect(provesText(0.29, 8)).toBe('chance alone does as much 1 time in 3: it proves nothing')
  expect(oftenText(1)).toBe('nearly every time')
})

describe('the results', () => {
  const sheet = (taster: string, code: string, like: number, balance?: number, words = '') => ({
    taster,
    code,
    words,
    scores: { like, ...(balance === undefined ? {} : { balance }) },
  })

  it('count the newest sheet of each taster for each glass, and pairs only of those who scored both', () => {
    const found = resultsOf(
      ['111', '222'],
      [
        sheet('Ann', '111', 1),
        sheet('Ann', '111', 2, 1, 'sharp'),
        sheet('Ann', '222', 5, 0),
        sheet('Ben', '111', 3, 2),
        sheet('Cy', '222', 4),
      ],
    )
    expect(found.tasters).toEqual(['Ann', 'Ben', 'Cy'])
    expect(found.subjects[0]?.means).toEqual({ like: { mean: 2.5, count: 2 }, balance: { mean: 1.5, count: 2 } })
    expect(found.subjects[0]?.words).toEqual([{ taster: 'Ann', words: 'sharp' }])
    const like = found.pairs.find((p) => p.line === 'like')
    expect(like).toMatchObject({ first: 0, second: 1, tasters: 1, meanDifference: 3, sign: { second: 1, first: 0 } })
  })
})

describe('what notes ask for', () => {
  const note = (id: number, by: string, says: string): SaidNote => ({
    id,
    by,
    document: { kind: 'note', says: says as 'good', words: '', well: 'front', lots: [], stations: [] },
  })
  const now = { sourGPer100Ml: 0.92, sweetGPer100Ml: 8, strengthPct: 16 }

  it('is one step, where most of at least three people say the same', () => {
    const notes = ['Ann', 'Ben', 'Cy', 'Di'].map((by, i) => note(i + 1, by, 'tooSour'))
    const found = proposalOf([...notes, note(9, 'Eve', 'good')], now)
    expect(found).toMatchObject({ measure: 'sourGPer100Ml', from: 0.92, target: 'lessSour' })
    expect(found?.to).toBeCloseTo(0.86, 9)
    expect(found && saidText(found)).toBe('four of five say too sharp')
  })

  it('is nothing of two people, of one who says it three times, or of three minds', () => {
    expect(proposalOf([note(1, 'Ann', 'tooSour'), note(2, 'Ben', 'tooSour')], now)).toBeUndefined()
    expect(
      proposalOf(
        [1, 2, 3].map((i) => note(i, 'Ann', 'tooSour')),
        now,
      ),
    ).toBeUndefined()
    expect(
      proposalOf([note(1, 'Ann', 'tooSour'), note(2, 'Ben', 'tooSweet'), note(3, 'Cy', 'good')], now),
    ).toBeUndefined()
    expect(
      proposalOf(
        ['Ann', 'Ben', 'Cy'].map((by, i) => note(i, by, 'good')),
        now,
      ),
    ).toBeUndefined()
  })

  it('counts what somebody said last, and nothing from before an answer', () => {
    const three = [note(1, 'Ann', 'tooSour'), note(2, 'Ben', 'tooSour'), note(3, 'Cy', 'tooSour')]
    expect(proposalOf([...three, note(4, 'Cy', 'good')], now)).toBeUndefined()
    const answer: SaidNote = {
      id: 5,
      by: 'Ann',
      document: { kind: 'answer', isTaken: false, words: 'limes were green', proposal: '' },
    }
    expect(proposalOf([...three, answer], now)).toBeUndefined()
    expect(proposalOf([...three, answer, ...three.map((n) => ({ ...n, id: n.id + 10 }))], now)).toBeDefined()
  })
})

describe('bad input in plain words', () => {
  const words = (made: { success: boolean; error?: { issues: { message: string }[] } }) =>
    made.error?.issues.map((i) => i.message)
  const tasting = {
    question: 'which one?',
    subjects: [
      { drink: 'a', version: 1 },
      { drink: 'a', version: 2 },
    ],
    tasters: ['Ann', 'Ben'],
    maker: 'Cy',
    makerId: 1,
    orders: [],
    keyHash: '',
  }
  it('one glass, one taster, no question', () => {
    expect(words(tastingDocumentSchema.safeParse({ ...tasting, subjects: tasting.subjects.slice(1) }))).toEqual([
      'a tasting needs two versions at least',
    ])
    expect(words(tastingDocumentSchema.safeParse({ ...tasting, tasters: ['Ann'] }))).toEqual([
      'a tasting needs two tasters at least',
    ])
    expect(words(tastingDocumentSchema.safeParse({ ...tasting, question: ' ' }))).toEqual([
      'say what the tasting is to decide',
    ])
  })
  it('a score beyond its line', () => expect(scoresSchema.safeParse({ balance: 3 }).success).toBe(false))
})
