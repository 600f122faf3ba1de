import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  brimMlOf,
  fillGlass,
  heightMmOf,
  iceForWashLine,
  levelMmOf,
  profileFromWater,
  profileOfShape,
  profileProblem,
  SHAPES,
  type Shape,
  volumeMlBelow,
  wettedAreaM2,
} from './index.ts'

const cylinder = [
  { heightMm: 0, radiusMm: 30 },
  { heightMm: 100, radiusMm: 30 },
]
const bowl = [
  { heightMm: 0, radiusMm: 0 },
  { heightMm: 20, radiusMm: 40 },
  { heightMm: 60, radiusMm: 55 },
  { heightMm: 70, radiusMm: 50 },
]
const drink = (liquidMl: number, iceG: number, packedSolidFraction = 0.6) => ({
  liquidMl,
  liquidDensityGPerMl: 1.02,
  iceG,
  packedSolidFraction,
})

describe('a vessel', () => {
  it('holds what geometry says', () => {
    expect(brimMlOf(cylinder)).toBeCloseTo((Math.PI * 900 * 100) / 1000, 9)
    const cone = [
      { heightMm: 0, radiusMm: 0 },
      { heightMm: 90, radiusMm: 45 },
    ]
    expect(brimMlOf(cone)).toBeCloseTo((Math.PI * 45 * 45 * 90) / 3000, 9)
    expect(wettedAreaM2(cylinder, 50)).toBeCloseTo((Math.PI * 900 + 2 * Math.PI * 30 * 50) / 1e6, 9)
  })

  it('fills to the level of a volume, and back', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.001, max: 1, noNaN: true }), (share) => {
        const volumeMl = share * brimMlOf(bowl)
        expect(volumeMlBelow(bowl, levelMmOf(bowl, volumeMl))).toBeCloseTo(volumeMl, 3)
      }),
    )
  })

  it.each([
    [[{ heightMm: 0, radiusMm: 30 }], 'needs at least two points: the bottom and the brim'],
    [
      [
        { heightMm: 5, radiusMm: 30 },
        { heightMm: 50, radiusMm: 30 },
      ],
      'must begin at height 0 mm, begins at 5 mm',
    ],
    [
      [
        { heightMm: 0, radiusMm: 30 },
        { heightMm: 50, radiusMm: 30 },
        { heightMm: 40, radiusMm: 30 },
      ],
      'heights must rise: point 3 is at 40 mm after 50 mm',
    ],
    [
      [
        { heightMm: 0, radiusMm: 30 },
        { heightMm: 50, radiusMm: 0 },
      ],
      'narrows to nothing above the bottom: every radius there must be more than 0 mm',
    ],
    [
      [
        { heightMm: 0, radiusMm: 2 },
        { heightMm: 5, radiusMm: 2 },
      ],
      'holds 0.1 ml to the brim; a glass holds 5 to 20000 ml',
    ],
  ])('is not one: %j', (profile, problem) => {
    expect(profileProblem(profile)).toBe(problem)
  })
})

describe('a glass with ice', () => {
  it('floating ice lifts the liquid by its own mass and rests off the bottom', () => {
    const fill = fillGlass(cylinder, drink(200, 51))
    expect(fill.isPacked).toBe(false)
    expect(fill.washLineMm).toBeCloseTo((250 * 1000) / (Math.PI * 900), 4)
    expect(fill.iceBottomMm).toBeGreaterThan(0)
    expect(fill.iceTopMm).toBeGreaterThan(fill.washLineMm)
  })

  it('packed ice holds the liquid in its gaps', () => {
    const fill = fillGlass(cylinder, drink(60, 150))
    expect(fill.isPacked).toBe(true)
    expect(fill.washLineMm).toBeCloseTo((150 * 1000) / (Math.PI * 900), 3)
    expect(fill.iceBottomMm).toBe(0)
  })

  it('runs over by what does not fit, and never shows a line above the brim', () => {
    const fill = fillGlass(cylinder, drink(300, 0))
    expect(fill.overflowMl).toBeCloseTo(300 - brimMlOf(cylinder), 6)
    expect(fill.washLineMm).toBe(100)
  })

  it('never stands lower for more ice', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 250, noNaN: true }),
        fc.double({ min: 0, max: 300, noNaN: true }),
        (ml, g) => {
          const less = fillGlass(bowl, drink(ml, g)).washLineMm
          expect(fillGlass(bowl, drink(ml, g + 10)).washLineMm).toBeGreaterThanOrEqual(less - 1e-6)
        },
      ),
    )
  })
})

