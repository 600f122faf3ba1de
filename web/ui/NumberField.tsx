import { useRef } from 'react'
import { Refusal } from './Refusal.tsx'
import { useTyped } from './useTyped.ts'

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

const toNumber = (text: string) => Number(text.trim().replace(',', '.').replace('−', '-'))

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
  const pending = useRef<number>(undefined)
  const { text, isEditing, input, put, leaveOn } = useTyped({
    value,
    shown,
    readKey: (typed) => {
      const next = toNumber(typed)
      return typed.trim() !== '' && next >= low && next <= high ? { value: next } : undefined
    },
    onChange: (next) => {
      if (isSettling) pending.current = next === value ? undefined : next
      else if (next !== undefined) onChange(next)
    },
    onLeave: () => {
      if (pending.current !== undefined) onChange(pending.current)
      pending.current = undefined
    },
  })
  const parsed = toNumber(text)
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
        className={`${className} text-right ${isBad ? 'text-stop' : ''}`}
        {...input}
        onKeyDown={(e) => {
          const direction = e.key === 'ArrowUp' ? 1 : e.key === 'ArrowDown' ? -1 : 0
          leaveOn(e)
          if (direction === 0) return
          e.preventDefault()
          const base = Number.isFinite(parsed) && text.trim() !== '' ? parsed : low
          const next = Math.min(high, Math.max(low, base + direction * step * (e.shiftKey ? 0.2 : 1)))
          const rounded = Number(next.toFixed(3))
          put(rounded, String(rounded))
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
