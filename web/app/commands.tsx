import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef, useState } from 'react'

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

/** The key as commands write it. */
function keyName(event: KeyboardEvent): string {
  const mod = event.ctrlKey || event.metaKey ? 'mod+' : ''
  const shift = event.shiftKey && event.key.length > 1 ? 'shift+' : ''
  return (
    mod +
    (mod && event.shiftKey && event.key.length === 1 ? 'shift+' : shift) +
    (mod ? event.key.toLowerCase() : event.key)
  )
}

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))

export function CommandProvider({ children }: { children: ReactNode }) {
  const [sources, setSources] = useState<Map<object, Command[]>>(() => new Map())
  const commands = useMemo(() => [...sources.values()].flat(), [sources])
  const latest = useRef(commands)
  latest.current = commands

  useEffect(() => {
    let pending = ''
    let pendingAt = 0
    const onKey = (event: KeyboardEvent) => {
      if (event.altKey || event.defaultPrevented) return
      const key = keyName(event)
      if (isTyping(event.target) && !key.startsWith('mod+')) return
      // In a field, undo belongs to the field.
      if (isTyping(event.target) && (key === 'mod+z' || key === 'mod+shift+z')) return
      const sequence = Date.now() - pendingAt < SEQUENCE_MS ? `${pending} ${key}` : key
      const found = latest.current.find((c) => c.keys === sequence) ?? latest.current.find((c) => c.keys === key)
      pending = key
      pendingAt = Date.now()
      if (!found) return
      event.preventDefault()
      pending = ''
      found.perform()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])

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
