import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { computeDrink, resolveDrink, standardFrom } from '../drink/index.ts'
import { runTolerance } from '../means/index.ts'
import { seededRandom } from '../solve/index.ts'
import { testDrink, testHouse, withTinsOf } from '../testing/house.ts'
import {
  changedSince,
  type Given,
  gradeOf,
  handOf,
  isBiased,
  isRight,
  type LearnAnswer,
  progressOf,
  type Question,
  questionsOf,
  rememberedBy,
  toAsk,
} from './index.ts'
import { answerSchema, itemIdSchema } from './practiceSchema.ts'

const BOOK = testHouse()
const drink = (slug: string, changes = {}) => ({
  drink: slug,
  name: slug,
  document: testDrink({ name: slug, garnish: [{ text: 'lime wheel' }], ...changes }),
})
const NUTTY = drink('nutty', {
  pours: [
    { ingredient: 'plain-rum', amount: { value: 2, unit: 'oz' } },
    { ingredient: 'lime-juice', amount: { value: 1, unit: 'oz' } },
    { ingredient: 'nut-syrup', amount: { value: 0.5, unit: 'oz' } },
  ],
})
const EDITION = [drink('plain'), NUTTY, drink('built', { stages: [{ method: 'build' }] })]
const ALL = questionsOf(EDITION, BOOK, 'front')

/** What whoever knows it answers. */
function known(q: Question): Given {
  switch (q.kind) {
    case 'amount':
      return { kind: 'amount', volumeMl: q.volumeMl }
    case 'order':
      return { kind: 'order', bottles: q.bottles }
    case 'chill':
      return { kind: 'chill', durationS: q.durationS }
    case 'ice':
      return { kind: 'ice', massG: q.massG }
    case 'glass':
      return { kind: 'glass', glass: q.glass }
    case 'garnish':
      return { kind: 'garnish', texts: [...q.texts].reverse() }
    case 'allergens':
      return { kind: 'allergens', allergens: [...q.allergens].reverse() }
    case 'dark':
      return { kind: 'dark', drinks: [...q.drinks].reverse() }
    case 'picture':
      return { kind: 'picture', drink: q.drink }
  }
}
/** What whoever only guesses answers: near, and wrong. */
function guessed(q: Question): Given {
  switch (q.kind) {
    case 'amount':
      return { kind: 'amount', volumeMl: q.volumeMl + 7.5 }
    case 'order':
      return { kind: 'order', bottles: [...q.bottles].reverse() }
    case 'chill':
      return { kind: 'chill', durationS: q.durationS * 1.5 + 1 }
    case 'ice':
      return { kind: 'ice', massG: q.massG * 1.5 }
    case 'glass':
      return { kind: 'glass', glass: `not ${q.glass}` }
    case 'garnish':
      return { kind: 'garnish', texts: [...q.texts, 'one more'] }
    case 'allergens':
      return { kind: 'allergens', allergens: q.allergens.length > 0 ? [] : ['dairy'] }
    case 'dark':
      return { kind: 'dark', drinks: q.drinks.slice(1) }
    case 'picture':
      return { kind: 'picture', drink: 'another' }
  }
}

