import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { putBeside, stepped } from './Moving.tsx'

const listAndTwo = fc
  .uniqueArray(fc.integer(), { minLength: 1, maxLength: 12 })
  .chain((list) => fc.tuple(fc.constant(list), fc.nat(list.length - 1), fc.nat(list.length - 1), fc.boolean()))

describe('moving', () => {
  it('puts a thing right before or after another, and leaves the others in their order', () => {
    fc.assert(
      fc.property(listAndTwo, ([list, from, over, isAfter]) => {
        const moved = putBeside(list, from, over, isAfter)
        expect([...moved].sort()).toEqual([...list].sort())
        const [thing, other] = [list[from], list[over]]
        expect(moved.filter((x) => x !== thing)).toEqual(list.filter((x) => x !== thing))
        if (thing !== other) expect(moved[moved.indexOf(thing as number) + (isAfter ? -1 : 1)]).toBe(other)
      }),
    )
  })

  it('goes a step and back, and stays at an end', () => {
    fc.assert(
      fc.property(listAndTwo, ([list, from]) => {
        const down = stepped(list, from, 1)
        if (from === list.length - 1) expect(down).toEqual(list)
        else expect(stepped(down, from + 1, -1)).toEqual(list)
        expect(stepped(list, 0, -1)).toEqual(list)
      }),
    )
  })
})
