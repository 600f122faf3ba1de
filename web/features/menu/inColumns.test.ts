import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { inColumns } from './inColumns.ts'

const chapters = fc.array(fc.array(fc.double({ min: 1, max: 2, noNaN: true }), { maxLength: 30 }), { maxLength: 8 })

describe('chapters side by side', () => {
  it('keeps every line, in order, and says what goes on', () => {
    fc.assert(
      fc.property(chapters, fc.integer({ min: 1, max: 4 }), (all, count) => {
        const named = all.map((lines, chapter) => ({ of: chapter, things: lines.map((lines, n) => ({ lines, n })) }))
        const columns = inColumns(named, count, (t) => t.lines)
        expect(columns.length).toBeLessThanOrEqual(count)
        const parts = columns.flat()
        for (const { of, things } of named) {
          const own = parts.filter((p) => p.of === of)
          expect(own.flatMap((p) => p.things)).toEqual(things)
          expect(own.map((p) => p.isContinued)).toEqual(own.map((_, n) => n > 0))
          // No line stands alone where a chapter is cut.
          if (own.length > 1) for (const part of own) expect(part.things.length).toBeGreaterThan(1)
        }
      }),
    )
  })

  it('leaves no column shorter than the other by more than a chapter’s head and the lines that stay together, twice', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 4, max: 40 }), { minLength: 1, maxLength: 9 }), (counts) => {
        const chapters = counts.map((count, of) => ({ of, things: Array.from({ length: count }, () => 1) }))
        const [first = 0, second = 0] = inColumns(chapters, 2, () => 1).map((column) =>
          column.reduce((lines, part) => lines + 1.6 + part.things.length, 0),
        )
        expect(Math.abs(first - second)).toBeLessThanOrEqual(2 * (1.6 + 2))
      }),
    )
  })
})
