import type { DrinkDocument } from '@conch/core/drink'
import { describe, expect, it } from 'vitest'
import * as edits from './edits.ts'
import { withLines } from './useFound.ts'

const drink = {
  name: 'X',
  pours: [
    { ingredient: 'a', into: 'tin' },
    { ingredient: 'b', into: 'tin' },
  ],
  stages: [{ method: 'flashBlend', durationS: 4, ice: [{ kind: 'crushed', massG: 100 }] }],
  glass: 'tall',
  serveIce: [{ kind: 'crushed', massG: 50 }],
} as unknown as DrinkDocument

describe('a pour', () => {
  it('is the same amount of another bottle, or of whatever fills a slot', () => {
    const slotted = edits.pourInstead(drink, 1, { slot: 'dark' })
    expect(slotted.pours[1]).toEqual({ slot: 'dark', into: 'tin' })
    expect(edits.pourInstead(slotted, 1, { ingredient: 'c' }).pours[1]).toEqual({ ingredient: 'c', into: 'tin' })
  })
  it('is several lines in place of one, and one in place of several', () => {
    const line = (ingredient: string) => ({ ingredient, into: 'tin' as const })
    const longer = edits.replacePours(drink, [0], [line('c'), line('d')])
    expect(longer.pours.map((p) => p.ingredient)).toEqual(['c', 'd', 'b'])
    expect(edits.replacePours(longer, [0, 2], [line('e')]).pours.map((p) => p.ingredient)).toEqual(['e', 'd'])
  })
  it('found elsewhere goes where its line is now, or nowhere', () => {
    const lines = [{ ingredient: 'c', into: 'tin' as const }]
    const moved = withLines(drink, { index: 0, was: { ingredient: 'b' }, lines })
    expect(moved?.pours.map((p) => p.ingredient)).toEqual(['a', 'c'])
    expect(withLines(drink, { index: 0, was: { slot: 'gone' }, lines })).toBeUndefined()
  })
})

describe('a stage at a well', () => {
  it('has the speed of its own machine without seconds of its own, and keeps it when they go', () => {
    const slow = edits.changeSpeedAt(drink, 0, 'yard', 'low')
    expect(slow.stages[0]?.byWell).toEqual({ yard: { speed: 'low' } })
    expect(edits.stageAt(slow.stages[0] as never, 'yard').isOwn).toBe(false)
    // Seconds changed there are still everybody's.
    expect(edits.changeStageAt(slow, 0, 'yard', { durationS: 7 }).stages[0]).toMatchObject({ durationS: 7 })
    const own = edits.setOwnAtWell(slow, 0, 'yard', true)
    expect(own.stages[0]?.byWell?.yard).toMatchObject({ speed: 'low', durationS: 4 })
    expect(edits.setOwnAtWell(own, 0, 'yard', false).stages[0]?.byWell).toEqual({ yard: { speed: 'low' } })
    expect(edits.changeSpeedAt(slow, 0, 'yard', undefined).stages[0]?.byWell).toBeUndefined()
  })

  it('is everybody’s until the well gets its own, which begins as everybody’s', () => {
    expect(
      edits.stageAt(edits.changeStageAt(drink, 0, 'yard', { durationS: 6 }).stages[0] as never, 'front'),
    ).toMatchObject({ durationS: 6 })
    const own = edits.setOwnAtWell(drink, 0, 'yard', true)
    const changed = edits.changeStageAt(own, 0, 'yard', { durationS: 9 })
    expect(edits.stageAt(changed.stages[0] as never, 'yard')).toEqual({
      durationS: 9,
      ice: [{ kind: 'crushed', massG: 100 }],
      isOwn: true,
    })
    expect(edits.stageAt(changed.stages[0] as never, 'front')).toMatchObject({ durationS: 4, isOwn: false })
    expect(edits.setOwnAtWell(changed, 0, 'yard', false).stages[0]?.byWell).toBeUndefined()
  })
  it('with another method forgets what was meant for other gear', () => {
    expect(edits.changeMethod(edits.setOwnAtWell(drink, 0, 'yard', true), 0, 'stir').stages[0]).toEqual({
      method: 'stir',
      ice: [{ kind: 'machineCube', massG: 180 }],
      durationS: 35,
      pour: 'strained',
    })
  })
})

describe('the glass at a well', () => {
  it('is everybody’s from the first well, its own from another, and not kept twice', () => {
    const own = edits.changeGlassAt(drink, 'yard', false, 'short')
    expect(edits.glassAt(own, 'yard')).toBe('short')
    expect(edits.glassAt(own, 'front')).toBe('tall')
    expect(edits.changeGlassAt(own, 'yard', false, 'tall').glassByWell).toBeUndefined()
    expect(edits.changeGlassAt(own, 'front', true, 'mug')).toMatchObject({
      glass: 'mug',
      glassByWell: { yard: 'short' },
    })
  })
})

describe('pours', () => {
  it('come and go', () => {
    expect(edits.removePour(edits.addPour(drink, { ingredient: 'c' }), 0).pours.map((p) => p.ingredient)).toEqual([
      'b',
      'c',
    ])
  })
})