describe('ice for a wash line', () => {
  const contents = { liquidMl: 150, liquidDensityGPerMl: 1.02, packedSolidFraction: 0.6 }

  it('brings the line where it was wanted', () => {
    const found = iceForWashLine(cylinder, contents, 80)
    if (found.outcome !== 'found') throw new Error(found.outcome)
    expect(fillGlass(cylinder, { ...contents, iceG: found.iceG }).washLineMm).toBeCloseTo(80, 2)
  })

  it('says when the liquid is already there, and when no ice gets it there', () => {
    expect(iceForWashLine(cylinder, contents, 30)).toMatchObject({ outcome: 'alreadyAbove' })
    expect(iceForWashLine(cylinder, { ...contents, liquidMl: 60 }, 90)).toMatchObject({
      outcome: 'cannotReach',
      highestMm: expect.closeTo((150 * 1000) / (Math.PI * 900), 2),
    })
  })
})

describe('a glass one measures', () => {
  const shapes = Object.keys(SHAPES) as Shape[]

  it.each(shapes)('%s: by height and brim volume it holds exactly that', (shape) => {
    const profile = profileOfShape(shape, 120, 380)
    expect(profileProblem(profile)).toBeUndefined()
    expect(heightMmOf(profile)).toBe(120)
    expect(brimMlOf(profile)).toBeCloseTo(380, 0)
  })

  it('by weighing water it holds what was weighed, at every height nearly', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...shapes.filter((s) => s !== 'cone' && s !== 'saucer')),
        fc.double({ min: 60, max: 180, noNaN: true }),
        fc.double({ min: 120, max: 600, noNaN: true }),
        (shape, heightMm, brimMl) => {
          const real = profileOfShape(shape, heightMm, brimMl)
          const top = heightMmOf(real)
          const levels = [0.15, 0.35, 0.55, 0.75, 1].map((u) => ({
            heightMm: Number((u * top).toFixed(1)),
            waterG: volumeMlBelow(real, Number((u * top).toFixed(1))) * 0.9982,
          }))
          const found = profileFromWater(levels)
          if (!found.ok) throw new Error(found.problem)
          expect(Math.abs(brimMlOf(found.profile) / brimMlOf(real) - 1)).toBeLessThan(0.005)
          expect(found.offPct).toBeLessThan(12)
          for (const u of [0.4, 0.6, 0.8, 0.95]) {
            const [is, was] = [volumeMlBelow(found.profile, u * top), volumeMlBelow(real, u * top)]
            expect(Math.abs(is / was - 1)).toBeLessThan(0.06)
          }
        },
      ),
    )
  })

  it.each([
    [[{ heightMm: 50, waterG: 100 }], 'weigh at two heights at least'],
    [
      [
        { heightMm: 50, waterG: 100 },
        { heightMm: 50, waterG: 120 },
      ],
      '50 mm is there twice',
    ],
    [
      [
        { heightMm: 50, waterG: 100 },
        { heightMm: 80, waterG: 95 },
      ],
      'it would narrow to nothing',
    ],
  ])('cannot be one with %j', (levels, problem) => {
    expect(profileFromWater(levels)).toMatchObject({ ok: false, problem: expect.stringContaining(problem) })
  })
})

describe('froth', () => {
  it('stands on the liquid, above the brim when there is no room', () => {
    const low = fillGlass(cylinder, { ...drink(150, 0), foamMl: 30 })
    expect(low.foamTopMm).toBeGreaterThan(low.washLineMm)
    expect(low.foamAboveBrimMl).toBe(0)
    const high = fillGlass(cylinder, { ...drink(270, 0), foamMl: 30 })
    // A fifth of the froth is liquid, which is not below it.
    expect(high.foamAboveBrimMl).toBeCloseTo(270 - 6 + 30 - brimMlOf(cylinder), 6)
    expect(high.overflowMl).toBeCloseTo(0.2 * (high.foamAboveBrimMl ?? 0), 9)
    expect(low.washLineMm).toBeLessThan(fillGlass(cylinder, drink(150, 0)).washLineMm)
    expect(fillGlass(cylinder, drink(150, 0)).foamTopMm).toBeUndefined()
  })
})
