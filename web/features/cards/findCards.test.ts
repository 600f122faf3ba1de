import { beginsWith } from '@conch/core/text'
import { describe, expect, it } from 'vitest'
import { testDrink, testHouse } from '../../../core/testing/house.ts'
import { findCards, isIn } from './findCards.ts'

const BOOK = testHouse()
const card = (drink: string, name: string, changes = {}) => ({ drink, name, document: testDrink({ name, ...changes }) })
const CARDS = [
  card('tide', 'The Tide Clerk'),
  card('bell', 'Bell', {
    pours: [
      { ingredient: 'nut-syrup', volumeMl: 15 },
      { ingredient: 'plain-rum', volumeMl: 45 },
    ],
  }),
  card('thimble', 'Little One', { glass: 'thimble' }),
]

describe('finding a card', () => {
  it('goes by the beginning of any word, whatever accents and capitals', () => {
    expect(beginsWith('The Tide Clerk', 'cl')).toBe(true)
    expect(beginsWith('The Tide Clerk', 'the ti')).toBe(true)
    expect(beginsWith('Crème brûlée', 'BRU')).toBe(true)
    expect(beginsWith('The Tide Clerk', 'lerk')).toBe(false)
    expect(beginsWith('Bell', ' ')).toBe(false)
  })

  it('knows what a bottle in hand is for, and which drinks a glass', () => {
    const { drinks, filters } = findCards(CARDS, 'pl', BOOK, 'front')
    expect(drinks).toEqual([])
    expect(filters).toEqual([{ kind: 'bottle', of: 'plain-rum', name: 'plain rum', count: 3 }])
    expect(findCards(CARDS, 't', BOOK, 'front').filters.map((f) => `${f.kind} ${f.of} ${f.count}`)).toEqual([
      'glass tall 2',
      'glass thimble 1',
    ])
    const nuts = { kind: 'bottle' as const, of: 'nut-syrup', name: 'nut syrup' }
    expect(CARDS.filter((c) => isIn(c, nuts, BOOK, 'front')).map((c) => c.drink)).toEqual(['bell'])
  })

  it('goes by the glass that a drink has at this well', () => {
    const own = card('own', 'Own', { glassByWell: { yard: 'thimble' } })
    const thimble = { kind: 'glass' as const, of: 'thimble', name: 'thimble' }
    expect([isIn(own, thimble, BOOK, 'front'), isIn(own, thimble, BOOK, 'yard')]).toEqual([false, true])
  })
})
