import { beforeEach, describe, expect, it } from 'vitest'
import { isShownAt, type ListColumn, readKept, writeKept } from './columns.ts'

const column = (more: Partial<ListColumn<string>>): ListColumn<string> => ({
  id: 'x',
  label: 'x',
  width: '1fr',
  cell: (row) => row,
  csv: (row) => row,
  ...more,
})

describe('columns', () => {
  beforeEach(() => localStorage.clear())

  it('are shown where there is room, unless somebody chose', () => {
    expect(isShownAt(column({}), 0, undefined)).toBe(true)
    expect(isShownAt(column({ from: 'md' }), 640, undefined)).toBe(false)
    expect(isShownAt(column({ from: 'md' }), 768, undefined)).toBe(true)
    expect(isShownAt(column({ from: 'md' }), 0, true)).toBe(true)
    expect(isShownAt(column({ isExtra: true }), 1280, undefined)).toBe(false)
    expect(isShownAt(column({}), 1280, false)).toBe(false)
  })

  it('are remembered by this device, list by list; what is not understood is not used', () => {
    writeKept('lots', { columns: { made: false }, sort: 'useBy', down: true })
    expect(readKept('lots')).toEqual({ columns: { made: false }, sort: 'useBy', down: true })
    expect(readKept('drinks')).toEqual({ columns: {} })
    localStorage.setItem('conch:list:drinks', '{"columns":"all"}')
    expect(readKept('drinks')).toEqual({ columns: {} })
  })
})
