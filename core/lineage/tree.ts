/** Where each version stands in the picture of a lineage: a column of time and a lane of its branch. */

import { middleOf } from './readWhen.ts'
import type { Years } from './sourceSchema.ts'

export interface TreeNode {
  key: string
  /** Whose version it is: each drink has lanes of its own. */
  drink: string
  /** Keys of what it was made from, the first the nearest; what is not among the nodes is passed over. */
  parents: readonly string[]
  years: Years | undefined
}

export interface PlacedNode<N extends TreeNode = TreeNode> {
  node: N
  /** From 0, one for each node: time goes to the right, not to scale. */
  column: number
  /** From 0, downwards. */
  lane: number
}

export interface TreeEdge {
  from: string
  to: string
  /** A version has one nearest parent; what else went into it merges. */
  isMerger: boolean
  /** From one drink to another. */
  isRiff: boolean
}

export interface Tree<N extends TreeNode = TreeNode> {
  nodes: PlacedNode<N>[]
  edges: TreeEdge[]
  laneCount: number
}

/**
 * Lays a lineage out: what comes from another stands to the right of it, otherwise the earlier first; a branch has a lane
 * until it ends. The same nodes in the same order make the same picture. Parents in a circle are drawn as they are.
 *
 * @param nodes in the order in which they were saved: what no year tells apart stays in it
 * @param trunk the version that is poured: what leads to it keeps one lane as far as it can
 */
export function layOutTree<N extends TreeNode>(nodes: readonly N[], trunk?: string): Tree<N> {
  const ordered = inOrder(nodes)
  const { laneOf, laneCount } = lanesOf(ordered, trunk)
  const there = new Map(nodes.map((n) => [n.key, n]))
  return {
    nodes: ordered.map((node, column) => ({ node, column, lane: laneOf.get(node.key) ?? 0 })),
    edges: ordered.flatMap((node) =>
      node.parents.flatMap((from, i): TreeEdge[] => {
        const parent = there.get(from)
        return parent ? [{ from, to: node.key, isMerger: i > 0, isRiff: parent.drink !== node.drink }] : []
      }),
    ),
    laneCount,
  }
}

/** Parents first, then by year, then as they were given. */
function inOrder<N extends TreeNode>(nodes: readonly N[]): N[] {
  const byKey = new Map(nodes.map((n) => [n.key, n]))
  const placeOf = new Map(nodes.map((n, i) => [n.key, i]))
  const known = (n: N) => n.parents.filter((p) => byKey.has(p) && p !== n.key)
  const timeOf = timesOf(nodes, byKey)
  const before = (a: N, b: N) =>
    (timeOf.get(a.key) ?? 0) - (timeOf.get(b.key) ?? 0) || (placeOf.get(a.key) ?? 0) - (placeOf.get(b.key) ?? 0)
  const left = [...nodes].sort(before)
  const isDone = new Set<string>()
  const ordered: N[] = []
  while (left.length > 0) {
    // In a circle nobody is ready: the earliest is taken.
    const next = Math.max(
      0,
      left.findIndex((n) => known(n).every((p) => isDone.has(p))),
    )
    const [node] = left.splice(next, 1) as [N]
    isDone.add(node.key)
    ordered.push(node)
  }
  return ordered
}

/** A year for each: its own; else of what it comes from; else of the first that comes from it; else the earliest of all. */
function timesOf<N extends TreeNode>(nodes: readonly N[], byKey: ReadonlyMap<string, N>): Map<string, number> {
  const children = new Map<string, N[]>()
  for (const n of nodes) for (const p of n.parents) children.set(p, [...(children.get(p) ?? []), n])
  const own = (n: N) => (n.years ? middleOf(n.years) : undefined)
  const up = (n: N, seen: ReadonlySet<string>): number | undefined => {
    const mine = own(n)
    if (mine !== undefined || seen.has(n.key)) return mine
    const above = n.parents.flatMap((p) => {
      const parent = byKey.get(p)
      return (parent && up(parent, new Set([...seen, n.key]))) ?? []
    })
    return above.length > 0 ? Math.max(...above) : undefined
  }
  const down = (n: N, seen: ReadonlySet<string>): number | undefined => {
    const mine = own(n)
    if (mine !== undefined || seen.has(n.key)) return mine
    const below = (children.get(n.key) ?? []).flatMap((c) => down(c, new Set([...seen, n.key])) ?? [])
    return below.length > 0 ? Math.min(...below) : undefined
  }
  const nobody = new Set<string>()
  return new Map(nodes.map((n) => [n.key, up(n, nobody) ?? down(n, nobody) ?? -Infinity]))
}

interface Lane {
  drink: string
  tip: string
  /** The column of its tip. */
  last: number
}

function lanesOf(ordered: readonly TreeNode[], trunk: string | undefined) {
  const byKey = new Map(ordered.map((n) => [n.key, n]))
  const column = new Map(ordered.map((n, i) => [n.key, i]))
  const nearest = (n: TreeNode) => n.parents.find((p) => byKey.get(p)?.drink === n.drink)
  const isTrunk = new Set<string>()
  for (let at = trunk; at !== undefined && !isTrunk.has(at); ) {
    isTrunk.add(at)
    const node = byKey.get(at)
    at = node && nearest(node)
  }
  const heir = new Map<string, string>()
  for (const n of ordered) {
    const parent = nearest(n)
    if (parent !== undefined && (!heir.has(parent) || isTrunk.has(n.key))) heir.set(parent, n.key)
  }
  const laneOf = new Map<string, number>()
  let first = 0
  // The drinks one below the other, each with as many lanes as its branches need at once.
  for (const drink of new Set(ordered.map((n) => n.drink))) {
    const lanes: Lane[] = []
    for (const node of ordered.filter((n) => n.drink === drink)) {
      const at = column.get(node.key) ?? 0
      const parent = nearest(node)
      const from = parent === undefined ? at : (column.get(parent) ?? at)
      let lane = lanes.findIndex((l) => l.tip === parent && heir.get(l.tip) === node.key)
      // A lane is free from its last version on, unless the line that leads on from it would be crossed.
      if (lane < 0) lane = lanes.findIndex((l) => l.last < from && !isAwaited(l.tip, node))
      if (lane < 0) lane = lanes.length
      lanes[lane] = { drink, tip: node.key, last: at }
      laneOf.set(node.key, first + lane)
    }
    first += lanes.length
  }
  return { laneOf, laneCount: first }

  /** Whether a lane is kept for what leads on from its tip. */
  function isAwaited(tip: string, node: TreeNode): boolean {
    const next = heir.get(tip)
    return next !== undefined && next !== node.key && !laneOf.has(next)
  }
}
