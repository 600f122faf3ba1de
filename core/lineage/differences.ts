import type { DrinkDocument } from '../drink/index.ts'
import type { Ingredient } from '../house/index.ts'
import type { MenuPlan } from '../menu/index.ts'
import type { Slot } from '../palate/index.ts'
import { isSame } from '../schema/sameness.ts'
import {
  bareName,
  type DocumentShape,
  fromLines,
  isOrderLine,
  type Lines,
  memberOf,
  mergeOrders,
  orderLineOf,
  pathOf,
  toLines,
} from './documentLines.ts'
import {
  DRINK_SHAPE,
  type FlatPlan,
  fromFlatPlan,
  INGREDIENT_SHAPE,
  PLAN_SHAPE,
  SLOT_SHAPE,
  toFlatPlan,
} from './shapes.ts'
import { labelOf, type NameOf, pairWords, wordsOf } from './words.ts'

/** The documents that people write drafts of. */
export interface DocumentKinds {
  drink: DrinkDocument
  ingredient: Ingredient
  slot: Slot
  plan: MenuPlan
}
export type DocumentKind = keyof DocumentKinds

/** One thing that two documents say differently. */
export interface Difference {
  /** The line: the same for the same thing in every comparison. */
  id: string
  /** What it is about: "Lime juice", "flash blend", "glass". */
  subject: string
  /** In words; undefined: it is not there. Never the same words on both sides. */
  before: string | undefined
  after: string | undefined
  /** Lines that go with it: a renamed chapter takes its drinks along. */
  with: string[]
}

const SHAPES: Record<DocumentKind, DocumentShape> = {
  drink: DRINK_SHAPE,
  ingredient: INGREDIENT_SHAPE,
  slot: SLOT_SHAPE,
  plan: PLAN_SHAPE,
}

function linesOf<K extends DocumentKind>(kind: K, document: DocumentKinds[K]): Lines {
  const flat = kind === 'plan' ? toFlatPlan(document as MenuPlan) : document
  return toLines(flat, SHAPES[kind])
}

function documentOf<K extends DocumentKind>(kind: K, lines: Lines): DocumentKinds[K] {
  const document = fromLines(lines)
  return (kind === 'plan' ? fromFlatPlan(document as unknown as FlatPlan) : document) as DocumentKinds[K]
}

const slug: NameOf = (s) => s

/**
 * Everything that two documents say differently, in the order of the newer one, then what it leaves
 * out. Empty exactly when they are the same.
 * @param nameOf turns slugs into names
 */
export function differences<K extends DocumentKind>(
  kind: K,
  before: DocumentKinds[K],
  after: DocumentKinds[K],
  nameOf: NameOf = slug,
): Difference[] {
  const was = linesOf(kind, before)
  const is = linesOf(kind, after)
  const changed = [...is.keys(), ...[...was.keys()].filter((id) => !is.has(id))].filter(
    (id) => !isSame(was.get(id), is.get(id)) && !isImpliedOrder(id, was, is),
  )
  const taken = new Set<string>()
  const renames = kind === 'plan' ? renamesOf(was, is) : []
  const rows = renames.map(({ from, to, ids }): Difference => {
    for (const id of ids) taken.add(id)
    return { id: ids[0] as string, subject: 'chapter', before: from, after: to, with: ids.slice(1) }
  })
  return [...rows, ...changed.filter((id) => !taken.has(id)).map((id) => toDifference(id, was, is, nameOf))]
}

/** Members came or went and the rest stands as it stood: the order says nothing new. */
function isImpliedOrder(id: string, was: Lines, is: Lines): boolean {
  if (!isOrderLine(id)) return false
  const [before, after] = [was.get(id), is.get(id)]
  if (!Array.isArray(before) || !Array.isArray(after)) return hasMembers(id, was) || hasMembers(id, is)
  const stayed = before.filter((name) => after.includes(name))
  return stayed.length < Math.max(before.length, after.length)
    ? isSame(
        stayed,
        after.filter((name) => before.includes(name)),
      )
    : false
}

const hasMembers = (id: string, lines: Lines) => {
  const order = lines.get(id)
  return Array.isArray(order) && order.length > 0
}

/** Chapters that have another name in the same place, each with the lines that say no more than that. */
function renamesOf(was: Lines, is: Lines): { from: string; to: string; ids: string[] }[] {
  const order = JSON.stringify(['chapters', '#'])
  const before = (was.get(order) ?? []) as string[]
  const after = (is.get(order) ?? []) as string[]
  if (before.length !== after.length) return []
  return before.flatMap((from, i) => {
    const to = after[i] as string
    if (from === to || after.includes(from) || before.includes(to)) return []
    const drinks = [...is].filter(([id, value]) => {
      const old = was.get(id) as { chapter?: string } | undefined
      return old?.chapter === from && isSame(value, { ...old, chapter: to })
    })
    const chapters = [from, to].map((name) => JSON.stringify(['chapters', `=${name}`]))
    return [{ from, to, ids: [...chapters, order, ...drinks.map(([id]) => id)] }]
  })
}