describe('what there is to know', () => {
  it('is asked of every drink, each thing once, under a name that can be kept', () => {
    expect(new Set(ALL.map((q) => q.id)).size).toBe(ALL.length)
    for (const q of ALL) expect([q.id, itemIdSchema.safeParse(q.id).success]).toEqual([q.id, true])
    const of = (slug: string) => ALL.filter((q) => q.drink === slug).map((q) => q.kind)
    expect(of('plain')).toEqual([
      'amount',
      'amount',
      'amount',
      'order',
      'chill',
      'ice',
      'glass',
      'picture',
      'garnish',
      'allergens',
    ])
    // What is built has no seconds to learn.
    expect(of('built')).not.toContain('chill')
    expect(ALL.find((q) => q.kind === 'dark' && q.bottle === 'lime juice')).toMatchObject({
      drinks: ['built', 'nutty', 'plain'],
    })
    // One drink of one bottle is no question.
    expect(ALL.some((q) => q.kind === 'dark' && q.bottle === 'nut syrup')).toBe(false)
  })

  it('is right for whoever knows it and wrong for whoever guesses, of every kind', () => {
    expect(new Set(ALL.map((q) => q.kind)).size).toBe(9)
    for (const q of ALL) {
      expect([q.id, isRight(q, known(q))]).toEqual([q.id, true])
      expect([q.id, isRight(q, guessed(q))]).toEqual([q.id, false])
    }
  })

  it('is the whole of a bowl that is made in goes, without seconds that nobody counts', () => {
    const of = (holdsMl: number) => questionsOf([drink('plain')], withTinsOf(holdsMl, BOOK), 'front')
    const whole = of(2000)
    expect(whole.map((q) => q.kind)).toContain('chill')
    expect(of(120)).toEqual(whole.filter((q) => q.kind !== 'chill'))
  })

  it('teaches no allergen that nobody is sure of', () => {
    const unsure = {
      ...BOOK,
      mixes: {
        'nut-syrup': { isAllergenUnsure: true, stirs: [], isAcidAdjusted: false, stale: [], notes: [], problems: [] },
      },
    } as unknown as typeof BOOK
    const kinds = questionsOf([NUTTY], unsure, 'front').map((q) => q.kind)
    expect(kinds).not.toContain('allergens')
    expect(questionsOf([NUTTY], BOOK, 'front').find((q) => q.kind === 'allergens')).toMatchObject({
      allergens: ['tree nuts'],
    })
  })

  it('does not learn tonight’s shortage as the spec', () => {
    const out = { ...BOOK, outAt: { front: { ingredients: ['lime-juice'], glasses: [], fruits: ['Lime'] } } }
    expect(questionsOf(EDITION, out, 'front')).toEqual(ALL)
  })

  it('changes with its answer alone: another amount is another thing to learn', () => {
    const sharper = {
      ...NUTTY,
      document: {
        ...NUTTY.document,
        pours: NUTTY.document.pours.map((p) =>
          p.ingredient === 'lime-juice' ? { ...p, amount: { value: 1.25, unit: 'oz' as const } } : p,
        ),
      },
    }
    const now = questionsOf([EDITION[0] as typeof NUTTY, sharper, EDITION[2] as typeof NUTTY], BOOK, 'front')
    expect([...changedSince(now, ALL)]).toEqual(['amount:nutty:lime-juice=37.5'])
    expect(changedSince(ALL, ALL).size).toBe(0)
  })
})

const DAY = 86_400_000
const START = Date.parse('2026-09-01T20:00:00Z')
const at = (day: number) => new Date(START + day * DAY).toISOString()
const answer = (item: string, grade: LearnAnswer['grade'], day: number): LearnAnswer => ({
  item,
  grade,
  seconds: 4,
  at: at(day),
})

describe('when it is asked again', () => {
  it('is later each time it is known, and the next day when it is not', () => {
    const due = (answers: LearnAnswer[]) => ((rememberedBy(answers).get('a:b=c')?.dueAt ?? 0) - START) / DAY
    const once = due([answer('a:b=c', 'good', 0)])
    expect(once).toBeGreaterThanOrEqual(1)
    const twice = due([answer('a:b=c', 'good', 0), answer('a:b=c', 'good', Math.round(once))])
    expect(twice - once).toBeGreaterThan(once)
    expect(due([answer('a:b=c', 'good', 0), answer('a:b=c', 'again', 3)])).toBeLessThanOrEqual(5)
    expect(due([answer('a:b=c', 'hard', 0)])).toBeLessThanOrEqual(once)
  })

  it('is the same for the same answers, in whatever order they came in', () => {
    const any = fc.array(
      fc.record({
        item: fc.constantFrom('a:b=1', 'a:b=2', 'a:c=1'),
        grade: fc.constantFrom('again' as const, 'hard' as const, 'good' as const),
        day: fc.integer({ min: 0, max: 60 }),
      }),
      { maxLength: 15 },
    )
    fc.assert(
      fc.property(any, (all) => {
        // One answer of one thing at one moment: nobody gives two.
        const answers = [
          ...new Map(all.map((a, i) => [`${a.item} ${a.day}`, answer(a.item, a.grade, a.day + i / 1e6)])).values(),
        ]
        expect(rememberedBy([...answers].reverse())).toEqual(rememberedBy(answers))
        // A sitting that came twice was sat once.
        expect(rememberedBy([...answers, ...answers])).toEqual(rememberedBy(answers))
        for (const { times, wrong } of rememberedBy(answers).values()) expect(wrong).toBeLessThanOrEqual(times)
      }),
    )
  })

  it('asks what changed first, then what is due, the longest first, then what is new; what is not due not at all', () => {
    const [a, b, c, d] = ALL as [Question, Question, Question, Question]
    const remembered = rememberedBy([answer(a.id, 'good', 0), answer(b.id, 'again', 0), answer(c.id, 'good', 9.9)])
    const asked = toAsk([a, b, c, d], remembered, new Set([d.id]), START + 10 * DAY)
    expect(asked[0]).toBe(d)
    expect(asked.slice(1).map((q) => q.id)).toEqual(
      [a, b].sort((x, y) => (remembered.get(x.id)?.dueAt ?? 0) - (remembered.get(y.id)?.dueAt ?? 0)).map((q) => q.id),
    )
    expect(asked).not.toContain(c)
    // New ones of several kinds take turns.
    const kinds = toAsk(ALL, new Map(), new Set(), START)
      .slice(0, 9)
      .map((q) => q.kind)
    expect(new Set(kinds).size).toBe(9)
  })

  it('is known when it is kept for a week, and adds up', () => {
    const ids = ALL.slice(0, 3).map((q) => q.id)
    const answers = ids.flatMap((id) => [0, 3, 12, 40].map((day) => answer(id, 'good', day)))
    const progress = progressOf(
      ALL,
      rememberedBy([...answers, answer(ALL[5]?.id ?? '', 'again', 40)]),
      START + 41 * DAY,
    )
    expect(progress).toMatchObject({ total: ALL.length, known: 3, shaky: 1, never: ALL.length - 4 })
    expect(progress.byKind.reduce((sum, k) => sum + k.total, 0)).toBe(ALL.length)
    expect(progress.byKind.reduce((sum, k) => sum + k.known, 0)).toBe(3)
  })

  it('counts a slow right answer as hardly known', () => {
    expect([gradeOf(true, 3), gradeOf(true, 40), gradeOf(false, 2)]).toEqual(['good', 'hard', 'again'])
    expect(answerSchema.safeParse(answer('amount:x:y=1', 'good', 1)).success).toBe(true)
  })
})

