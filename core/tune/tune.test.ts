import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type DrinkDocument, glassFor, MEASURE_NAMES, type Standard } from '../drink/index.ts'
import { distanceFrom } from '../means/index.ts'
import { bottle, testDrink, testHouse } from '../testing/house.ts'
import {
  A_TOUCH,
  askedFor,
  choicesOf,
  costOfServe,
  makersOf,
  type TuneAnswer,
  type TuneAsked,
  tune,
  unpricedLines,
  wellsThatMake,
} from './index.ts'

const WELLS = ['front', 'yard'] as const
/** A small grid, so that every set of pours can be made by the full model. */
const book = (() => {
  const house = testHouse()
  return {
    ...house,
    settings: { ...house.settings, measures: [{ name: 'jigger', volumesMl: [7.5, 15, 22.5, 30, 45, 60] }] },
    ingredients: [
      ...house.ingredients.map((i) => ({ ...i, price: 14, size: 700 })),
      bottle('bitters', 44, 0, 0, { kind: 'bitters' }),
    ],
  }
})()
const predictionsOf = (document: DrinkDocument, well: string) => {
  const glass = glassFor(document, book, well)
  if (!glass.ok) throw new Error(JSON.stringify(glass.problems))
  return glass.result
}
/** A window around what a document makes. */
function standardOf(document: DrinkDocument, well: string, tight = 1): Standard {
  const { predictions } = predictionsOf(document, well)
  const around = (m: 'strengthPct' | 'sweetGPer100Ml' | 'sourGPer100Ml', half: number) => {
    const value = predictions[m]?.value ?? 0
    return { low: value - half * tight, high: value + half * tight }
  }
  return {
    strengthPct: around('strengthPct', 0.8),
    sweetGPer100Ml: around('sweetGPer100Ml', 0.5),
    sourGPer100Ml: around('sourGPer100Ml', 0.06),
  }
}
const ask = (document: DrinkDocument, standard: Standard, more: Partial<TuneAsked> = {}): TuneAsked => ({
  document,
  standard,
  book,
  wells: ['front'],
  ...more,
})
const linesText = (a: TuneAnswer | undefined) => a?.lines.map((l) => `${l.name} ${l.fromMl} → ${l.toMl}`).join(', ')

/** Everything within so many changed lines, made by the full model, in the order that the tuner promises. */
function bruteForce(asked: TuneAsked, most: number): { count: number; steps: number; worst: number } | undefined {
  const chosen = choicesOf(asked)
  const made = makersOf(asked.document, asked.book, asked.wells)
  if (!chosen.ok || !made.ok) throw new Error('it can be tried')
  const baseMl = asked.document.pours.map((_, i) => chosen.variables.find((v) => v.index === i)?.fromMl)
  const resolved = asked.document.pours.map((p, i) => baseMl[i] ?? p.volumeMl ?? p.amount?.value ?? 0)
  let best: { count: number; steps: number; worst: number } | undefined
  const isBetter = (a: { count: number; steps: number; worst: number }) =>
    !best ||
    a.count < best.count ||
    (a.count === best.count && (a.steps < best.steps || (a.steps === best.steps && a.worst < best.worst)))
  const tryAll = (place: number, volumes: number[], count: number, steps: number) => {
    const variable = chosen.variables[place]
    if (!variable) {
      if (count === 0) return
      let worst = 0
      for (const { make } of made.makers) {
        const glass = make(volumes)
        if (!glass) return
        const distance = distanceFrom(glass, asked.standard)
        if (distance.misses.length > 0) return
        worst = Math.max(worst, distance.worst)
      }
      const found = { count, steps, worst }
      if (isBetter(found)) best = found
      return
    }
    tryAll(place + 1, volumes, count, steps)
    if (count === most) return
    for (const c of variable.choices) {
      const next = [...volumes]
      next[variable.index] = c.toMl
      tryAll(place + 1, next, count + 1, steps + c.steps)
    }
  }
  tryAll(0, resolved, 0, 0)
  return best
}