function toDifference(id: string, was: Lines, is: Lines, nameOf: NameOf): Difference {
  const path = pathOf(id)
  const [before, after] = [was.get(id), is.get(id)]
  const subject = subjectOf(path, nameOf)
  if (isOrderLine(id)) {
    const words = (order: unknown) =>
      Array.isArray(order) ? order.map((n) => nameOf(bareName(n))).join(', ') || 'none' : undefined
    return { id, subject, before: words(before), after: words(after), with: [] }
  }
  const key = keyOf(path)
  if (!was.has(id)) return { id, subject, before: undefined, after: wordsFor(path, after, nameOf), with: [] }
  if (!is.has(id)) return { id, subject, before: wordsFor(path, before, nameOf), after: undefined, with: [] }
  const [b, a] = pairWords(key, before, after, nameOf)
  return { id, subject, before: b, after: a, with: [] }
}

/** The key by which a value is worded: an entry by well is worded like what it is an entry of. */
const keyOf = (path: readonly string[]): string => {
  const last = path.at(-1) ?? ''
  const above = path.at(-2) ?? ''
  if (memberOf(path) !== undefined) return above
  return above.endsWith('ByWell') ? above.replace(/ByWell$/, '') : last
}

/** A member of a list without the name that it is known by: the subject says that. */
function wordsFor(path: readonly string[], value: unknown, nameOf: NameOf): string {
  if (memberOf(path) === undefined || typeof value !== 'object' || value === null)
    return wordsOf(keyOf(path), value, nameOf)
  const rest = Object.fromEntries(
    Object.entries(value).filter(([key]) => !['ingredient', 'slot', 'drink', 'name', 'allergen', 'text'].includes(key)),
  )
  return Object.keys(rest).length === 0 ? 'there' : wordsOf(keyOf(path), rest, nameOf)
}

function subjectOf(path: readonly string[], nameOf: NameOf): string {
  const last = path.at(-1) ?? ''
  const above = path.at(-2)
  if (last === '#') return `order of ${labelOf(above ?? '')}`
  const member = memberOf(path)
  if (member !== undefined) {
    const name = bareName(member)
    const times = member === name ? '' : ` (${member.slice(name.length + 1)})`
    const named = nameOf(name)
    const words = named === name && above ? wordsOf(memberKey(above), name, nameOf).replace(/[“”]/g, '') : named
    return `${above === 'garnish' ? 'garnish: ' : ''}${words || 'one without a name'}${times}`
  }
  if (above?.endsWith('ByWell')) return `${labelOf(above)} at ${nameOf(last)}`
  if (above === 'standard') return `standard: ${labelOf(last)}`
  return labelOf(last) || last
}

const memberKey = (list: string) => (list === 'stages' ? 'method' : list === 'serveIce' ? 'kind' : list)

/**
 * A document with some of the differences of another taken over: `before` with all of
 * `differences(before, after)` is `after`.
 * @param chosen ids of differences between the two
 */
export function withDifferences<K extends DocumentKind>(
  kind: K,
  before: DocumentKinds[K],
  after: DocumentKinds[K],
  chosen: ReadonlySet<string>,
): DocumentKinds[K] {
  const lines = linesOf(kind, before)
  const was = new Map(lines)
  const is = linesOf(kind, after)
  const taken = differences(kind, before, after)
    .filter((d) => chosen.has(d.id))
    .flatMap((d) => [d.id, ...d.with])
  for (const id of taken) {
    if (is.has(id)) lines.set(id, is.get(id))
    else lines.delete(id)
  }
  for (const id of new Set([...was.keys(), ...is.keys()].filter(isOrderLine))) {
    const [own, other] = [was.get(id), is.get(id)]
    if (Array.isArray(own) && Array.isArray(other))
      lines.set(id, taken.includes(id) ? mergeOrders(other, own) : mergeOrders(own, other))
    else if (own === undefined && membersOf(id, taken).length > 0) lines.set(id, other)
    else if (other === undefined && hasMembers(id, was) && membersOf(id, [...lines.keys()]).length === 0)
      lines.delete(id)
  }
  return documentOf(kind, lines)
}

/** Those of some lines that are members of the list that an order line orders. */
const membersOf = (order: string, ids: readonly string[]) =>
  ids.filter((id) => memberOf(pathOf(id)) !== undefined && orderLineOf(pathOf(id)) === order)
