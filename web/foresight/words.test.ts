import type { Foresight } from '@conch/contract'
import { describe, expect, it } from 'vitest'
import { hurts, summaryOf, wordsAt } from './words.ts'

type AtWell = Foresight['drinks'][number]['at'][number]
const at = (more: Partial<AtWell> = {}): AtWell => ({
  well: 'hearth',
  moved: [],
  said: [],
  unsaid: [],
  allergensIn: [],
  allergensOut: [],
  ...more,
})
const sweeter: AtWell['moved'][number] = {
  measure: 'sweetGPer100Ml',
  was: 8.6,
  is: 9.7,
  wasStanding: 'inside',
  isStanding: 'above',
}
const drink = (name: string, more: Partial<Foresight['drinks'][number]> = {}): Foresight['drinks'][number] => ({
  drink: name,
  name,
  version: 1,
  isPoured: true,
  isPlanned: false,
  at: [at({ moved: [sweeter] })],
  ...more,
})
const money = (amount: number) => `€${amount.toFixed(2)}`
const all: Foresight = {
  asOf: 1,
  isFromNextLot: false,
  mixes: [],
  total: 2,
  looked: 2,
  drinks: [],
  editions: [],
}

describe('what a change will do, in words', () => {
  it('says what moves, where it ends, and what is to be minded then', () => {
    expect(wordsAt(at({ moved: [sweeter] }), money)).toEqual(['sweet 8.6 g/100 ml → 9.7 g/100 ml, above its standard'])
    const back = { ...sweeter, was: 9.7, is: 8.6, wasStanding: 'above' as const, isStanding: 'inside' as const }
    expect(wordsAt(at({ moved: [back], said: ['overflows'], allergensIn: ['celery'] }), money)).toEqual([
      'sweet 9.7 g/100 ml → 8.6 g/100 ml, back in its standard',
      'overflows',
      'contains celery then',
    ])
    expect(wordsAt(at({ cost: { by: -0.42 } }), money)).toEqual(['€0.42 cheaper a serve'])
    expect(wordsAt(at({ cost: { by: 0.42, is: 3.1 } }), money)).toEqual(['€0.42 dearer a serve, €3.10 then'])
  })

  it('hurts by what leaves its standard, by a new word, by an allergen; not by what only moves', () => {
    const moved = { ...sweeter, isStanding: 'inside' as const }
    expect(hurts(drink('a'))).toBe(true)
    expect(hurts(drink('a', { at: [at({ moved: [moved] })] }))).toBe(false)
    expect(hurts(drink('a', { at: [at({ said: ['overflows'] })] }))).toBe(true)
    expect(hurts(drink('a', { at: [at({ allergensIn: ['egg'] })] }))).toBe(true)
    expect(hurts(drink('a', { at: [at({ allergensOut: ['egg'], cost: { by: 1 } })] }))).toBe(false)
  })

  it('is summed up: the menu before the rest, and what keeps its figures', () => {
    expect(summaryOf({ ...all, drinks: [drink('a'), drink('b', { isPoured: false })] })).toEqual([
      '1 drink of the menu moves, 1 leaves its standard',
      '1 other drink moves',
    ])
    expect(summaryOf({ ...all, total: 0, looked: 0 })).toEqual([])
    expect(summaryOf({ ...all, editions: [{ number: 2, name: 'Last summer' }] })).toEqual([
      'no drink of the menu moves by it',
      'Last summer keeps its figures',
    ])
    const mixes = ['Honey mix', 'Grog', 'Punch'].map((name) => ({ slug: name, name, level: 1 }))
    expect(summaryOf({ ...all, mixes, isFromNextLot: true, drinks: [drink('a')], total: 90, looked: 60 })).toEqual([
      'the lot that is poured stays as it is; from the next one on',
      'it is in Honey mix, Grog and 1 more',
      '1 drink of the menu moves, 1 leaves its standard',
      'of 90 that stand on it the first 60 were computed',
    ])
  })
})
