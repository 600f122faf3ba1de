import {
  type Announcements,
  type CollisionDetection,
  DndContext,
  DragOverlay,
  PointerSensor,
  pointerWithin,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import {
  createContext,
  type KeyboardEvent,
  type ReactNode,
  useCallback,
  useContext,
  useLayoutEffect,
  useRef,
  useState,
} from 'react'

/** Where something is put down: before or after something else. */
interface Landing {
  over: string
  isAfter: boolean
}

interface MovingAreaProps {
  nameOf: (id: string) => string
  /** Put down beside something else. */
  onDrop: (id: string, over: string, isAfter: boolean) => void
  /** One step by a key. @returns what it is called afterwards, where that is by its place */
  onStep: (id: string, by: -1 | 1) => string | undefined
  /** Where it stands, in words: "2 of 5". Said after a step. */
  whereIs: (id: string) => string
  /** Left out: anything lands on anything. */
  mayLand?: (id: string, over: string) => boolean
  children: ReactNode
}

interface Area {
  landing: Landing | undefined
  step: (id: string, by: -1 | 1) => void
}

const Context = createContext<Area | undefined>(undefined)
const LEAST_MOVE_PX = 4

/** Things whose order counts: moved by the handle, with a pointer, a finger or the arrow keys. */
export function MovingArea({ nameOf, onDrop, onStep, whereIs, mayLand, children }: MovingAreaProps) {
  const [held, setHeld] = useState<string>()
  const [landing, setLanding] = useState<Landing>()
  const [said, setSaid] = useState('')
  const moved = useRef<string>(undefined)
  const area = useRef<HTMLDivElement>(null)
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: LEAST_MOVE_PX } }))
  // The page may have drawn it anew at its new place: whoever steps on goes on with it.
  useLayoutEffect(() => {
    const id = moved.current
    if (id === undefined) return
    moved.current = undefined
    area.current?.querySelector<HTMLElement>(`[data-handle="${CSS.escape(id)}"]`)?.focus()
    setSaid(`${nameOf(id)}: ${whereIs(id)}`)
  })
  const step = useCallback(
    (id: string, by: -1 | 1) => {
      moved.current = onStep(id, by) ?? id
    },
    [onStep],
  )
  const within: CollisionDetection = (args) =>
    pointerWithin({
      ...args,
      droppableContainers: args.droppableContainers.filter(
        (c) => c.id !== args.active.id && (mayLand?.(String(args.active.id), String(c.id)) ?? true),
      ),
    })
  const end = () => {
    setHeld(undefined)
    setLanding(undefined)
  }
  const words = (over: Landing | undefined) =>
    over ? `${over.isAfter ? 'after' : 'before'} ${nameOf(over.over)}` : 'where it was'
  const announcements: Announcements = {
    onDragStart: ({ active }) => `${nameOf(String(active.id))} is held`,
    onDragOver: ({ over }) => (over ? `over ${nameOf(String(over.id))}` : words(undefined)),
    onDragEnd: ({ active }) => `${nameOf(String(active.id))} is put down ${words(landing)}`,
    onDragCancel: ({ active }) => `${nameOf(String(active.id))} stays where it was`,
  }
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={within}
      accessibility={{ announcements }}
      onDragStart={({ active }) => setHeld(String(active.id))}
      onDragMove={({ active, over }) => {
        const box = active.rect.current.translated
        if (!over || !box) return setLanding(undefined)
        const isAfter = box.top + box.height / 2 > over.rect.top + over.rect.height / 2
        setLanding((before) =>
          before?.over === over.id && before.isAfter === isAfter ? before : { over: String(over.id), isAfter },
        )
      }}
      onDragEnd={({ active }) => {
        if (landing) onDrop(String(active.id), landing.over, landing.isAfter)
        end()
      }}
      onDragCancel={end}
    >
      <Context.Provider value={{ landing, step }}>
        <div ref={area} className="contents">
          {children}
        </div>
      </Context.Provider>
      <p className="sr-only" aria-live="polite">
        {said}
      </p>
      <DragOverlay dropAnimation={null}>
        {held !== undefined && (
          <span className="inline-block border border-ink bg-paper px-3 py-1">{nameOf(held)}</span>
        )}
      </DragOverlay>
    </DndContext>
  )
}

