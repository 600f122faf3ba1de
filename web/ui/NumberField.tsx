import { useEffect, useRef, useState } from 'react'
import { Refusal } from './Refusal.tsx'

export interface NumberFieldProps {
  value: number | undefined
  onChange: (value: number) => void
  label: string
  low: number
  high: number
  step?: number
  digits?: number
  isReadOnly?: boolean
  className?: string
  /** Tell of a change when the field is left, not with every key. */
  isSettling?: boolean
}

/** A number changed where it stands: type it, or arrow up and down. What cannot be stays and says so. */
export function NumberField({
  value,
  onChange,
  label,
  low,
  high,
  step = 1,
  digits = 1,
  isReadOnly,
  isSettling = false,
  className = 'inplace',
}: NumberFieldProps) {
  const shown = value === undefined ? '' : String(Number(value.toFixed(digits)))
  const [text, setText] = useState(shown)
  const [isEditing, setIsEditing] = useState(false)
  const pending = useRef<number>(undefined)
  const tell = (next: number) => {
    if (isSettling) pending.current = next
    else onChange(next)
  }
  useEffect(() => {
    if (!isEditing) setText(shown)
  }, [shown, isEditing])
  const parsed = Number(text.trim().replace(',', '.').replace('−', '-'))
  const isBad = text.trim() === '' ? value !== undefined : !(parsed >= low && parsed <= high)
  if (isReadOnly) return <span>{shown}</span>
  const message = isBad ? `${label}: ${low} to ${high}` : undefined
  return (
    <span className="relative inline-block">
      <input
        inputMode="decimal"
        aria-label={label}
        aria-invalid={isBad}
        title={message}
        value={text}
        className={`${className} text-right ${isBad ? 'text-stop' : ''}`}
        onFocus={(e) => {
          setIsEditing(true)
          e.currentTarget.select()
        }}
        onBlur={() => {
          setIsEditing(false)
          if (pending.current !== undefined && pending.current !== value) onChange(pending.current)
          pending.current = undefined
          setText(shown)
        }}
        onChange={(e) => {
          setText(e.target.value)
          const next = Number(e.target.value.trim().replace(',', '.').replace('−', '-'))
          if (e.target.value.trim() !== '' && next >= low && next <= high) tell(next)
        }}
        onKeyDown={(e) => {
          const direction = e.key === 'ArrowUp' ? 1 : e.key === 'ArrowDown' ? -1 : 0
          if (e.key === 'Enter') e.currentTarget.blur()
          if (direction === 0) return
          e.preventDefault()
          const base = Number.isFinite(parsed) && text.trim() !== '' ? parsed : low
          const next = Math.min(high, Math.max(low, base + direction * step * (e.shiftKey ? 0.2 : 1)))
          const rounded = Number(next.toFixed(3))
          setText(String(rounded))
          tell(rounded)
        }}
      />
      {isBad && isEditing && (
        <Refusal>
          {low} to {high}
        </Refusal>
      )}
    </span>
  )
}