describe('a drink tuned', () => {
  it('that is in its standard is left alone', () => {
    const document = testDrink()
    expect(tune(ask(document, standardOf(document, 'front'))).outcome).toBe('meets')
  })

  it('moves the one line that a sweeter syrup asks for, on the grid', () => {
    const document = testDrink({
      pours: [
        { ingredient: 'plain-rum', amount: { value: 2, unit: 'oz' } },
        { ingredient: 'lime-juice', amount: { value: 0.75, unit: 'oz' } },
        { ingredient: 'nut-syrup', amount: { value: 0.75, unit: 'oz' } },
      ],
    })
    const wanted = testDrink({
      ...document,
      pours: document.pours.map((p, i) => (i === 2 ? { ...p, amount: { value: 0.5, unit: 'oz' } } : p)),
    })
    const result = tune(ask(document, standardOf(wanted, 'front')))
    expect(result.outcome).toBe('found')
    if (result.outcome !== 'found') return
    expect(linesText(result.answers[0])).toBe('nut syrup 22.5 → 15')
    // Written as it was: in ounces.
    expect(result.answers[0]?.document.pours[2]?.amount).toEqual({ value: 0.5, unit: 'oz' })
    expect(result.answers[0]?.glasses[0]?.misses).toEqual([])
  })

  it('gives the glass that the drink’s own page computes, to a thousandth', () => {
    const document = testDrink()
    const wanted = testDrink({
      pours: document.pours.map((p, i) => (i === 1 ? { ...p, amount: { value: 1, unit: 'oz' } } : p)),
    })
    const result = tune(ask(document, standardOf(wanted, 'front'), { wells: WELLS }))
    const answer =
      result.outcome === 'found' ? result.answers[0] : result.outcome === 'none' ? result.closest : undefined
    expect(answer).toBeDefined()
    for (const { well, predictions } of answer?.glasses ?? [])
      for (const m of MEASURE_NAMES) {
        const own = predictionsOf(answer?.document as DrinkDocument, well).predictions[m]
        expect(predictions[m]?.value).toBeCloseTo(own?.value ?? Number.NaN, 3)
      }
  })

  it('answers with different sets of lines, none more than needed', () => {
    const document = testDrink()
    const wanted = testDrink({
      pours: document.pours.map((p, i) => (i === 2 ? { ...p, amount: { value: 1, unit: 'oz' } } : p)),
    })
    const result = tune(ask(document, standardOf(wanted, 'front', 1.6)))
    expect(result.outcome).toBe('found')
    if (result.outcome !== 'found') return
    const sets = result.answers.map((a) => new Set(a.lines.map((l) => l.index)))
    for (const [i, a] of sets.entries())
      for (const b of sets.slice(i + 1)) expect([...a].every((x) => b.has(x))).toBe(false)
  })

  it('keeps locks, limits and ratios', () => {
    const document = testDrink()
    const wanted = testDrink({
      pours: document.pours.map((p, i) => (i === 2 ? { ...p, amount: { value: 0.75, unit: 'oz' } } : p)),
    })
    const locked = tune(ask(document, standardOf(wanted, 'front'), { lines: { 2: { isLocked: true } } }))
    const all = (r: typeof locked) =>
      r.outcome === 'found' ? r.answers : r.outcome === 'none' && r.closest ? [r.closest] : []
    for (const a of all(locked)) expect(a.lines.some((l) => l.index === 2)).toBe(false)
    const limited = tune(
      ask(document, standardOf(wanted, 'front'), {
        lines: { 0: { leastMl: 45, mostMl: 60 }, 1: { isLocked: true }, 2: { isLocked: true } },
      }),
    )
    for (const a of all(limited)) expect(a.lines.every((l) => l.index === 0 && l.toMl >= 45 && l.toMl <= 60)).toBe(true)
    const together = tune(ask(document, standardOf(wanted, 'front'), { keepRatio: [0, 2] }))
    for (const a of all(together)) {
      const times = (i: number) => {
        const l = a.lines.find((x) => x.index === i)
        return l ? l.toMl / l.fromMl : 1
      }
      expect(Math.abs(times(0) / times(2) - 1)).toBeLessThanOrEqual(0.04)
    }
  })

  it('puts in what it may, and never more', () => {
    const document = testDrink({ pours: testDrink().pours.slice(0, 2) })
    const result = tune(
      ask(document, standardOf(testDrink(), 'front', 2), {
        mayAdd: [{ ingredient: 'sugar-syrup', mostMl: 15 }],
        lines: { 0: { isLocked: true }, 1: { isLocked: true } },
      }),
    )
    expect(result.outcome).toBe('found')
    if (result.outcome !== 'found') return
    expect(linesText(result.answers[0])).toBe('sugar syrup 0 → 15')
    expect(result.answers[0]?.document.pours[2]).toMatchObject({
      ingredient: 'sugar-syrup',
      amount: { value: 0.5, unit: 'oz' },
    })
  })

  it('stays under a cost and under so much alcohol', () => {
    const document = testDrink()
    const wide: Standard = { sourGPer100Ml: { low: 0, high: 9 } }
    const now = tune(ask(document, wide))
    if (now.outcome !== 'meets') throw new Error('it meets a window that holds everything')
    const cheaper = tune(ask(document, wide, { mostCost: (now.answer.cost ?? 0) * 0.92 }))
    expect(cheaper.outcome === 'found' && (cheaper.answers[0]?.cost ?? 9)).toBeLessThanOrEqual(
      (now.answer.cost ?? 0) * 0.92,
    )
    const weaker = tune(ask(document, wide, { mostAlcoholG: now.answer.alcoholG - 4 }))
    expect(weaker.outcome === 'found' && weaker.answers[0]?.alcoholG).toBeLessThanOrEqual(now.answer.alcoholG - 4)
  })

  it('is asked of the wells that can make it, the own one first', () => {
    expect(wellsThatMake(testDrink(), book)).toEqual(['front', 'yard'])
    expect(wellsThatMake(testDrink(), book, 'yard')).toEqual(['yard', 'front'])
    const unknown = testDrink({ pours: [{ ingredient: 'nobody-knows', volumeMl: 30 }] })
    expect(wellsThatMake(unknown, book, 'yard')).toEqual([])
  })

  it('has no cost where a price is not known, and says whose', () => {
    const document = testDrink()
    const name = (slug: string | undefined) => book.ingredients.find((i) => i.slug === slug)?.name
    expect(unpricedLines(document, book, 'front')).toEqual([])
    for (const { ingredient } of document.pours) {
      const unpriced = {
        ...book,
        ingredients: book.ingredients.map((i) => (i.slug === ingredient ? { ...i, price: undefined } : i)),
      }
      expect(unpricedLines(document, unpriced, 'front')).toEqual([name(ingredient)])
      expect(costOfServe(document, unpriced, 'front')).toBeUndefined()
    }
    expect(costOfServe(document, book, 'front')).toBeGreaterThan(0)
  })

  it('says the nearest where nothing does it', () => {
    const document = testDrink()
    const result = tune(ask(document, { strengthPct: { low: 60, high: 61 }, sweetGPer100Ml: { low: 20, high: 21 } }))
    expect(result.outcome).toBe('none')
    if (result.outcome !== 'none') return
    expect(result.closest?.glasses[0]?.misses.length).toBeGreaterThan(0)
    expect(result.closest?.worst).toBeGreaterThan(1)
  })

  it('says in plain words what cannot be together', () => {
    const document = testDrink()
    const standard = standardOf(document, 'front')
    const off = { ...standard, sweetGPer100Ml: { low: 1, high: 1.2 } }
    const reason = (asked: TuneAsked) => {
      const r = tune(asked)
      return r.outcome === 'contradiction' ? r.reason : r.outcome
    }
    expect(
      reason(ask(document, off, { lines: { 0: { isLocked: true }, 1: { isLocked: true }, 2: { isLocked: true } } })),
    ).toBe('every line is locked, and nothing may be put in')
    expect(reason(ask(document, off, { lines: { 0: { leastMl: 60, mostMl: 30 } } }))).toBe(
      'plain rum: at least 60 ml is more than at most 30 ml',
    )
    expect(reason(ask(document, { sweetGPer100Ml: { low: 9, high: 8 } }))).toBe('sweet: the window is empty, 9 to 8')
    expect(reason(ask(document, {}))).toBe('noStandard')
    const unpriced = testDrink({
      pours: [...document.pours, { ingredient: 'bitters', amount: { value: 2, unit: 'dash' } }],
    })
    expect(reason(ask(unpriced, off, { mostCost: 1 }))).toBe('what it costs is not known: no price for bitters')
  })
})

