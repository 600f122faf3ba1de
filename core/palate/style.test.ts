import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { flightDocumentSchema, slotSchema } from '../schema/palate.ts'
import { bottle, testHouse } from '../testing/house.ts'
import {
  colourDepthOf,
  colourWord,
  disagreements,
  type Flight,
  mixProfiles,
  outsideBand,
  profilesOf,
  resolveSlot,
  type Slot,
  STYLE_AXES,
  STYLE_AXIS_NAMES,
  slotProblems,
} from './index.ts'

let id = 0
const flight = (by: string, ...scores: Flight['document']['scores']): Flight => ({
  id: ++id,
  on: '2026-05-01',
  by,
  document: { scores },
})

describe('lines of style', () => {
  it('each say in words what both ends taste like', () => {
    for (const axis of STYLE_AXIS_NAMES) {
      const { low, high, about } = STYLE_AXES[axis]
      expect(new Set([low, high]).size).toBe(2)
      expect(about.length).toBeGreaterThan(20)
    }
  })
})

describe('a flight', () => {
  it('compares: one bottle, the same twice, or nothing placed is none', () => {
    const problems = (scores: unknown) => flightDocumentSchema.safeParse({ scores }).error?.issues.map((i) => i.message)
    expect(problems([{ ingredient: 'a', style: { oak: 3 } }])).toEqual(['a flight compares: at least two bottles'])
    expect(
      problems([
        { ingredient: 'a', style: { oak: 3 } },
        { ingredient: 'a', style: {} },
      ]),
    ).toEqual(['“a” is there twice; a flight has each bottle once'])
    expect(
      problems([
        { ingredient: 'a', style: {} },
        { ingredient: 'b', style: {} },
      ]),
    ).toEqual(['no bottle is placed on any line yet'])
    expect(
      problems([
        { ingredient: 'a', style: { oak: 11 } },
        { ingredient: 'b', style: {} },
      ])?.[0],
    ).toContain('10')
  })
})

describe('a profile', () => {
  it('averages tasters, and of each taster the newest word on each line', () => {
    const profiles = profilesOf([
      flight('Ann', { ingredient: 'a', style: { oak: 2, funk: 8 } }, { ingredient: 'b', style: { oak: 9 } }),
      flight('Ben', { ingredient: 'a', style: { oak: 4 } }),
      flight('Ann', { ingredient: 'a', style: { oak: 6 } }),
    ])
    expect(profiles.a).toEqual({
      oak: { value: 5, low: 4, high: 6, tasters: 2 },
      funk: { value: 8, low: 8, high: 8, tasters: 1 },
    })
    expect(profiles.b?.oak?.value).toBe(9)
  })

  it('does not depend on the order in which the flights are read', () => {
    const flights = [
      flight('Ann', { ingredient: 'a', style: { oak: 2 } }),
      flight('Ann', { ingredient: 'a', style: { oak: 7 } }),
    ]
    expect(profilesOf([...flights].reverse())).toEqual(profilesOf(flights))
    expect(profilesOf(flights).a?.oak?.value).toBe(7)
  })

  it('says where tasters are far apart', () => {
    const { a } = profilesOf([
      flight('Ann', { ingredient: 'a', style: { smoke: 1, oak: 5 } }),
      flight('Ben', { ingredient: 'a', style: { smoke: 6, oak: 6 } }),
    ])
    expect(disagreements(a ?? {})).toEqual(['smoke'])
  })

  it('of a mixture lies between its parts, by their volume, on the lines that all were placed on', () => {
    const at = (value: number) => ({ value, low: value, high: value, tasters: 1 })
    const mixed = mixProfiles([
      { profile: { oak: at(2), funk: at(9) }, volumeMl: 30 },
      { profile: { oak: at(6) }, volumeMl: 10 },
    ])
    expect(mixed).toEqual({ oak: at(3) })
    fc.assert(
      fc.property(
        fc.array(fc.record({ place: fc.integer({ min: 0, max: 10 }), volumeMl: fc.integer({ min: 1, max: 90 }) }), {
          minLength: 1,
          maxLength: 6,
        }),
        (parts) => {
          const value = mixProfiles(parts.map((p) => ({ profile: { oak: at(p.place) }, volumeMl: p.volumeMl }))).oak
            ?.value
          const places = parts.map((p) => p.place)
          expect(value).toBeGreaterThanOrEqual(Math.min(...places) - 1e-9)
          expect(value).toBeLessThanOrEqual(Math.max(...places) + 1e-9)
        },
      ),
    )
  })
})

