import { type ReactNode, useLayoutEffect, useRef } from 'react'

/** Keeps the room of what was here while the next is on its way, so that nothing under it jumps. */
export function KeepsRoom({ isWaiting, children }: { isWaiting: boolean; children: ReactNode }) {
  const room = useRef<HTMLDivElement>(null)
  const heightPx = useRef(0)
  useLayoutEffect(() => {
    if (!isWaiting) heightPx.current = room.current?.offsetHeight ?? 0
  })
  return (
    <div ref={room} style={isWaiting ? { minHeight: heightPx.current } : undefined}>
      {children}
    </div>
  )
}