describe('against everything made by the full model', () => {
  it('finds the fewest lines, then the fewest steps, then the nearest to the middle', () => {
    const names = ['plain-rum', 'strong-rum', 'lime-juice', 'sugar-syrup', 'nut-syrup'] as const
    const volumes = [7.5, 15, 22.5, 30, 45] as const
    const pours = fc.uniqueArray(fc.tuple(fc.constantFrom(...names), fc.constantFrom(...volumes)), {
      minLength: 2,
      maxLength: 4,
      selector: ([name]) => name,
    })
    const method = fc.constantFrom('flashBlend', 'hardShake', 'stir', 'build')
    const documentOf = (p: [string, number][], m: string) =>
      testDrink({
        pours: p.map(([ingredient, value]) => ({ ingredient, amount: { value, unit: 'ml' } })),
        stages: [{ method: m as 'stir' }],
      })
    const shifted = (value: number, by: number) =>
      volumes[Math.max(0, Math.min(volumes.length - 1, volumes.indexOf(value as 15) + by))] ?? value
    const outcomes = { found: 0, none: 0, meets: 0 }
    fc.assert(
      fc.property(
        pours,
        fc.array(fc.integer({ min: -1, max: 1 }), { minLength: 4, maxLength: 4 }),
        method,
        fc.boolean(),
        fc.boolean(),
        fc.double({ min: 0.4, max: 2, noNaN: true }),
        (from, shifts, m, both, isFirstLocked, tight) => {
          const document = documentOf(from as [string, number][], m)
          // A target that pours near by make.
          const wanted = documentOf(
            from.map(([name, value], i) => [name, shifted(value, shifts[i] ?? 0)]),
            m,
          )
          const asked = ask(document, standardOf(wanted, 'front', both ? 3 * tight : tight), {
            wells: both ? WELLS : ['front'],
            ...(isFirstLocked ? { lines: { 0: { isLocked: true } } } : {}),
          })
          const result = tune(asked)
          if (result.outcome === 'meets') {
            outcomes.meets++
            return
          }
          const best = bruteForce(asked, 3)
          if (result.outcome === 'none') {
            outcomes.none++
            expect(best).toBeUndefined()
            return
          }
          if (result.outcome !== 'found') throw new Error(result.outcome)
          outcomes.found++
          const [answer] = result.answers
          expect({ count: answer?.lines.length, steps: answer?.steps }).toEqual({
            count: best?.count,
            steps: best?.steps,
          })
          expect(answer?.worst).toBeCloseTo(best?.worst ?? Number.NaN, 9)
        },
      ),
      { numRuns: 300, seed: 300 },
    )
    // All three are met, or this would prove little.
    expect(Math.min(...Object.values(outcomes))).toBeGreaterThan(10)
  }, 240_000)
})

