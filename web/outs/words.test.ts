import type { DrinkAtWell } from '@conch/contract'
import { describe, expect, it } from 'vitest'
import { insteadAddress } from './waysOn.ts'
import { darkAt, isFromBefore, saidWords, standsWords, whereWords } from './words.ts'

const at = (more: Partial<DrinkAtWell> = {}): DrinkAtWell => ({
  state: 'made',
  missing: [],
  swapped: [],
  without: [],
  ...more,
})
const lime = { kind: 'ingredient' as const, of: 'lime-juice', name: 'lime juice' }
const glass = { kind: 'glass' as const, of: 'reed', name: 'reed glass' }
const slot = { kind: 'slot' as const, of: 'black', name: 'Black rum' }
const CLOCK = { timeZone: 'Europe/Lisbon', dayTurnsAtHour: 6 }

describe('what is out tonight, in words', () => {
  it('says what is missing, what stands in, and what it is made without', () => {
    expect(standsWords(undefined, undefined)).toBeUndefined()
    expect(standsWords(at(), undefined)).toBeUndefined()
    expect(standsWords(at({ state: 'dark', missing: [lime, glass, slot] }), undefined)).toBe(
      'no lime juice, no reed glass and nothing for Black rum',
    )
    const swapped = [{ slot: 'Black rum', insteadOf: 'Sootwharf', is: 'Weirkeeper' }]
    expect(standsWords(at({ swapped, without: ['lime wheel'] }), undefined)).toBe(
      'Weirkeeper for Sootwharf; without lime wheel',
    )
    expect(standsWords(at({ state: 'off' }), undefined)).toBe('off tonight')
    expect(standsWords(at({ state: 'off' }), { words: 'no ice' } as never)).toBe('off tonight: no ice')
    expect(standsWords(at({ state: 'instead', swapped }), { words: 'gin for the rum' } as never)).toBe(
      'tonight gin for the rum; Weirkeeper for Sootwharf',
    )
  })

  it('says who and when: the clock of this night, the day of an earlier one', () => {
    const late = { savedBy: 'Ann', savedAt: '2026-09-02T01:30:00Z' }
    // After midnight it is still the same night.
    expect(saidWords(late, CLOCK, '2026-09-01')).toBe('Ann, 02:30')
    expect(isFromBefore(late, CLOCK, '2026-09-01')).toBe(false)
    expect(isFromBefore(late, CLOCK, '2026-09-02')).toBe(true)
    expect(saidWords(late, CLOCK, '2026-09-02')).toMatch(/^Ann, 1 Sep/)
    expect(whereWords(null, [])).toBe('in the house')
    expect(whereWords('yard', [{ slug: 'yard', name: 'Yard' }])).toBe('at the Yard')
  })

  it('counts what cannot be served at a well', () => {
    const one = (state: DrinkAtWell['state']) => ({
      drink: state,
      name: state,
      version: 1,
      at: { yard: at({ state }) },
    })
    const drinks = (['dark', 'off', 'made', 'instead'] as const).map(one)
    expect(darkAt({ drinks }, 'yard').map((d) => d.name)).toEqual(['dark', 'off'])
    expect(darkAt({ drinks }, 'front')).toEqual([])
  })

  it('leads to where something else is found for what is missing', () => {
    const pours = [{ ingredient: 'rum' }, { ingredient: 'lime-juice' }, { slot: 'black' }]
    const lead = (missing: DrinkAtWell['missing']) => insteadAddress('x', 2, { pours } as never, { missing }, 'yard')
    expect(lead([lime])).toBe('/stand-in?bottle=lime-juice&drink=x&v=2&line=1&tonight=yard')
    expect(lead([slot])).toBe('/stand-in?slot=black&drink=x&v=2&line=2&tonight=yard')
    expect(lead([glass])).toBe('/drinks/x/tune?v=2&tonight=yard')
    expect(lead([])).toBeUndefined()
    expect(lead([{ kind: 'unknown', of: 'gone', name: 'gone' }])).toBeUndefined()
  })
})
