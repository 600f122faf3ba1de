/**
 * A document taken apart into lines and put together again. A line is what two people can disagree
 * about as one thing: a pour, a step, a figure, a note. Nothing is left over: `fromLines(toLines(d))`
 * is `d`, whatever fields its schema has or will have.
 */

import { isRecord, isSame } from '../schema/sameness.ts'

/** How a kind of document falls into lines. */
export interface DocumentShape {
  /** Lists whose members are told apart by who they are, by the path of the list, dotted: "recipe.components". */
  lists: Readonly<Record<string, (member: Record<string, unknown>) => string>>
  /** Objects inside which every field is a line of its own; others are one line from their second level on. */
  open: readonly string[]
  /** Objects that are one line as they are: the two ends of a band are one thing to say. */
  whole?: readonly string[]
}

/** Where a line stands: keys, and for a member of a list its identity after "=", or "#" for the list's order. */
export type LinePath = readonly string[]
/** Lines by their path as text, in the document's order. */
export type Lines = Map<string, unknown>

const ORDER = '#'
const idOf = (path: LinePath) => JSON.stringify(path)
export const pathOf = (id: string): LinePath => JSON.parse(id) as string[]
export const isOrderLine = (id: string) => pathOf(id).at(-1) === ORDER
/** The line that holds the order of the list that a member belongs to. */
export const orderLineOf = (path: LinePath) => idOf([...path.slice(0, -1), ORDER])
export const memberOf = (path: LinePath): string | undefined =>
  path.at(-1)?.startsWith('=') ? path.at(-1)?.slice(1) : undefined

/** Between a name and its number: nothing that anybody types. */
const TIMES = '\u0001'

/** Names that are told apart: the second of one name gets a number, out of sight. */
export function distinct(names: readonly string[]): string[] {
  const seen = new Map<string, number>()
  return names.map((name) => {
    const times = (seen.get(name) ?? 0) + 1
    seen.set(name, times)
    return times === 1 ? name : `${name}${TIMES}${times}`
  })
}

/** The name without its number. */
export const bareName = (name: string): string => name.split(TIMES)[0] ?? name

export function toLines(document: object, shape: DocumentShape): Lines {
  const lines: Lines = new Map()
  const put = (path: LinePath, value: unknown): void => {
    const dotted = path.join('.')
    const identify = shape.lists[dotted]
    if (identify && Array.isArray(value)) {
      const names = distinct(value.map((member) => identify(member)))
      lines.set(idOf([...path, ORDER]), names)
      for (const [i, name] of names.entries()) lines.set(idOf([...path, `=${name}`]), value[i])
      return
    }
    const isOpened = (path.length < 2 && !shape.whole?.includes(dotted)) || shape.open.includes(dotted)
    const entries = isRecord(value) ? Object.entries(value).filter(([, inner]) => inner !== undefined) : []
    if (isOpened && entries.length > 0) for (const [key, inner] of entries) put([...path, key], inner)
    else if (path.length > 0) lines.set(idOf(path), value)
  }
  put([], document)
  return lines
}

/** The list that an order line and its members make; members the order does not name come last. */
function listOf(lines: Lines, path: LinePath): unknown[] {
  const order = lines.get(idOf([...path, ORDER]))
  const names = Array.isArray(order) ? (order as string[]) : []
  const members = new Map<string, unknown>()
  for (const [id, value] of lines) {
    const at = pathOf(id)
    const name = memberOf(at)
    if (name !== undefined && isSame(at.slice(0, -1), path)) members.set(name, value)
  }
  const first = names.filter((name) => members.has(name))
  const last = [...members.keys()].filter((name) => !names.includes(name))
  return [...first, ...last].map((name) => members.get(name))
}

export function fromLines(lines: Lines): Record<string, unknown> {
  const document: Record<string, unknown> = {}
  const set = (path: LinePath, value: unknown) => {
    let at = document
    for (const key of path.slice(0, -1)) {
      if (!isRecord(at[key])) at[key] = {}
      at = at[key] as Record<string, unknown>
    }
    at[path.at(-1) as string] = value
  }
  // The shorter paths first: what stands inside comes on top of what is empty.
  const ids = [...lines.keys()].sort((a, b) => pathOf(a).length - pathOf(b).length)
  for (const id of ids) {
    const path = pathOf(id)
    const list = path.slice(0, -1)
    if (isOrderLine(id)) set(list, listOf(lines, list))
    else if (memberOf(path) === undefined) set(path, lines.get(id))
    // A list whose order went with the other side still has its members.
    else if (!lines.has(orderLineOf(path))) set(list, listOf(lines, list))
  }
  return document
}

/**
 * One order of two: the first's, with what only the second has put in behind what it stands behind there.
 */
export function mergeOrders(first: readonly string[], second: readonly string[]): string[] {
  const merged = [...first]
  for (const [i, name] of second.entries()) {
    if (merged.includes(name)) continue
    const before = second.slice(0, i).findLast((n) => merged.includes(n))
    merged.splice(before === undefined ? 0 : merged.indexOf(before) + 1, 0, name)
  }
  return merged
}