describe('what may be asked for', () => {
  const document = testDrink()
  const { predictions, serve } = predictionsOf(document, 'front')
  const now = { predictions, alcoholG: serve.alcoholG, standardDrinkG: 10, cost: 2 }
  const held = { standard: standardOf(document, 'front') }

  it('a touch moves one window, which no longer holds what is in the glass now', () => {
    for (const [target, measure, sign] of [
      ['lessSour', 'sourGPer100Ml', -1],
      ['sweeter', 'sweetGPer100Ml', 1],
      ['weaker', 'strengthPct', -1],
    ] as const) {
      const { standard } = askedFor(target, held, now)
      const value = predictions[measure]?.value ?? 0
      const band = standard[measure] ?? { low: Number.NaN, high: Number.NaN }
      expect(sign * (band.low + band.high - 2 * value)).toBeCloseTo(2 * A_TOUCH[measure], 9)
      expect(value < band.low || value > band.high).toBe(true)
      for (const other of ['sourGPer100Ml', 'sweetGPer100Ml', 'strengthPct'] as const)
        if (other !== measure) expect(standard[other]).toEqual(held.standard[other])
    }
  })

  it('less alcohol keeps what is tasted; cheaper keeps the standard; without a standard what is in the glass is kept', () => {
    const less = askedFor('lessAlcohol', held, now)
    expect(Object.keys(less.standard).sort()).toEqual(['sourGPer100Ml', 'sweetGPer100Ml'])
    expect(less.mostAlcoholG).toBeCloseTo(serve.alcoholG - 10, 9)
    expect(askedFor('cheaper', held, now)).toEqual({ standard: held.standard, mostCost: 1.84 })
    // Without a price there is nothing to be cheaper than: a cap that is refused, never none.
    expect(askedFor('cheaper', held, { ...now, cost: undefined }).mostCost).toBe(0)
    expect(askedFor('standard', { standard: {} }, now).standard.sweetGPer100Ml).toBeDefined()
  })
})
