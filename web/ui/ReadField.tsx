import { Refusal } from './Refusal.tsx'
import { useTyped } from './useTyped.ts'

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
  const { text, isEditing, input, put, leaveOn } = useTyped({
    value,
    shown,
    readKey: (typed) => {
      if (typed.trim() === '') return isOptional ? { value: undefined } : undefined
      const next = read(typed)
      return next.ok ? next : undefined
    },
    onChange,
  })
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
        className={`inplace text-right ${className ?? 'w-24'} ${isBad ? 'text-stop' : ''}`}
        {...input}
        onKeyDown={(e) => {
          const by = e.key === 'ArrowUp' ? step : e.key === 'ArrowDown' && step !== undefined ? -step : undefined
          if (by !== undefined && !e.altKey) {
            e.preventDefault()
            const next = Math.max(0, Number(((value ?? 0) + by).toFixed(3)))
            put(next, String(next))
          }
          if (e.key === 'Enter') e.preventDefault()
          leaveOn(e)
        }}
      />
      {isConverted && result.ok && <span className="caption">= {Number(result.value.toFixed(2))}</span>}
      {isBad && !result.ok && !isEmpty && <Refusal>{result.reason}</Refusal>}
    </span>
  )
}
