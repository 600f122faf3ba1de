import type { ReadSpec, SpecLine } from '@conch/core/reading'
import { describe, expect, it } from 'vitest'
import { openQuestions, toDocument } from './pastedDrink.ts'

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
  stage: undefined,
  glass: undefined,
  garnish: ['mint'],
  serves: 1,
  notes: ['an old card'],
})

describe('a pasted drink', () => {
  const read = spec([
    line('2 oz rum', undefined, 60),
    line('lime', 'lime-juice', undefined),
    line('1 oz syrup', 'syrup', 30),
  ])

  it('asks about what is not sure', () => {
    expect(openQuestions(read, {})).toEqual([0, 1])
    expect(
      openQuestions(read, { 0: { what: { ingredient: 'aged-rum' } }, 1: { amount: { value: 20, unit: 'ml' } } }),
    ).toEqual([])
    expect(openQuestions(read, { 0: { what: null }, 1: { what: null } })).toEqual([])
  })

  it('keeps every line’s words beside the number, and leaves out what is left out', () => {
    const document = toDocument(read, 'Bell', { 0: { what: { ingredient: 'aged-rum' } }, 1: { what: null } })
    expect(document?.pours).toEqual([
      { ingredient: 'aged-rum', amount: { value: 60, unit: 'ml', asWritten: '2 oz rum' }, into: 'tin' },
      { ingredient: 'syrup', amount: { value: 30, unit: 'ml', asWritten: '1 oz syrup' }, into: 'tin' },
    ])
    expect(document).toMatchObject({ name: 'Bell', note: 'an old card', garnish: [{ text: 'mint', isFood: true }] })
  })

  it('pours whatever fills a slot where the line names a style', () => {
    const styled = spec([{ ...line('2 oz light rum', undefined, 60), sureSlot: 'light' }])
    expect(openQuestions(styled, {})).toEqual([])
    expect(toDocument(styled, 'Bell', {})?.pours[0]).toMatchObject({ slot: 'light', amount: { value: 60 } })
    const insisted = toDocument(styled, 'Bell', { 0: { what: { ingredient: 'aged-rum' } } })
    expect(insisted?.pours[0]).toMatchObject({ ingredient: 'aged-rum' })
    expect(insisted?.pours[0]).not.toHaveProperty('slot')
  })

  it('of nothing is none', () => {
    expect(toDocument(spec([]), 'Bell', {})).toBeUndefined()
  })
})
