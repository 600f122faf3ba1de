import { useWindowVirtualizer } from '@tanstack/react-virtual'
import { type ReactNode, useLayoutEffect, useRef, useState } from 'react'

interface VirtualRowsProps {
  /** What the list is of, for whoever hears it. */
  label: string
  count: number
  /** How high a row is, about, px. */
  rowPx: number
  /** Told which rows are to be seen, so that they can be fetched. */
  onRange: (first: number, last: number) => void
  row: (index: number) => ReactNode
}

/** Rows before and after the visible ones that are drawn, too. */
const OVERSCAN = 12

/** A long list of which only what is to be seen is drawn; it scrolls with the page. */
export function VirtualRows({ label, count, rowPx, onRange, row }: VirtualRowsProps) {
  const list = useRef<HTMLUListElement>(null)
  const [marginPx, setMarginPx] = useState(0)
  useLayoutEffect(() => setMarginPx(list.current?.offsetTop ?? 0), [])
  const virtual = useWindowVirtualizer({
    count,
    estimateSize: () => rowPx,
    overscan: OVERSCAN,
    scrollMargin: marginPx,
  })
  const items = virtual.getVirtualItems()
  const [first, last] = [items[0]?.index ?? 0, items.at(-1)?.index ?? 0]
  useLayoutEffect(() => onRange(first, last), [first, last, onRange])
  return (
    <ul ref={list} aria-label={label} className="relative max-w-4xl" style={{ height: virtual.getTotalSize() }}>
      {items.map((item) => (
        <li
          key={item.key}
          ref={virtual.measureElement}
          data-index={item.index}
          aria-setsize={count}
          aria-posinset={item.index + 1}
          className="absolute inset-x-0 top-0 border-b border-hair/60"
          style={{ transform: `translateY(${item.start - marginPx}px)` }}
        >
          {row(item.index)}
        </li>
      ))}
    </ul>
  )
}
