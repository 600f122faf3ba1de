import { planWith } from '@conch/core/menu'
import { describe, expect, it } from 'vitest'
import { planBeside, planMoved, planToChapter, planWithout } from './plan.ts'

const at = (drink: string, version = 1) => ({ drink, version })
const plan = {
  chapters: [
    { name: 'A', entries: [at('a'), at('b')] },
    { name: 'B', entries: [at('c')] },
  ],
}
const words = (p: typeof plan) => p.chapters.map((c) => c.entries.map((e) => `${e.drink}${e.version}`).join(' '))

describe('the plan of the next edition', () => {
  it('takes a new version in the old place, a new drink at the end, and makes a first chapter', () => {
    expect(words(planWith(plan, 'a', 3))).toEqual(['a3 b1', 'c1'])
    expect(words(planWith(plan, 'd', 2))).toEqual(['a1 b1', 'c1 d2'])
    expect(planWith({ chapters: [] }, 'd', 2)).toEqual({ chapters: [{ name: 'Drinks', entries: [at('d', 2)] }] })
  })
  it('moves within a chapter, across its end, and not beyond the menu', () => {
    expect(words(planMoved(plan, 'b', -1))).toEqual(['b1 a1', 'c1'])
    expect(words(planMoved(plan, 'b', 1))).toEqual(['a1', 'b1 c1'])
    expect(words(planMoved(plan, 'c', -1))).toEqual(['a1 b1 c1', ''])
    expect(words(planMoved(plan, 'a', -1))).toEqual(words(plan))
    expect(words(planMoved(plan, 'c', 1))).toEqual(words(plan))
  })
  it('moves to a chapter, and off', () => {
    expect(words(planToChapter(plan, 'a', 1))).toEqual(['b1', 'c1 a1'])
    expect(words(planToChapter(plan, 'a', 1, true))).toEqual(['b1', 'a1 c1'])
    expect(words(planWithout(plan, 'c'))).toEqual(['a1 b1', ''])
  })
  it('puts a drink beside another one, in whichever chapter that is', () => {
    expect(words(planBeside(plan, 'a', 'c', false))).toEqual(['b1', 'a1 c1'])
    expect(words(planBeside(plan, 'a', 'c', true))).toEqual(['b1', 'c1 a1'])
    expect(words(planBeside(plan, 'b', 'a', false))).toEqual(['b1 a1', 'c1'])
    expect(words(planBeside(plan, 'a', 'a', true))).toEqual(words(plan))
    expect(words(planBeside(plan, 'x', 'a', true))).toEqual(words(plan))
  })
})
