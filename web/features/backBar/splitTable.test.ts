import { describe, expect, it } from 'vitest'
import { splitTable } from './splitTable.ts'

describe('a table cut in parts', () => {
  const table = `name,note\n${Array.from({ length: 10 }, (_, i) => `rum ${i},`).join('\n')}\n`
  it('keeps the columns’ names and the lines’ numbers', () => {
    const parts = splitTable(table, 4)
    expect(parts.map((p) => p.firstLine)).toEqual([2, 6, 10])
    expect(parts[1]?.csv).toBe('name,note\nrum 4,\nrum 5,\nrum 6,\nrum 7,')
  })
  it('is not cut through a cell that has a line break', () => {
    const broken = table.replace('rum 3,', 'rum 3,"two\nlines"')
    expect(splitTable(broken, 4)).toEqual([{ csv: broken, firstLine: 2 }])
  })
  it('that is short stays one', () => {
    expect(splitTable('name\na\n', 4)).toEqual([{ csv: 'name\na\n', firstLine: 2 }])
  })
})
