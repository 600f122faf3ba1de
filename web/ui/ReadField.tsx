import { useEffect, useState } from 'react'
import { Refusal } from './Refusal.tsx'

interface ReadFieldProps {
  label: string
  /** Undefined: nothing is known. */
  value: number | undefined
  /** Reads what is typed, as people write it. */
  read: (text: string) => { ok: true; value: number } | { ok: false; reason: string }
  onChange: (value: number | undefined) => void
  isReadOnly?: boolean
  /** What an arrow key adds; left out: arrows do nothing. */
  step?: number
  /** May be left empty. */
  isOptional?: boolean
  className?: string
}

/** A figure typed as it stands on the label; what it comes to stands beside it, what it cannot be under it. */
export function ReadField({ label, value, read, onChange, isReadOnly, isOptional, step, className }: ReadFieldProps) {
  const shown = value === undefined ? '' : String(Number(value.toFixed(3)))
  const [text, setText] = useState(shown)
  const [isEditing, setIsEditing] = useState(false)
  useEffect(() => {
    if (!isEditing) setText(shown)
  }, [shown, isEditing])
  const result = read(text)
  const isEmpty = text.trim() === ''
  const isBad = isEditing && (isEmpty ? !isOptional : !result.ok)
  if (isReadOnly) return <span>{shown || '·'}</span>
  const isConverted = isEditing && result.ok && !isEmpty && !/^\d+(?:[.,]\d+)?$/.test(text.trim())
  return (
    <span className="relative inline-flex items-baseline gap-1">
      <input
        aria-label={label}
        aria-invalid={isBad}
        value={text}
        className={`inplace text-right ${className ?? 'w-24'} ${isBad ? 'text-stop' : ''}`}
        onFocus={(e) => {
          setIsEditing(true)
          e.currentTarget.select()
        }}
        onBlur={() => setIsEditing(false)}
        onKeyDown={(e) => {
          const by = e.key === 'ArrowUp' ? step : e.key === 'ArrowDown' && step !== undefined ? -step : undefined
          if (by !== undefined && !e.altKey) {
            e.preventDefault()
            const next = Math.max(0, Number(((value ?? 0) + by).toFixed(3)))
            setText(String(next))
            onChange(next)
          }
          if (e.key !== 'Enter') return
          e.preventDefault()
          e.currentTarget.blur()
        }}
        onChange={(e) => {
          setText(e.target.value)
          if (e.target.value.trim() === '') {
            if (isOptional) onChange(undefined)
            return
          }
          const next = read(e.target.value)
          if (next.ok) onChange(next.value)
        }}
      />
      {isConverted && result.ok && <span className="caption">= {Number(result.value.toFixed(2))}</span>}
      {isBad && !result.ok && !isEmpty && <Refusal>{result.reason}</Refusal>}
    </span>
  )
}
