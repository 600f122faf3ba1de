import { type ChangeEvent, type FocusEvent, type KeyboardEvent, useEffect, useRef, useState } from 'react'

interface Typing<T> {
  /** What stands there now. */
  value: T
  /** It as text, when nobody types. */
  shown: string
  /** What counts with this key already; undefined: nothing that counts. */
  readKey: (text: string) => { value: T } | undefined
  onChange: (value: T) => void
  /** When the field is left, but by Escape: for what is not worked out with every key. */
  onLeave?: (text: string) => void
}

/**
 * A value typed where it stands. What is typed counts with every key; where it does not count, what stood there before one
 * began to type does: "2" on the way to "2 scoops" is not two grams, when nobody can say what a scoop is. Escape gives that back, too.
 */
export function useTyped<T>({ value, shown, readKey, onChange, onLeave }: Typing<T>) {
  const [text, setText] = useState(shown)
  const [isEditing, setIsEditing] = useState(false)
  const entered = useRef(value)
  /** What was told last: what is typed next may come before the page has drawn it. */
  const told = useRef(value)
  const tell = (next: T) => {
    if (Object.is(next, told.current)) return
    told.current = next
    onChange(next)
  }
  useEffect(() => {
    if (!isEditing) setText(shown)
  }, [shown, isEditing])
  const isGivingUp = useRef(false)
  const put = (next: T, words: string) => {
    setText(words)
    tell(next)
  }
  return {
    text,
    isEditing,
    /** Steps to another value, as an arrow key does. */
    put,
    input: {
      value: isEditing ? text : shown,
      onFocus: (e: FocusEvent<HTMLInputElement>) => {
        entered.current = value
        told.current = value
        setText(shown)
        setIsEditing(true)
        e.currentTarget.select()
      },
      onBlur: () => {
        setIsEditing(false)
        if (!isGivingUp.current) onLeave?.(text)
        isGivingUp.current = false
      },
      onChange: (e: ChangeEvent<HTMLInputElement>) => {
        setText(e.target.value)
        const read = readKey(e.target.value)
        tell(read ? read.value : entered.current)
      },
    },
    /** Enter leaves, Escape leaves with what stood there before. */
    leaveOn: (e: KeyboardEvent<HTMLInputElement>) => {
      if (e.key !== 'Enter' && e.key !== 'Escape') return
      if (e.key === 'Escape') {
        isGivingUp.current = true
        tell(entered.current)
      }
      e.currentTarget.blur()
    },
  }
}
