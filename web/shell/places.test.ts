import { describe, expect, it } from 'vitest'
import { PAGES, type PagePath, pageAt, placeAt, placesOf, ROOMS, type Room } from './places.ts'

const paths = Object.keys(PAGES) as PagePath[]
const filled = (path: string) => path.replace(/:\w+/g, 'something-3')
const rooms = Object.keys(ROOMS) as Room[]
const places = rooms.flatMap(placesOf)

describe('the rooms', () => {
  it.each(paths)('%s says in one sentence what it is for, and is found by its address', (path) => {
    const { lead, room } = PAGES[path]
    expect(lead).toMatch(/^[A-Z][^.]*\.$/)
    expect(lead.length).toBeLessThan(130)
    expect(pageAt(filled(path))).toMatchObject({ path, room })
    expect(placeAt(filled(path))?.room).toBe(room)
  })

  it('have each a place of their own word and keys, none twice', () => {
    for (const room of rooms) expect(placesOf(room).length).toBeGreaterThan(0)
    expect(new Set(places.map((p) => p.label)).size).toBe(places.length)
    expect(new Set(places.map((p) => p.keys)).size).toBe(places.length)
    for (const { path, label } of places) expect([label, placeAt(path)?.path]).toEqual([label, path])
  })

  it('know to which place a page of one thing belongs', () => {
    const at = (address: string) => placeAt(address)?.label
    expect(at('/drinks/tide-clerk')).toBe('All drinks')
    expect(at('/drinks/tide-clerk/bench')).toBe('All drinks')
    expect(at('/lots/12')).toBe('Lots')
    expect(at('/mixes/grenadine/make')).toBe('Mixes')
    expect(at('/blends/ferry-nine')).toBe('Base')
    expect(at('/stand-in')).toBe('Base')
    expect(at('/ice/hearth/swizzle')).toBe('Ice')
    expect(at('/ice/glasses')).toBe('Glasses')
    expect(at('/editions/2/tide-clerk')).toBe('Published')
    expect(at('/nowhere')).toBeUndefined()
  })
})
