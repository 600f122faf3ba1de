import { describe, expect, it } from 'vitest'
import { testDrink, testHouse } from '../testing/house.ts'
import { lockEdition, menuChanges, modelMoved, retakenStandard } from './index.ts'
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

describe('another model of the ice', () => {
  const locked = (document = testDrink()) => {
    const result = lockEdition([{ name: 'Long', drinks: [planned(document)] }], testHouse())
    if (!result.ok) throw new Error('not locked')
    return result.lock
  }

  it('says what it alone moved, drink by drink; of today’s nothing', () => {
    expect(modelMoved(locked(), testHouse())).toEqual([])
    const older = { ...locked(), model: 2 }
    expect(modelMoved(older, testHouse())).toEqual([])
    for (const { result } of Object.values(older.chapters[0]?.drinks[0]?.byWell ?? {})) {
      const { temperatureC } = result.predictions
      if (temperatureC) temperatureC.value -= 4
    }
    const [moved] = modelMoved(older, testHouse())
    expect(moved?.measures.map((m) => [m.well, m.measure, Math.round(m.now - m.was)])).toEqual([
      ['front', 'temperatureC', 4],
      ['yard', 'temperatureC', 4],
    ])
  })

  it('takes a standard again so that every well is in it, and leaves what holds', () => {
    const house = testHouse()
    const wide = { strengthPct: { low: 1, high: 60 } }
    expect(retakenStandard(testDrink({ standard: wide }), house)).toBeUndefined()
    const standard = { ...wide, temperatureC: { low: -30, high: -28 }, dilutionPct: { low: 0, high: 1 } }
    const document = testDrink({ standard })
    const retaken = retakenStandard(document, house)
    expect(retaken?.strengthPct).toEqual(wide.strengthPct)
    const after = { ...document, standard: retaken ?? {} }
    expect(retakenStandard(after, house)).toBeUndefined()
    expect((retaken?.temperatureC?.high ?? 0) - (retaken?.temperatureC?.low ?? 0)).toBeGreaterThanOrEqual(1.9)
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
