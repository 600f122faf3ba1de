import { useEffect, useRef, useState } from 'react'

/** What each mark means, for whoever has not met it. Anything with `data-mark` explains itself. */
export const MARKS = {
  seal: 'The seal: this is what is poured now, by the newest edition.',
  window:
    'A window: the band is the standard, the upright mark is what the glass would be, the line through it how sure that is. An arrow: beyond the picture.',
  ghost: 'A dotted ring or outline: what it was before, or what the edition locked.',
  about: '≈ is only assumed: nobody has measured it and no label says it. Measure it, and the mark goes.',
  sealed: 'Sealed: only a manager may open what is in it; it is poured under its code name.',
} as const
export type Mark = keyof typeof MARKS

const LONG_PRESS_MS = 450
/** How long a hand rests on a mark before it says what it is. */
const REST_MS = 350
const WIDTH_PX = 288
const GAP_PX = 8

interface Shown {
  /** What it says itself, then what such a mark means. */
  own: string
  text: string
  left: number
  top: number
  isAbove: boolean
}

function explain(element: Element): Shown | undefined {
  const meaning = MARKS[element.getAttribute('data-mark') as Mark]
  if (!meaning) return undefined
  const box = element.getBoundingClientRect()
  const isAbove = box.top > window.innerHeight / 2
  return {
    own: element.getAttribute('aria-label') ?? element.getAttribute('data-says') ?? '',
    text: meaning,
    left: Math.max(GAP_PX, Math.min(box.left, window.innerWidth - WIDTH_PX - GAP_PX)),
    top: isAbove ? box.top - GAP_PX : box.bottom + GAP_PX,
    isAbove,
  }
}

const markOf = (target: EventTarget | null) => (target instanceof Element ? target.closest('[data-mark]') : null)

/** The mark of what has the focus: its own, one in it, or, of a line of a list, one in that line. */
const markAt = (target: Element) =>
  markOf(target) ??
  target.querySelector('[data-mark]') ??
  (target.matches('[data-row]') ? target.closest('tr')?.querySelector('[data-mark]') : null)

/** Says what a mark means: on hover, when it or its line has the focus, and on a long press. One for all marks of the page. */
export function Marks() {
  const [shown, setShown] = useState<Shown>()
  const timer = useRef<number>(undefined)
  useEffect(() => {
    const soon = (element: Element, ms: number) => {
      clearTimeout(timer.current)
      timer.current = window.setTimeout(() => setShown(explain(element)), ms)
    }
    const hide = () => {
      clearTimeout(timer.current)
      setShown(undefined)
    }
    let pressed = false
    const on: { [K in keyof DocumentEventMap]?: (event: DocumentEventMap[K]) => void } = {
      pointerover: (e) => {
        const mark = markOf(e.target)
        if (e.pointerType === 'mouse') mark ? soon(mark, REST_MS) : hide()
      },
      pointerdown: (e) => {
        hide()
        pressed = false
        const mark = markOf(e.target)
        if (e.pointerType === 'mouse' || !mark) return
        clearTimeout(timer.current)
        timer.current = window.setTimeout(() => {
          pressed = true
          setShown(explain(mark))
        }, LONG_PRESS_MS)
      },
      pointerup: () => clearTimeout(timer.current),
      pointercancel: hide,
      // A long press asks what it is; it does not also open the line.
      click: (e) => {
        if (!pressed) return
        pressed = false
        e.preventDefault()
        e.stopPropagation()
      },
      contextmenu: (e) => {
        if (pressed) e.preventDefault()
      },
      focusin: (e) => {
        const mark = e.target instanceof Element && e.target.matches(':focus-visible') ? markAt(e.target) : null
        mark ? soon(mark, REST_MS) : hide()
      },
      keydown: (e) => {
        if (e.key === 'Escape') hide()
      },
      scroll: hide,
    }
    const all = Object.entries(on) as [string, EventListener][]
    for (const [name, listener] of all) document.addEventListener(name, listener, true)
    return () => {
      clearTimeout(timer.current)
      for (const [name, listener] of all) document.removeEventListener(name, listener, true)
    }
  }, [])
  if (!shown) return null
  return (
    <div
      role="tooltip"
      className="no-print pointer-events-none fixed z-50 border border-ink bg-paper px-3 py-2 text-sm"
      style={{
        width: WIDTH_PX,
        left: shown.left,
        top: shown.top,
        ...(shown.isAbove ? { transform: 'translateY(-100%)' } : {}),
      }}
    >
      {shown.own && <p className="font-semibold first-letter:uppercase">{shown.own}</p>}
      <p>{shown.text}</p>
    </div>
  )
}
