import { useSyncExternalStore } from 'react'

/** Widths of a page at which something else has room, px; as in the style sheet. */
export const WIDTHS_PX = { sm: 640, md: 768, lg: 1024, xl: 1280 } as const

const subscribe = (listener: () => void) => {
  window.addEventListener('resize', listener)
  return () => window.removeEventListener('resize', listener)
}

/** Which of these widths the page has; 0 below the first. */
export function useWidth(): number {
  return useSyncExternalStore(subscribe, () =>
    Math.max(0, ...Object.values(WIDTHS_PX).filter((px) => window.innerWidth >= px)),
  )
}
