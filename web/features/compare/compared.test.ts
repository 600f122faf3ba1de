import type { DrinkDocument } from '@conch/core/drink'
import type { HouseBook } from '@conch/core/house'
import { describe, expect, it } from 'vitest'
import { baseProfile, drinkId, pickTwo } from './comparedThings.ts'

const at = (value: number) => ({ value, low: value, high: value, tasters: 1 })

describe('picking two', () => {
  it('keeps the two last picked, and lets one go again', () => {
    expect(pickTwo(['a'], 'b')).toEqual(['a', 'b'])
    expect(pickTwo(['a', 'b'], 'c')).toEqual(['b', 'c'])
    expect(pickTwo(['a', 'b'], 'a')).toEqual(['b'])
    expect(drinkId('bell', undefined)).toBe('drink:bell@draft')
  })
})

describe('the base of a drink', () => {
  it('is its spirits together, by volume, and no juice', () => {
    const bottle = (slug: string, kind: string, abv: number) => ({ slug, kind, figures: { abvPct: { value: abv } } })
    const house = {
      settings: { kit: {} },
      ingredients: [
        bottle('plain-rum', 'spirit', 40),
        bottle('strong-rum', 'spirit', 69),
        bottle('lime-juice', 'juice', 0),
      ],
      profiles: { 'plain-rum': { oak: at(2) }, 'strong-rum': { oak: at(8) }, 'lime-juice': { oak: at(10) } },
      slots: [{ slug: 'dark', pick: 'strong-rum', candidates: [{ ingredient: 'strong-rum' }] }],
    } as unknown as HouseBook
    const drink = (...pours: object[]) => ({ pours }) as unknown as DrinkDocument
    const spirits = [
      { ingredient: 'plain-rum', volumeMl: 45 },
      { slot: 'dark', volumeMl: 15 },
      { ingredient: 'lime-juice', volumeMl: 60 },
    ]
    expect(baseProfile(drink(...spirits), house, 'front').oak?.value).toBe(3.5)
    expect(baseProfile(drink({ ingredient: 'lime-juice', volumeMl: 60 }), house, 'front')).toEqual({})
  })
})
