import { DEFAULT_KIT } from '@conch/core/measure'
import { describe, expect, it } from 'vitest'
import { readComponentAmount } from './readComponent.ts'

const read = (text: string, by: Parameters<typeof readComponentAmount>[1], gPerMl?: number) => {
  const result = readComponentAmount(text, by, { kit: DEFAULT_KIT, gPerMl })
  return result.ok ? result.value : result.reason
}

describe('an amount of a recipe', () => {
  it.each([
    ['250', 'weight', 250],
    ['1½', 'partsByWeight', 1.5],
    ['one and a half', 'partsByVolume', 1.5],
    ['12,5 %', 'percentByVolume', 12.5],
    ['1 kg', 'weight', 1000],
    ['500 g', 'weight', 500],
    ['8 oz by weight', 'weight', 227],
    ['1 oz by weight', 'weight', 28.3],
    ['1 oz', 'volume', 30],
    ['1½ cups', 'volume', 360],
    ['2 tbsp', 'volume', 30],
  ] as const)('%s %s', (text, by, value) => {
    expect(read(text, by)).toBe(value)
  })

  it('goes from volume to weight and back where its density is known, and says so where not', () => {
    expect(read('1 cup', 'weight', 0.85)).toBe(204)
    expect(read('1 oz', 'weight', 1.3)).toBe(39)
    expect(read('1½ cups', 'weight', 1.26503)).toBe(455)
    expect(read('1 tsp', 'weight', 0.8712)).toBe(4.36)
    expect(read('100 g', 'volume', 1.25)).toBe(80)
    expect(read('1 cup', 'weight')).toMatch(/nobody knows how much a ml of it weighs; write it in g/)
    expect(read('2 oz', 'partsByWeight')).toMatch(/is no number of parts/)
    expect(read('a heap', 'weight')).toMatch(/is no amount/)
  })
})
