import type { Lineage, SaidFinding, Version } from '@conch/contract'
import { layOutTree } from '@conch/core/lineage'
import { describe, expect, it } from 'vitest'
import { nodesOf, nodeTowards, sourceLine, sourcesOf, spokenText, storyOf, whenText } from './lineageView.ts'

const version = (number: number, more: Partial<Version> = {}): Version =>
  ({
    drink: 'bell',
    number,
    parent: null,
    parents: [],
    label: '',
    era: '',
    source: '',
    reason: '',
    savedBy: 'Ann',
    savedAt: '2026-03-01T12:00:00Z',
    sources: [],
    origin: null,
    document: {} as Version['document'],
    ...more,
  }) as Version
const lineage = (more: Partial<Lineage> = {}): Lineage => ({
  drink: 'bell',
  name: 'Bell',
  versions: [version(1), version(2, { parents: [{ drink: 'bell', version: 1 }] })],
  relatives: [
    {
      ...version(1, { drink: 'buoy', parents: [{ drink: 'bell', version: 1 }] }),
      name: 'Buoy',
      isPoured: false,
      isPlanned: true,
    },
  ],
  findings: [],
  decisions: [],
  editions: [],
  poured: { version: 2, edition: 1 },
  planned: 2,
  hasDraft: false,
  ...more,
})

describe('a lineage as it is read', () => {
  const nodes = nodesOf(lineage())

  it('has every version once, with what is poured and planned of each drink', () => {
    expect(nodes.map((n) => [n.key, n.isPoured, n.isPlanned, n.isRelative])).toEqual([
      ['bell@1', false, false, false],
      ['bell@2', true, true, false],
      ['buoy@1', false, true, true],
    ])
  })

  it('says all that the picture shows', () => {
    const nameOf = (key: string) => `v${key.split('@')[1]}`
    expect(spokenText(nodes[1] as (typeof nodes)[number], nameOf)).toBe('version 2, 2026, from v1, poured today')
    expect(spokenText(nodes[2] as (typeof nodes)[number], nameOf)).toBe(
      'Buoy, version 1, 2026, from v1, planned for the next edition',
    )
  })

  it('is gone through by arrows: along the lane, then along time, and from lane to lane', () => {
    const placed = layOutTree(nodes, 'bell@2').nodes
    expect(nodeTowards(placed, 'bell@1', 'ArrowRight')).toBe('bell@2')
    expect(nodeTowards(placed, 'bell@2', 'ArrowLeft')).toBe('bell@1')
    expect(nodeTowards(placed, 'bell@2', 'ArrowDown')).toBe('buoy@1')
    expect(nodeTowards(placed, 'buoy@1', 'ArrowUp')).toBe('bell@2')
    expect(nodeTowards(placed, 'buoy@1', 'ArrowLeft')).toBe('bell@2')
    expect(nodeTowards(placed, 'bell@1', 'ArrowLeft')).toBeUndefined()
    expect(nodeTowards(placed, 'bell@1', 'End')).toBe('buoy@1')
    expect(nodeTowards(placed, 'bell@1', 'x')).toBeUndefined()
  })
})

describe('when', () => {
  it('is what somebody said, with years where the words alone do not say them', () => {
    expect(whenText(version(1, { era: '1950s' }))).toBe('1950s')
    expect(
      whenText(
        version(1, { era: 'the flood year', origin: { kind: 'historical', years: { fromYear: 1931, toYear: 1931 } } }),
      ),
    ).toBe('the flood year (1931)')
    expect(whenText(version(1, { origin: { kind: 'historical' } }))).toBe('nobody knows when')
    expect(whenText(version(1))).toBe('2026')
  })
})

describe('sources', () => {
  const source = { kind: 'book' as const, title: 'A book', page: '88', year: '1911', claims: [] }
  const later = (id: number, document: SaidFinding['document'], number = 1): SaidFinding => ({
    id,
    drink: 'bell',
    number,
    document,
    savedBy: 'Ben',
    savedAt: '',
  })

  it('in a line', () => {
    expect(sourceLine(source)).toBe('A book, p. 88, 1911')
    expect(sourceLine({ kind: 'told', title: 'Told across the bar', saidBy: 'a deckhand', claims: [] })).toBe(
      'Told across the bar, told by a deckhand',
    )
  })

  it('are those that a version was saved with, and those that were added and still stand', () => {
    const found = [
      later(1, { kind: 'source', source }),
      later(2, { kind: 'source', source }, 2),
      later(3, { kind: 'source', source }),
      later(4, { kind: 'withdrawn', finding: 3, why: 'twice' }),
    ]
    const own = version(1, { sources: [{ ...source, title: 'Another' }] })
    expect(sourcesOf(own, found).map((s) => [s.source.title, s.finding?.id])).toEqual([
      ['Another', undefined],
      ['A book', 1],
    ])
  })
})

it('a story is told from its end', () => {
  const decision = (id: number, savedAt: string) => ({
    id,
    drink: 'bell',
    number: 2,
    savedBy: 'Ann',
    savedAt,
    document: { instead: null, reason: 'why', changed: '', byWell: {} },
  })
  const told = storyOf(
    lineage({
      decisions: [decision(1, '2026-01-01'), decision(2, '2026-03-01')],
      editions: [{ edition: 1, name: 'Winter', publishedAt: '2026-02-01', version: 2 }],
    }),
  )
  expect(told.map((h) => h.key)).toEqual(['decision 2', 'edition 1', 'decision 1'])
})
