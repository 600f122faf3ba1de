import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { glassFor } from '../drink/index.ts'
import { bottle, testDrink, testHouse } from '../testing/house.ts'
import { isMuddy, type Look, lookOf, lookWords, mixLooks } from './index.ts'

const RED: Look = { colour: '#c01020', cloudiness: 0 }
const MILK: Look = { colour: '#f4efe3', cloudiness: 0.95 }
const brightness = ({ colour }: Look) =>
  [1, 3, 5].reduce((sum, at) => sum + Number.parseInt(colour.slice(at, at + 2), 16), 0)

describe('the look of a mixture', () => {
  it('is that of its one part, and thinner with water', () => {
    expect(mixLooks([{ volumeMl: 60, look: RED }], 0)).toEqual(RED)
    const half = mixLooks([{ volumeMl: 60, look: RED }], 60)
    // Half the absorbance is the root of the light that comes through, in linear light.
    expect(half.colour).toBe('#dd4c61')
    expect(brightness(mixLooks([{ volumeMl: 60, look: RED }], 600))).toBeGreaterThan(brightness(half))
  })

  it('clouds by volume: a little of what is opaque clouds much', () => {
    const mixed = mixLooks(
      [
        { volumeMl: 50, look: RED },
        { volumeMl: 50, look: MILK },
      ],
      0,
    )
    expect(mixed.cloudiness).toBeCloseTo(1 - Math.sqrt(0.05), 9)
  })

  it('does not ask in which order it was poured, or in how many pours', () => {
    const look = fc.record({
      colour: fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, '0')}`),
      cloudiness: fc.double({ min: 0, max: 1, noNaN: true }),
    })
    const part = fc.record({ volumeMl: fc.double({ min: 1, max: 200, noNaN: true }), look })
    fc.assert(
      fc.property(
        fc.array(part, { minLength: 1, maxLength: 6 }),
        fc.double({ min: 0, max: 200, noNaN: true }),
        (parts, waterMl) => {
          const whole = mixLooks(parts, waterMl)
          expect(whole.colour).toMatch(/^#[0-9a-f]{6}$/)
          expect(whole.cloudiness).toBeGreaterThanOrEqual(0)
          expect(whole.cloudiness).toBeLessThan(1)
          const turned = mixLooks([...parts].reverse(), waterMl)
          const halves = mixLooks(
            [...parts, ...parts].map((p) => ({ ...p, volumeMl: p.volumeMl / 2 })),
            waterMl,
          )
          for (const other of [turned, halves]) {
            expect(Math.abs(brightness(other) - brightness(whole))).toBeLessThanOrEqual(3)
            expect(other.cloudiness).toBeCloseTo(whole.cloudiness, 9)
          }
        },
      ),
    )
  })

  it('is as the house says, else as things of its colour, name or kind', () => {
    expect(lookOf(bottle('x', 40, 0, 0, { colour: 'near black' }))).toMatchObject({ isAssumed: true, cloudiness: 0 })
    expect(lookWords(lookOf(bottle('x', 40, 0, 0, { colour: 'near black' })))).toBe('near black, clear')
    expect(lookWords(lookOf(bottle('x', 40)))).toBe('colourless, clear')
    expect(lookOf(bottle('x', 0, 0, 0, { kind: 'juice', name: 'Lime juice' })).cloudiness).toBeGreaterThan(0.3)
    const look = { colour: '#123456', cloudiness: 0.2 }
    expect(lookOf(bottle('x', 0, 0, 0, { kind: 'juice', look }))).toEqual({ ...look, isAssumed: false })
  })

  it('brown and cloudy in a clear glass is remarked on, in one that hides it not', () => {
    const mud: Look = { colour: '#8a5a34', cloudiness: 0.6 }
    expect(isMuddy(mud)).toBe(true)
    expect(isMuddy({ ...mud, cloudiness: 0.05 })).toBe(false)
    expect(isMuddy({ colour: '#f0a93c', cloudiness: 0.8 })).toBe(false)
    const house = testHouse()
    const ingredients = house.ingredients.map((i) => ({ ...i, look: mud }))
    const codes = (isOpaque: boolean) => {
      const glasses = house.glasses.map((g) => ({ ...g, isOpaque }))
      const glass = glassFor(testDrink({ stages: [], serveIce: [] }), { ...house, ingredients, glasses })
      return glass.ok ? glass.consequences.map((c) => c.code) : []
    }
    expect(codes(false)).toContain('muddy')
    expect(codes(true)).not.toContain('muddy')
  })
})
