import { describe, expect, it } from 'vitest'
import type { z } from 'zod'
import { drinkDocumentSchema } from '../drink/schema.ts'
import { ingredientSchema, settingsSchema, wellSchema } from '../house/schema.ts'
import { lotDocumentSchema } from '../lots/lotSchema.ts'
import { editionLockSchema } from '../menu/schema.ts'
import { fullSample } from '../testing/fromSchema.ts'
import { testDrink } from '../testing/house.ts'
import { FORMATS, formOf, NewerFormat, upcast } from './index.ts'
import { slotSchema } from './palate.ts'

const ALL: [string, z.ZodType][] = [
  ['drink', drinkDocumentSchema],
  ['ingredient', ingredientSchema],
  ['slot', slotSchema],
  ['well', wellSchema],
  ['settings', settingsSchema],
  ['lot', lotDocumentSchema],
  ['edition lock', editionLockSchema],
]

describe('the form of a document', () => {
  it.each(ALL)('of a %s keeps every field of it, as it is', (_name, schema) => {
    const sample = fullSample(schema)
    expect(formOf(schema).parse(sample)).toEqual(sample)
  })

  it('knows no limits: what was allowed once, or is not finished, has it', () => {
    const unfinished = { slug: '', name: '', target: {}, abvPct: { low: 50, high: 10 }, candidates: [], pick: '' }
    expect(slotSchema.safeParse(unfinished).success).toBe(false)
    expect(formOf(slotSchema).safeParse(unfinished).success).toBe(true)
    const drink = { ...testDrink(), serves: 400, name: 'x'.repeat(500) }
    expect(formOf(drinkDocumentSchema).parse(drink)).toEqual(drink)
  })

  it('refuses another kind of value, and fills what was not there yet', () => {
    expect(formOf(drinkDocumentSchema).safeParse({ ...testDrink(), serves: 'four' }).success).toBe(false)
    expect(formOf(drinkDocumentSchema).parse({ name: 'Old', pours: [] })).toMatchObject({ serves: 1, garnish: [] })
  })

  it('makes a default anew each time', () => {
    const [first, second] = [1, 2].map(() => formOf(drinkDocumentSchema).parse({ name: 'Old', pours: [] }))
    first?.garnish.push({ text: 'mint', isFood: true })
    expect(second?.garnish).toEqual([])
  })
})

describe('a document of an older format', () => {
  const formats = {
    drink: {
      newest: 3,
      steps: {
        1: ({ title, ...rest }: Record<string, unknown>) => ({ ...rest, name: title }),
        2: (d: Record<string, unknown>) => ({ ...d, serves: 1 }),
      },
    },
  }
  it('goes up step by step', () => {
    expect(upcast('drink', { title: 'Bell' }, formats)).toEqual({ name: 'Bell', serves: 1, formatVersion: 3 })
    expect(upcast('drink', { name: 'Bell', formatVersion: 2 }, formats)).toEqual({
      name: 'Bell',
      serves: 1,
      formatVersion: 3,
    })
  })
  it('of today stays as it is, of tomorrow is refused in plain words', () => {
    const today = { name: 'Bell', formatVersion: 3 }
    expect(upcast('drink', today, formats)).toBe(today)
    expect(() => upcast('drink', { formatVersion: 4 }, formats)).toThrow(
      new NewerFormat('it is written in format 4 of “drink”; this program knows up to 3'),
    )
  })
  it('every format of today is reached from the first', () => {
    for (const name of Object.keys(FORMATS) as (keyof typeof FORMATS)[])
      expect(upcast(name, { formatVersion: 1 })).toMatchObject({ formatVersion: FORMATS[name].newest })
  })
})
