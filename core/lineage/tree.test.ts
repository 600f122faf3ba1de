import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { circleIn, layOutTree, type TreeNode } from './index.ts'

const node = (key: string, parents: string[] = [], year?: number, drink = 'bell'): TreeNode => ({
  key,
  drink,
  parents,
  years: year === undefined ? undefined : { fromYear: year, toYear: year },
})
const places = (nodes: TreeNode[], trunk?: string) =>
  layOutTree(nodes, trunk)
    .nodes.map((n) => `${n.node.key} ${n.column}/${n.lane}`)
    .join(', ')

/** Lineages as they may be: each comes from some of those before it, years anywhere or unknown. */
const lineage = fc
  .array(
    fc.record({
      from: fc.array(fc.nat(), { maxLength: 3 }),
      year: fc.option(fc.integer({ min: 1900, max: 2020 }), { nil: undefined }),
      drink: fc.constantFrom('bell', 'bell', 'bell', 'buoy', 'clerk'),
    }),
    { minLength: 1, maxLength: 40 },
  )
  .map((all) =>
    all.map(({ from, year, drink }, i) =>
      node(String(i), i === 0 ? [] : [...new Set(from.map((f) => String(f % i)))], year, drink),
    ),
  )

describe('a lineage as a picture', () => {
  it('runs in time, whatever the order in which versions were written down', () => {
    expect(places([node('house', [], 2025), node('card', [], 1974), node('book', [], 1938)])).toBe(
      'book 0/0, card 1/0, house 2/0',
    )
  })

  it('keeps one lane along what led to what is poured, and gives a branch another', () => {
    const nodes = [node('a', [], 1950), node('b', ['a'], 1960), node('c', ['a'], 1970), node('d', ['c'], 1980)]
    expect(places(nodes, 'd')).toBe('a 0/0, b 1/1, c 2/0, d 3/0')
    expect(places(nodes)).toBe('a 0/0, b 1/0, c 2/1, d 3/1')
  })

  it('puts what nobody can date beside what it comes from, or before what came from it', () => {
    expect(places([node('x', ['old']), node('old', [], 1920), node('new', [], 1990)])).toBe('old 0/0, x 1/0, new 2/0')
    expect(places([node('first'), node('new', [], 1990), node('later', ['first'], 2000)])).toBe(
      'new 0/0, first 1/0, later 2/0',
    )
  })

  it('puts a parent before its child even where their years say otherwise', () => {
    expect(places([node('child', ['parent'], 1930), node('parent', [], 1950)])).toBe('parent 0/0, child 1/0')
  })

  it('tells mergers and riffs apart', () => {
    const nodes = [
      node('a', [], 1950),
      node('b', [], 1960),
      node('c', ['a', 'b'], 1970),
      node('r', ['c'], 1980, 'buoy'),
    ]
    expect(layOutTree(nodes).edges).toEqual([
      { from: 'a', to: 'c', isMerger: false, isRiff: false },
      { from: 'b', to: 'c', isMerger: true, isRiff: false },
      { from: 'c', to: 'r', isMerger: false, isRiff: true },
    ])
  })

  it('draws parents in a circle, too', () => {
    const tree = layOutTree([node('a', ['b']), node('b', ['a'])])
    expect(tree.nodes).toHaveLength(2)
    expect(tree.edges).toHaveLength(2)
  })

  it('holds for any lineage: each version once, in a place of its own, after all that it comes from', () => {
    fc.assert(
      fc.property(lineage, (nodes) => {
        const tree = layOutTree(nodes, nodes[nodes.length - 1]?.key)
        expect(tree.nodes.map((n) => n.column)).toEqual(nodes.map((_, i) => i))
        const at = new Map(tree.nodes.map((n) => [n.node.key, n]))
        expect(at.size).toBe(nodes.length)
        for (const { node: n, column, lane } of tree.nodes) {
          expect(lane).toBeLessThan(tree.laneCount)
          for (const p of n.parents) expect(at.get(p)?.column).toBeLessThan(column)
        }
        // A lane is one drink's.
        for (let lane = 0; lane < tree.laneCount; lane++) {
          const drinks = new Set(tree.nodes.filter((n) => n.lane === lane).map((n) => n.node.drink))
          expect(drinks.size).toBe(1)
        }
        expect(tree.edges).toHaveLength(nodes.reduce((sum, n) => sum + n.parents.length, 0))
        expect(layOutTree(nodes, nodes[nodes.length - 1]?.key)).toEqual(tree)
      }),
      { numRuns: 300, seed: 12 },
    )
  })
})

describe('a circle of parents', () => {
  it('is told with its way round', () => {
    const parents = new Map([
      ['a', ['x', 'b']],
      ['b', ['c']],
      ['c', ['a']],
    ])
    expect(circleIn(parents)).toEqual(['a', 'b', 'c', 'a'])
    expect(circleIn(new Map([['a', ['a']]]))).toEqual(['a', 'a'])
  })

  it('is not seen where two ways lead to the same', () => {
    expect(
      circleIn(
        new Map([
          ['a', ['b', 'c']],
          ['b', ['d']],
          ['c', ['d']],
        ]),
      ),
    ).toBeUndefined()
  })

  it('is found in any lineage that has one, and in no other', () => {
    fc.assert(
      fc.property(lineage, fc.nat(), fc.nat(), (nodes, a, b) => {
        const parents = new Map(nodes.map((n) => [n.key, [...n.parents]]))
        expect(circleIn(parents)).toBeUndefined()
        // Whatever comes from a later one comes, sooner or later, from itself only if that leads back to it.
        const [early, late] = [a % nodes.length, b % nodes.length].sort((x, y) => x - y) as [number, number]
        parents.get(String(early))?.push(String(late))
        const ancestors = (key: string, seen = new Set<string>()): Set<string> => {
          for (const p of nodes[Number(key)]?.parents ?? []) if (!seen.has(p)) ancestors(p, seen.add(p))
          return seen
        }
        const leadsBack = early === late || ancestors(String(late)).has(String(early))
        expect(circleIn(parents) !== undefined).toBe(leadsBack)
      }),
      { numRuns: 300, seed: 13 },
    )
  })
})
