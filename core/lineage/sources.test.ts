import { describe, expect, it } from 'vitest'
import {
  claimedBy,
  openQuestions,
  ownVersionOf,
  readWhen,
  type SaidFinding,
  standingFindings,
  type VersionSource,
  yearsOf,
  yearsText,
} from './index.ts'
import { findingSchema, versionOriginSchema, versionSourceSchema } from './sourceSchema.ts'

describe('words about time', () => {
  it.each([
    ['1952', '1952'],
    ['about 1952', '1947 to 1957'],
    ['c. 1952', '1947 to 1957'],
    ['1950s', '1950 to 1959'],
    ['the 1950s', '1950 to 1959'],
    ['1950s, undated', '1950 to 1959'],
    ['early 1930s', '1930 to 1932'],
    ['mid 1930s', '1933 to 1936'],
    ['late 1930s', '1937 to 1939'],
    ['1934–38', '1934 to 1938'],
    ['between 1934 and 1938', '1934 to 1938'],
    ['between the wars', '1919 to 1938'],
    ['before 1940', 'until 1939'],
    ['by 1940', 'until 1940'],
    ['after 1948', 'from 1949 on'],
    ['since 1948', 'from 1948 on'],
    ['19th century', '1800 to 1899'],
    ['summer 1974', '1974'],
    ['12 June 1974', '1974'],
  ])('“%s” stands as %s', (words, years) => {
    const read = readWhen(words)
    expect(read && yearsText(read)).toBe(years)
  })

  it.each(['', 'undated', 'opening year', 'nobody knows', '12', 'room 1952', '1952 bottles', '1938 to 1934', '2500'])(
    '“%s” is not placed',
    (words) => expect(readWhen(words)).toBeUndefined(),
  )
})

describe('the years of a version', () => {
  const savedAt = '2026-03-01T12:00:00Z'
  it('are what somebody said, then what the words say', () => {
    expect(yearsOf({ era: '1950s', origin: { kind: 'historical', years: { toYear: 1930 } }, savedAt })).toEqual({
      toYear: 1930,
    })
    expect(yearsOf({ era: '1950s', origin: { kind: 'historical' }, savedAt })).toEqual({ fromYear: 1950, toYear: 1959 })
  })
  it('are the year in which it was saved only of what the house wrote itself', () => {
    const saved = { fromYear: 2026, toYear: 2026 }
    expect(yearsOf({ era: 'opening year', origin: { kind: 'house' }, savedAt })).toEqual(saved)
    expect(yearsOf({ era: '', origin: null, savedAt })).toEqual(saved)
    expect(yearsOf({ era: '', origin: { kind: 'historical' }, savedAt })).toBeUndefined()
    expect(yearsOf({ era: 'undated', origin: null, savedAt })).toBeUndefined()
  })
})

const source = (title: string, ...claims: VersionSource['claims']): VersionSource => ({ kind: 'book', title, claims })

it('a menu takes the house’s own newest version, not a book’s, and not one that is only tried', () => {
  const v = (number: number, kind?: 'historical' | 'trial' | 'house') => ({ number, origin: kind ? { kind } : null })
  expect(ownVersionOf([v(1), v(2, 'house'), v(3, 'trial'), v(4, 'historical')])?.number).toBe(2)
  expect(ownVersionOf([v(2, 'historical'), v(1, 'historical')])?.number).toBe(2)
  expect(ownVersionOf([v(1), v(2, 'historical')])?.number).toBe(1)
  expect(ownVersionOf([])).toBeUndefined()
})

describe('claims', () => {
  it('that contradict each other stand side by side, the surest first, and none is left out', () => {
    const found = claimedBy([
      source('told', { about: 'creator', says: 'the hotel', certainty: 'hearsay' }),
      source('card', { about: 'creator', says: 'the steamer', certainty: 'documented' }),
      source('letter', { about: 'creator', says: 'The Hotel.', certainty: 'attributed' }),
    ])
    expect(found).toMatchObject([
      {
        about: 'creator',
        isDisputed: true,
        positions: [
          { says: 'the steamer', certainty: 'documented' },
          { says: 'the hotel', certainty: 'attributed' },
        ],
      },
    ])
    expect(found[0]?.positions[1]?.claims.map((c) => c.source.title)).toEqual(['told', 'letter'])
  })

  it('about years agree where they can mean the same year, with all that they stand beside', () => {
    const year = (title: string, says: string) => source(title, { about: 'year', says, certainty: 'attributed' })
    expect(claimedBy([year('a', 'about 1952'), year('b', '1950s')])[0]?.isDisputed).toBe(false)
    // Each can be the 1950s; they cannot be each other.
    const found = claimedBy([year('a', '1950s'), year('b', '1950'), year('c', '1958')])[0]
    expect(found?.positions.map((p) => p.says)).toEqual(['1950s', '1958'])
  })
})

describe('what was found out later', () => {
  const said = (id: number, document: SaidFinding['document']): SaidFinding => ({ id, document })
  const asked = said(1, { kind: 'question', asks: 'who?' })
  const answered = said(2, { kind: 'answer', question: 1, says: 'the purser' })

  it('answers a question; a newer answer counts', () => {
    expect(openQuestions([asked])[0]?.answer).toBeUndefined()
    expect(openQuestions([asked, answered])[0]?.answer?.says).toBe('the purser')
    const again = said(3, { kind: 'answer', question: 1, says: 'his wife' })
    expect(openQuestions([asked, answered, again])[0]?.answer?.says).toBe('his wife')
  })

  it('is open again when the answer was a mistake, and gone when the question was', () => {
    const noAnswer = said(3, { kind: 'withdrawn', finding: 2, why: 'misheard' })
    expect(openQuestions([asked, answered, noAnswer])[0]?.answer).toBeUndefined()
    const noQuestion = said(3, { kind: 'withdrawn', finding: 1, why: 'not ours' })
    expect(standingFindings([asked, answered, noQuestion])).toEqual([])
  })

  it('counts again when taking it back was a mistake', () => {
    const noAnswer = said(3, { kind: 'withdrawn', finding: 2, why: 'misheard' })
    const after = said(4, { kind: 'withdrawn', finding: 3, why: 'it was right' })
    expect(openQuestions([asked, answered, noAnswer, after])[0]?.answer?.says).toBe('the purser')
  })
})

describe('bad input in plain words', () => {
  const words = (made: { success: boolean; error?: { issues: { message: string }[] } }) =>
    made.error?.issues.map((i) => i.message)
  it('a source without a title', () =>
    expect(words(versionSourceSchema.safeParse({ kind: 'book', title: ' ' }))).toEqual(['a source needs a title']))
  it('years the wrong way round, or none', () => {
    const origin = (years: object) => versionOriginSchema.safeParse({ kind: 'historical', years })
    expect(words(origin({ fromYear: 1950, toYear: 1940 }))).toEqual(['the first year comes after the last'])
    expect(words(origin({}))).toEqual(['give the first year, the last, or both'])
  })
  it('a question without words', () =>
    expect(words(findingSchema.safeParse({ kind: 'question', asks: '?' }))).toEqual(['say what is to be found out']))
})
