import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type OutMark, outsAfter, type SaidHere } from './index.ts'

const kinds = fc.constantFrom<OutMark['kind']>('ingredient', 'fruit', 'glass')
const one = fc.record({
  kind: kinds,
  of: fc.constantFrom('rum', 'lime', 'tall'),
  well: fc.constantFrom(null, 'front', 'yard'),
  level: fc.constantFrom<OutMark['level']>('out', 'low'),
})
type Word = { mark: Omit<OutMark, 'id'> } | { endsNumber: number }
const words = fc.array(
  fc.oneof(
    one.map((mark): Word => ({ mark })),
    fc.nat(6).map((endsNumber): Word => ({ endsNumber })),
  ),
  { maxLength: 12 },
)

/** As the house does it, one word after the other, with numbers of its own. */
function inTheHouse(all: readonly Word[]): OutMark[] {
  let outs: OutMark[] = []
  let id = 0
  for (const word of all) {
    if ('endsNumber' in word) {
      outs = outs.filter((o) => o.id !== word.endsNumber)
      continue
    }
    const { mark } = word
    const at = outs.findIndex((o) => o.kind === mark.kind && o.of === mark.of && o.well === mark.well)
    if (outs[at]?.level === mark.level) continue
    if (at >= 0) outs.splice(at, 1)
    id += 1
    outs.push({ ...mark, id })
  }
  return outs
}

describe('words that only this device has', () => {
  it('count as they will in the house, in whatever order they were said', () => {
    fc.assert(
      fc.property(words, words, (before, after) => {
        const then = inTheHouse(before)
        // Of what is only said here nothing can be ended by a number of the house.
        const said = after.filter((w) => 'mark' in w || then.some((o) => o.id === w.endsNumber))
        const here = outsAfter(
          then,
          said.map(
            (w, n): SaidHere<OutMark> => ('mark' in w ? { is: { ...w.mark, id: -n - 1 } } : { ended: w.endsNumber }),
          ),
        )
        const plain = (all: readonly OutMark[]) => all.map(({ id: _, ...mark }) => mark)
        expect(plain(here)).toEqual(plain(inTheHouse([...before, ...said])))
      }),
    )
  })
})