const LINES = { before: 'inset 0 2px var(--ink)', after: 'inset 0 -2px var(--ink)' }

/** What a row needs so that it can be moved, and shows where another one would land. */
export function useMovable(id: string, isFixed = false) {
  const { landing, step } = useContext(Context) ?? {}
  const drag = useDraggable({ id, disabled: isFixed })
  const drop = useDroppable({ id })
  const { setNodeRef: setDrag } = drag
  const { setNodeRef: setDrop } = drop
  const ref = useCallback(
    (node: HTMLElement | null) => {
      setDrag(node)
      setDrop(node)
    },
    [setDrag, setDrop],
  )
  const line = landing?.over === id ? LINES[landing.isAfter ? 'after' : 'before'] : undefined
  return {
    ref,
    style: { ...(line ? { boxShadow: line } : {}), ...(drag.isDragging ? { opacity: 0.4 } : {}) },
    handle: { id, setActivator: drag.setActivatorNodeRef, listeners: drag.listeners, step },
  }
}

interface MoveHandleProps {
  name: string
  handle: ReturnType<typeof useMovable>['handle']
}

/** Six soundings: what one takes hold of. */
export function MoveHandle({ name, handle: { id, setActivator, listeners, step } }: MoveHandleProps) {
  const onKeyDown = (event: KeyboardEvent) => {
    const by = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : undefined
    if (by === undefined || !step) return
    event.preventDefault()
    step(id, by)
  }
  return (
    <button
      type="button"
      ref={setActivator}
      {...listeners}
      data-handle={id}
      aria-label={`Move ${name}: arrow keys, or drag`}
      title="drag it, or press the arrow keys"
      className="flex min-h-8 touch-none cursor-grab items-center px-2 text-soft hover:bg-shallow max-sm:min-h-11 max-sm:px-3"
      onKeyDown={onKeyDown}
    >
      <svg width="8" height="14" viewBox="0 0 8 14" aria-hidden="true" fill="currentColor">
        {[2, 7, 12].flatMap((y) => [1.5, 6.5].map((x) => <circle key={`${x} ${y}`} cx={x} cy={y} r="1.2" />))}
      </svg>
    </button>
  )
}

/** A list in which one thing is put before or after another. */
export function putBeside<T>(list: readonly T[], from: number, over: number, isAfter: boolean): T[] {
  const thing = list[from]
  if (thing === undefined || from === over) return [...list]
  const rest = list.filter((_, i) => i !== from)
  rest.splice((over > from ? over - 1 : over) + (isAfter ? 1 : 0), 0, thing)
  return rest
}

/** A list in which one thing went a step; at an end it stays. */
export function stepped<T>(list: readonly T[], from: number, by: -1 | 1): T[] {
  const to = from + by
  if (to < 0 || to >= list.length) return [...list]
  return putBeside(list, from, to, by === 1)
}

interface MovingListProps<T> {
  list: readonly T[]
  idOf: (thing: T) => string
  nameOf: (id: string) => string
  onChange: (list: T[]) => void
  children: ReactNode
}

/** One list whose order counts. */
export function MovingList<T>({ list, idOf, nameOf, onChange, children }: MovingListProps<T>) {
  const at = (id: string) => list.findIndex((thing) => idOf(thing) === id)
  return (
    <MovingArea
      nameOf={nameOf}
      whereIs={(id) => `${at(id) + 1} of ${list.length}`}
      onStep={(id, by) => {
        onChange(stepped(list, at(id), by))
        return undefined
      }}
      onDrop={(id, over, isAfter) => onChange(putBeside(list, at(id), at(over), isAfter))}
    >
      {children}
    </MovingArea>
  )
}
