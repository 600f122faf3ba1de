import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef, useState } from 'react'
import { tinykeys } from 'tinykeys'

/** Something that can be done now: the palette, the keys and the buttons share this one definition. */
export interface Command {
  id: string
  label: string
  group: 'last' | 'go' | 'do' | 'drink' | 'blend' | 'slot' | 'mix' | 'bottle'
  /** "g m" is g, then m; "mod+k" is Ctrl or Cmd with k. */
  keys?: string
  /** More words by which the palette finds it. */
  words?: string
  perform: () => void
}

interface Registry {
  commands: Command[]
  add: (source: object, commands: Command[]) => () => void
}

const Context = createContext<Registry | undefined>(undefined)
const SEQUENCE_MS = 900

/** As the keys are bound: a character may need Shift or AltGr on somebody's keyboard. */
function bindingsOf(keys: string): string[] {
  const bound = keys.replace('mod+', '$mod+').replace('shift+', 'Shift+')
  return /^[^\w\s]$/.test(keys) ? [`[Shift]+${keys}`, `AltGraph+${keys}`] : [bound]
}

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))

/** In a field keys are letters, and undo belongs to the field. */
function isLeftAlone(event: KeyboardEvent): boolean {
  if (event.defaultPrevented || event.isComposing) return true
  if (!isTyping(event.target)) return false
  return !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() === 'z'
}

export function CommandProvider({ children }: { children: ReactNode }) {
  const [sources, setSources] = useState<Map<object, Command[]>>(() => new Map())
  const commands = useMemo(() => [...sources.values()].flat(), [sources])
  const latest = useRef(commands)
  latest.current = commands
  // Bound anew only where there are other keys: a page that is drawn again does not break off what is being pressed.
  const bound = [...new Set(commands.flatMap((c) => c.keys ?? []))].sort((a, b) => b.length - a.length).join('\n')

  useEffect(() => {
    // What is pressed in a row comes first: "g c" is not c.
    const pairs = bound.split('\n').flatMap((keys) => bindingsOf(keys).map((binding) => [binding, keys] as const))
    const handlers = pairs.map(([binding, keys]) => [
      binding,
      (event: KeyboardEvent) => {
        const found = latest.current.find((c) => c.keys === keys)
        if (!found) return
        event.preventDefault()
        found.perform()
      },
    ])
    return tinykeys(window, Object.fromEntries(handlers), { timeout: SEQUENCE_MS, ignore: isLeftAlone })
  }, [bound])

  const registry = useMemo<Registry>(
    () => ({
      commands,
      add: (source, added) => {
        setSources((before) => new Map(before).set(source, added))
        return () =>
          setSources((before) => {
            const after = new Map(before)
            after.delete(source)
            return after
          })
      },
    }),
    [commands],
  )
  return <Context.Provider value={registry}>{children}</Context.Provider>
}

function useRegistry(): Registry {
  const registry = useContext(Context)
  if (!registry) throw new Error('bug: outside of CommandProvider')
  return registry
}

export const useAllCommands = () => useRegistry().commands

/** Offers commands while the caller is on the page. `deps` as of an effect. */
export function useCommands(make: () => Command[], deps: unknown[]): void {
  const { add } = useRegistry()
  const source = useRef({})
  const makeRef = useRef(make)
  makeRef.current = make
  const addRef = useRef(add)
  addRef.current = add
  // biome-ignore lint/correctness/useExhaustiveDependencies: the caller says what the commands depend on
  useEffect(() => addRef.current(source.current, makeRef.current()), deps)
}
