import type { PouredMenu } from '@conch/contract'
import type { Cause } from '@conch/core/menu'
import { describe, expect, it } from 'vitest'
import { causeText, sharesOf, shareText } from './causeWords.ts'
import { adriftOf, adriftOn } from './driftOf.ts'

type Line = PouredMenu['chapters'][number]['drinks'][number]
const line = (drink: string, sweet: number, more: Partial<Line> = {}): Line =>
  ({
    drink,
    name: drink,
    version: 1,
    standard: { sweetGPer100Ml: { low: 7, high: 8 } },
    locked: { sweetGPer100Ml: 7.5 },
    now: { predictions: { sweetGPer100Ml: { value: sweet, low: sweet, high: sweet } }, stops: [], isOld: false },
    ...more,
  }) as Line

describe('what is adrift', () => {
  it('is what left its band, by how far in its own tolerance', () => {
    expect(adriftOf(line('in', 8), 'front')).toBeUndefined()
    const off = adriftOf(line('out', 8.7), 'front')
    expect(off?.off.map((o) => [o.measure, o.locked])).toEqual([['sweetGPer100Ml', 7.5]])
    // A tolerance of 0.7 g/100 ml.
    expect(off?.far).toBeCloseTo(1, 9)
  })

  it('is not known while it is computed', () => {
    const old = line('old', 12)
    expect(
      adriftOf({ ...old, now: { ...(old.now as NonNullable<Line['now']>), isOld: true } }, 'front'),
    ).toBeUndefined()
    expect(adriftOf(line('new', 12, { now: undefined }), 'front')).toBeUndefined()
  })

  it('is listed over all wells, the furthest off first', () => {
    const menu = (...drinks: Line[]) => ({ chapters: [{ name: 'Long', drinks }] }) as unknown as PouredMenu
    const found = adriftOn([
      { well: 'front', menu: menu(line('a', 8.2), line('b', 7.5)) },
      { well: 'yard', menu: menu(line('a', 5), line('b', 8.4)) },
    ])
    expect(found.map((f) => `${f.drink} ${f.well}`)).toEqual(['a yard', 'b yard', 'a front'])
  })
})

describe('causes in words', () => {
  const causes: Cause[] = [
    { kind: 'model' },
    { kind: 'lot', of: 'orgeat', name: 'Orgeat', lot: 14 },
    { kind: 'recipe', of: 'grenadine', name: 'Grenadine' },
  ]
  const moved = { causes, measures: { sweetGPer100Ml: { was: 7, now: 7.9, shares: [0.004, 0.7, 0.196] } } }

  it('are the largest first, without what rounds to nothing', () => {
    expect(
      sharesOf(moved, 'sweetGPer100Ml').map(
        ({ cause, share }) => `${shareText('sweetGPer100Ml', share)} ${causeText(cause)}`,
      ),
    ).toEqual(['+0.7 Orgeat, lot 14', '+0.2 Grenadine, its recipe'])
    expect(sharesOf(moved, 'strengthPct')).toEqual([])
  })

  it('say what they are, and a share its sign', () => {
    expect(
      causeText({
        kind: 'pooled',
        changes: [
          { kind: 'well', of: 'front', name: 'Hearth' },
          { kind: 'settings', of: '', name: 'the house’s measures' },
        ],
      }),
    ).toBe('2 smaller changes: the Hearth, its ice and air, the house’s measures')
    expect(causeText({ kind: 'rest' })).toBe('what nothing on record explains')
    expect([0.2, -0.25, 0.01].map((s) => shareText('sweetGPer100Ml', s))).toEqual(['+0.2', '−0.3', '0.0'])
  })
})
