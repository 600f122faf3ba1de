/**
 * A circle among things that come from each other: its keys in order, the first again at the end; undefined: there is
 * none.
 * @param parentsOf of each key what it comes from; what is no key of it comes from nothing
 */
export function circleIn(parentsOf: ReadonlyMap<string, readonly string[]>): string[] | undefined {
  const isClear = new Set<string>()
  for (const start of parentsOf.keys()) {
    const path: string[] = []
    const onPath = new Set<string>()
    // Without recursion: a lineage may be as long as anybody writes it.
    const stack: { key: string; next: number }[] = [{ key: start, next: 0 }]
    while (stack.length > 0) {
      const top = stack[stack.length - 1] as { key: string; next: number }
      if (top.next === 0) {
        if (isClear.has(top.key)) {
          stack.pop()
          continue
        }
        path.push(top.key)
        onPath.add(top.key)
      }
      const parent = parentsOf.get(top.key)?.[top.next]
      top.next++
      if (parent === undefined) {
        isClear.add(top.key)
        onPath.delete(top.key)
        path.pop()
        stack.pop()
      } else if (onPath.has(parent)) return [...path.slice(path.indexOf(parent)), parent]
      else if (!isClear.has(parent)) stack.push({ key: parent, next: 0 })
    }
  }
  return undefined
}
