import { DEFAULT_KIT } from '@conch/core/measure'
import type { ReadSpec, SpecLine } from '@conch/core/reading'
import { describe, expect, it } from 'vitest'
import { type Answers, type Choices, keyOf, openQuestions, toDocument as toDocumentOf } from './pastedDrink.ts'

const line = (asWritten: string, sure: string | undefined, ml: number | undefined): SpecLine => ({
  asWritten,
  amount: ml === undefined ? undefined : { value: ml, unit: 'ml', asWritten },
  words: asWritten,
  flags: [],
  matches: [],
  sure,
  slots: [],
  sureSlot: undefined,
})
const spec = (lines: SpecLine[]): ReadSpec => ({
  name: 'Bell',
  lines,
  stages: [],
  serveIce: [],
  hasFlame: false,
  glass: undefined,
  garnish: ['mint'],
  serves: 1,
  unplaced: ['an old card'],
  ours: [],
  pieces: [],
})

const choices = (answers: Answers = {}, more: Partial<Choices> = {}): Choices => ({ answers, leftovers: {}, ...more })
const toDocument = (read: ReadSpec, name: string, chosen: Choices) =>
  toDocumentOf(read, name, chosen, DEFAULT_KIT, () => ({ ok: true, massG: 150 }))

describe('a pasted drink', () => {
  const read = spec([
    line('2 oz rum', undefined, 60),
    line('lime', 'lime-juice', undefined),
    line('1 oz syrup', 'syrup', 30),
  ])
  const known: Answers = {
    '2 oz rum': { what: { ingredient: 'aged-rum' } },
    lime: { amount: { value: 20, unit: 'ml' } },
  }

  it('asks about what is not sure, and about what is none of the drink', () => {
    expect(openQuestions(read, choices())).toEqual(['2 oz rum', 'lime', 'an old card'])
    expect(openQuestions(read, choices(known))).toEqual(['an old card'])
    expect(openQuestions(read, choices(known, { leftovers: { 'an old card': 'out' } }))).toEqual([])
    const leftOut: Answers = { '2 oz rum': { what: null }, lime: { what: null } }
    expect(openQuestions(read, choices(leftOut))).toEqual(['an old card'])
  })

  it('keeps every line’s words beside the number, and leaves out what is left out', () => {
    const answers: Answers = { '2 oz rum': { what: { ingredient: 'aged-rum' } }, lime: { what: null } }
    const document = toDocument(read, 'Bell', choices(answers, { leftovers: { 'an old card': 'note' } }))
    expect(document?.pours).toEqual([
      { ingredient: 'aged-rum', amount: { value: 60, unit: 'ml', asWritten: '2 oz rum' }, into: 'tin' },
      { ingredient: 'syrup', amount: { value: 30, unit: 'ml', asWritten: '1 oz syrup' }, into: 'tin' },
    ])
    expect(document).toMatchObject({ name: 'Bell', note: 'an old card', garnish: [{ text: 'mint', isFood: true }] })
    expect(toDocument(read, 'Bell', choices(answers, { leftovers: { 'an old card': 'out' } }))).not.toHaveProperty(
      'note',
    )
  })

  it('two lines of the same words are answered each by itself, and stay so when others change', () => {
    const twice = spec([line('1 oz rum', undefined, 30), line('1 oz rum', undefined, 30)])
    expect([keyOf(twice.lines, 0), keyOf(twice.lines, 1)]).toEqual(['1 oz rum', '1 oz rum #2'])
    const document = toDocument(twice, 'Bell', choices({ '1 oz rum #2': { what: { ingredient: 'aged-rum' } } }))
    expect(document?.pours).toHaveLength(1)
  })

  it('pours whatever fills a slot where the line names a style', () => {
    const styled = spec([{ ...line('2 oz light rum', undefined, 60), sureSlot: 'light' }])
    expect(openQuestions(styled, choices({}, { leftovers: { 'an old card': 'out' } }))).toEqual([])
    expect(toDocument(styled, 'Bell', choices())?.pours[0]).toMatchObject({ slot: 'light', amount: { value: 60 } })
    const insisted = toDocument(styled, 'Bell', choices({ '2 oz light rum': { what: { ingredient: 'aged-rum' } } }))
    expect(insisted?.pours[0]).toMatchObject({ ingredient: 'aged-rum' })
    expect(insisted?.pours[0]).not.toHaveProperty('slot')
  })

  it('for four is a bowl or one serve of it; that is asked', () => {
    const four = { ...spec([{ ...line('8 oz rum', 'aged-rum', 240), into: 'float' }]), serves: 4, unplaced: [] }
    expect(openQuestions(four, choices())).toEqual(['for how many it is'])
    expect(toDocument(four, 'Bowl', choices({}, { forMany: 'bowl' }))).toMatchObject({
      serves: 4,
      pours: [{ amount: { value: 240 }, into: 'float' }],
    })
    expect(toDocument(four, 'Bowl', choices({}, { forMany: 'oneServe' }))).toMatchObject({
      serves: 1,
      pours: [{ amount: { value: 60 } }],
    })
    expect(openQuestions({ ...four, serves: 2, servesUpTo: 4 }, choices({}, { serves: 3, forMany: 'bowl' }))).toEqual(
      [],
    )
    expect(toDocument(four, 'Bowl', choices({}, { serves: 3, forMany: 'bowl' }))?.serves).toBe(3)
  })

  it('takes a source’s own spoon over in ml', () => {
    const spoon = spec([{ ...line('2 bar spoons syrup', 'syrup', 0), amount: { value: 2, unit: 'barSpoon' } }])
    const pour = (sourceKit: Choices['sourceKit']) => toDocument(spoon, 'Bell', choices({}, { sourceKit }))?.pours[0]
    expect(pour(undefined)).toMatchObject({ amount: { value: 2, unit: 'barSpoon' } })
    expect(pour({ barSpoonMl: 3.5 })).toMatchObject({
      amount: { value: 7, unit: 'ml', asWritten: '2 bar spoons syrup' },
    })
  })

  it('fills the glass up when it is as large as it will be', () => {
    const iced: ReadSpec = {
      ...spec([line('2 oz rum', 'aged-rum', 60)]),
      serveIce: [
        { kind: 'bigCube', massG: 115, asWritten: 'over one big cube' },
        { kind: 'crushed', fill: 'toLine', asWritten: 'fill with crushed' },
      ],
    }
    expect(toDocument(iced, 'Bell', choices())?.serveIce).toEqual([
      { kind: 'bigCube', massG: 115, asWritten: 'over one big cube' },
      { kind: 'crushed', massG: 150, asWritten: 'fill with crushed', fill: 'toLine' },
    ])
  })

  it('of nothing is none', () => {
    expect(toDocument(spec([]), 'Bell', choices())).toBeUndefined()
  })
})
