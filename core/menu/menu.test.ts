import { describe, expect, it } from 'vitest'
import { testDrink, testHouse } from '../testing/house.ts'
import { lockEdition, menuChanges } from './index.ts'
import { editionLockSchema, menuPlanSchema } from './schema.ts'

const planned = (document = testDrink()) => ({
  drink: 'test-drink',
  name: 'Test Drink',
  version: 2,
  versionLabel: 'house',
  document,
})

describe('locking an edition', () => {
  it('keeps every figure on every well, and only the bottles and glasses it used', () => {
    const locked = lockEdition([{ name: 'Long', drinks: [planned()] }], testHouse())
    if (!locked.ok) throw new Error('not locked')
    expect(Object.keys(locked.lock.chapters[0]?.drinks[0]?.byWell ?? {})).toEqual(['front', 'yard'])
    expect(locked.lock.book.ingredients.map((i) => i.slug)).toEqual(['plain-rum', 'lime-juice', 'sugar-syrup'])
    expect(locked.lock.book.glasses.map((g) => g.slug)).toEqual(['tall'])
    const stored = JSON.parse(JSON.stringify(locked.lock))
    expect(editionLockSchema.parse(stored)).toEqual(stored)
  })

  it('is not touched by what happens to the house later', () => {
    const house = testHouse()
    const locked = lockEdition([{ name: 'Long', drinks: [planned()] }], house)
    if (!locked.ok) throw new Error('not locked')
    const before = JSON.stringify(locked.lock)
    house.ingredients = house.ingredients.map((i) => ({
      ...i,
      figures: { ...i.figures, abvPct: { value: 10, basis: 'label' } },
    }))
    expect(JSON.stringify(locked.lock)).toBe(before)
  })

  it('is refused whole when one drink cannot be computed at one well', () => {
    const locked = lockEdition(
      [{ name: 'Long', drinks: [planned(testDrink({ glassByWell: { yard: 'bucket' } }))] }],
      testHouse(),
    )
    expect(locked).toMatchObject({ ok: false, problems: [{ drink: 'test-drink', well: 'yard' }] })
  })
})

describe('a plan', () => {
  it('has one place for a drink', () => {
    const twice = {
      chapters: [
        {
          name: 'A',
          entries: [
            { drink: 'x', version: 1 },
            { drink: 'x', version: 2 },
          ],
        },
      ],
    }
    expect(menuPlanSchema.safeParse(twice).error?.issues[0]?.message).toBe(
      '“x” stands on the menu twice; a drink has one place',
    )
  })

  it('is compared with the menu before it', () => {
    const at = (drink: string, version: number, chapter = 'A') => ({ drink, version, chapter })
    const changes = menuChanges(
      [at('same', 1), at('newer', 1), at('gone', 3), at('shifted', 1)],
      [at('same', 1), at('newer', 2), at('fresh', 1), at('shifted', 1, 'B')],
    )
    expect(changes.map((c) => `${c.kind} ${c.drink}`)).toEqual([
      'version newer',
      'added fresh',
      'moved shifted',
      'removed gone',
    ])
  })
})
