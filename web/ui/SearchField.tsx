import { useEffect, useRef, useState } from 'react'

interface SearchFieldProps {
  label: string
  /** What stands there while it is empty; left out: the label. */
  hint?: string
  value: string
  /** How long one waits for the next letter, ms. */
  waitMs: number
  onChange: (words: string) => void
  /** Arrow down: on to what was found. */
  onDown?: () => void
}

/** Words to look for: told when nobody has typed for a moment. */
export function SearchField({ label, hint = label, value, waitMs, onChange, onDown }: SearchFieldProps) {
  const [typed, setTyped] = useState(value)
  const told = useRef(value)
  const tell = useRef(onChange)
  tell.current = onChange
  // Another address, by a link or the way back.
  useEffect(() => {
    if (value !== told.current) setTyped(value)
    told.current = value
  }, [value])
  useEffect(() => {
    if (typed === told.current) return
    const timer = setTimeout(() => {
      told.current = typed
      tell.current(typed)
    }, waitMs)
    return () => clearTimeout(timer)
  }, [typed, waitMs])
  return (
    <input
      type="search"
      aria-label={label}
      placeholder={hint}
      className="field max-w-60 max-sm:max-w-none max-sm:basis-full"
      value={typed}
      onChange={(e) => setTyped(e.target.value)}
      onKeyDown={(e) => {
        if (e.key !== 'ArrowDown' || !onDown) return
        e.preventDefault()
        onDown()
      }}
    />
  )
}