describe('a hand', () => {
  const poured = (bias: number, scatter: number, n: number, seed: number) => {
    const random = seededRandom(seed)
    return Array.from({ length: n }, (_, i) => {
      const wantedMl = [15, 22.5, 45][i % 3] as number
      return { wantedMl, gotMl: wantedMl * (1 + bias + scatter * random.normal()) }
    })
  }

  it('is found with its bias and scatter; its intervals hold nine times in ten', () => {
    let hasBias = 0
    let hasScatter = 0
    const tries = 400
    for (let seed = 1; seed <= tries; seed++) {
      const hand = handOf(poured(0.04, 0.03, 9, seed))
      if (!hand) throw new Error('nine pours are a hand')
      const { biasFraction: b, scatterFraction: s } = hand
      if (b.low <= 0.04 && 0.04 <= b.high) hasBias++
      if (s.low <= 0.03 && 0.03 <= s.high) hasScatter++
      expect(b.low).toBeLessThan(b.value)
      expect(s.low).toBeLessThan(s.value)
    }
    // Nine in ten of 400, to three standard deviations of that count.
    for (const hits of [hasBias, hasScatter]) {
      expect(hits / tries).toBeGreaterThan(0.9 - 0.045)
      expect(hits / tries).toBeLessThan(0.9 + 0.045)
    }
  })

  it('is not said to be off where these pours do not tell', () => {
    expect(isBiased(handOf(poured(0.06, 0.01, 9, 3)) ?? never())).toBe(true)
    expect(isBiased(handOf(poured(0, 0.03, 9, 3)) ?? never())).toBe(false)
  })

  it('is nothing with three pours, and tells dashes apart', () => {
    expect(handOf(poured(0, 0.1, 3, 1))).toBeUndefined()
    const dashes = [0.9, 1.1, 1.0].map((gotMl) => ({ wantedMl: 0.8, gotMl }))
    expect(handOf([...poured(0, 0.02, 6, 1), ...dashes])).toMatchObject({
      count: 6,
      dash: { count: 3, biasMl: expect.closeTo(0.2, 9) },
    })
  })

  it('stands in “how often it lands”: steadier lands more often, too much on average less', () => {
    const made = resolveDrink(testDrink(), BOOK, 'front')
    const computed = made.ok ? computeDrink(made.drink) : undefined
    if (!made.ok || !computed?.ok) throw new Error('bug: it can be made')
    const standard = standardFrom(computed.result.predictions)
    const lands = (hand?: { biasFraction: number; scatterFraction: number }) => {
      const run = runTolerance(made.drink, standard, { skill: 'steady', hand, runs: 500, seed: 5 })
      for (;;) {
        const { done, value } = run.next()
        if (done) return value.inFraction
      }
    }
    const steady = lands({ biasFraction: 0, scatterFraction: 0.01 })
    expect(steady).toBeGreaterThan(lands({ biasFraction: 0, scatterFraction: 0.15 }) + 0.1)
    expect(steady).toBeGreaterThan(lands({ biasFraction: 0.12, scatterFraction: 0.01 }) + 0.1)
    // Without a hand it is what is assumed, as ever.
    expect(lands()).toBe(lands(undefined))
  })
})

function never(): never {
  throw new Error('bug: a hand')
}
