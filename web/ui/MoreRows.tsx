import { useEffect, useRef } from 'react'

interface MoreRowsProps {
  left: number
  isBusy: boolean
  onMore: () => void
}

/** The end of a list that goes on: comes by itself when one scrolls there, or when it is pressed. */
export function MoreRows({ left, isBusy, onMore }: MoreRowsProps) {
  const button = useRef<HTMLButtonElement>(null)
  const more = useRef(onMore)
  more.current = onMore
  useEffect(() => {
    const { current } = button
    if (!current || isBusy || !('IntersectionObserver' in window)) return
    const observer = new IntersectionObserver((entries) => entries.some((e) => e.isIntersecting) && more.current(), {
      rootMargin: '400px',
    })
    observer.observe(current)
    return () => observer.disconnect()
  }, [isBusy])
  return (
    <button ref={button} type="button" className="act mt-3" disabled={isBusy} onClick={onMore}>
      {isBusy ? 'Fetching more …' : `Show more: ${left} are left`}
    </button>
  )
}