describe('a colour', () => {
  it('is read from words and said again', () => {
    expect(colourDepthOf('near black')).toBe(10)
    expect(colourDepthOf('Pale gold')).toBe(3)
    expect(colourDepthOf('water white')).toBe(0)
    expect(colourDepthOf('cloudy')).toBeUndefined()
    expect([0, 3.9, 8.2].map(colourWord)).toEqual(['clear', 'gold', 'mahogany'])
  })
})

const slot = (changes: Partial<Slot> = {}): Slot =>
  slotSchema.parse({
    slug: 'house-light',
    name: 'House light',
    target: { weight: 3 },
    abvPct: { low: 38, high: 46 },
    candidates: [{ ingredient: 'plain-rum' }, { ingredient: 'spare-rum' }],
    pick: 'plain-rum',
    ...changes,
  })

const house = (stock: Record<string, 'out' | 'stocked'> = {}) => {
  const book = testHouse()
  const ingredients = [...book.ingredients, bottle('spare-rum', 41)].map((i) => ({
    ...i,
    stock: stock[i.slug] ?? i.stock,
  }))
  return { ...book, ingredients }
}

describe('a slot', () => {
  it('pours the well’s pick, else the house pick', () => {
    const own = slot({ pickByWell: { yard: 'spare-rum' } })
    expect(resolveSlot(own, house(), 'front')?.ingredient.slug).toBe('plain-rum')
    expect(resolveSlot(own, house(), 'yard')?.ingredient.slug).toBe('spare-rum')
  })

  it('falls to the next candidate when the pick is out, and says so', () => {
    const poured = resolveSlot(slot(), house({ 'plain-rum': 'out' }), 'front')
    expect(poured?.ingredient.slug).toBe('spare-rum')
    expect(poured?.insteadOf?.slug).toBe('plain-rum')
    const none = resolveSlot(slot(), house({ 'plain-rum': 'out', 'spare-rum': 'out' }), 'front')
    expect(none).toMatchObject({ isOut: true, ingredient: { slug: 'plain-rum' } })
    expect(resolveSlot(slot(), { ingredients: [] })).toBeUndefined()
  })

  it('is refused without candidates, with an impossible band, or with a bottle that is both', () => {
    const problems = (changes: object) =>
      slotSchema.safeParse({ ...slot(), ...changes }).error?.issues.map((i) => `${i.path.join('.')}: ${i.message}`)
    expect(problems({ candidates: [] })).toContain('candidates: a slot needs a candidate')
    expect(problems({ abvPct: { low: 50, high: 40 } })).toEqual([
      'abvPct: 50 to 40 % is no band; the low end must not be above the high end',
    ])
    expect(problems({ abvPct: { low: 40, high: 140 } })?.[0]).toContain('abvPct.high')
    expect(problems({ pick: 'nobody' })).toEqual(['pick: “nobody” is not among the candidates'])
    expect(problems({ target: {} })).toEqual(['target: place it on at least one line'])
    const refused = [{ ingredient: 'spare-rum', reason: 'too dry', by: 'Lead', on: '2026-01-01' }]
    expect(problems({ refused })).toEqual([
      'refused.0.ingredient: “spare-rum” is a candidate and refused; it is one of the two',
    ])
    expect(problems({ refused: [{ ...refused[0], ingredient: 'strong-rum', reason: '' }] })?.[0]).toContain(
      'say in a few words why',
    )
  })

  it('names what the house does not have, and what has no strength', () => {
    const odd = slot({
      candidates: [{ ingredient: 'plain-rum' }, { ingredient: 'soda' }, { ingredient: 'gone' }],
      pickByWell: { cellar: 'plain-rum' },
    })
    expect(slotProblems(odd, house()).map((p) => p.message)).toEqual([
      'soda has no strength; a slot is for what has alcohol',
      'there is no ingredient “gone”',
      'there is no well “cellar”',
    ])
    const strong = slot({ candidates: [{ ingredient: 'plain-rum' }, { ingredient: 'strong-rum' }] })
    expect(outsideBand(strong, house()).map((i) => i.slug)).toEqual(['strong-rum'])
  })
})
