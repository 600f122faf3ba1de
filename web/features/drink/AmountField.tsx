import {
  type Amount,
  amountText,
  type MeasureKit,
  nextPourOf,
  readAmount,
  UNITS,
  volumeMlOfAmount,
} from '@conch/core/measure'
import { Refusal } from '../../ui/Refusal.tsx'
import { useTyped } from '../../ui/useTyped.ts'

interface AmountFieldProps {
  amount: Amount
  kit: MeasureKit
  partMl: number | undefined
  label: string
  isReadOnly: boolean
  /** What the house can pour, rising, ml: arrows go from one to the next. */
  gridMl?: readonly number[]
  onChange: (amount: Amount) => void
}

const MOST_ML = 1000

/** Why this amount is not poured, or undefined. */
function amountProblem(amount: Amount, kit: MeasureKit, partMl: number | undefined): string | undefined {
  if (amount.value <= 0) return 'more than 0'
  const ml = volumeMlOfAmount(amount, kit, partMl)
  if (ml === undefined) return 'say how large a part is'
  return ml > MOST_ML ? `${Math.round(ml)} ml; at most ${MOST_ML} ml` : undefined
}

/** An amount as people write it. Type it anew, or arrow up and down by what a jigger pours; with shift by halves of a step. */
export function AmountField({ amount, kit, partMl, label, isReadOnly, gridMl = [], onChange }: AmountFieldProps) {
  const shown = amountText(amount)
  const { text, isEditing, input, put, leaveOn } = useTyped({
    value: amount,
    shown,
    readKey: (typed) => {
      const next = readAmount(typed, amount.unit)
      return next.ok && !amountProblem(next.amount, kit, partMl) ? { value: next.amount } : undefined
    },
    onChange,
  })
  const read = readAmount(text, amount.unit)
  const problem = read.ok ? amountProblem(read.amount, kit, partMl) : read.reason
  const isBad = isEditing && problem !== undefined

  const step = (direction: number, isFine: boolean) => {
    const { step: by } = UNITS[amount.unit]
    const value =
      (isFine ? undefined : nextPourOf(amount, direction, kit, gridMl)) ??
      Math.max(by / 2, amount.value + direction * by * (isFine ? 0.5 : 1))
    const next: Amount = { value: Number(value.toFixed(4)), unit: amount.unit }
    if (amountProblem(next, kit, partMl)) return
    const asWritten = amountText(next)
    put({ ...next, asWritten }, asWritten)
  }
  if (isReadOnly) {
    const written = amount.asWritten && amount.asWritten !== shown ? `written: ${amount.asWritten}` : undefined
    return (
      <span className="frac w-[6.500rem] text-right text-[1.05rem]" title={written} data-amount={label}>
        {shown}
      </span>
    )
  }
  return (
    <span className="relative">
      <input
        aria-label={label}
        aria-invalid={isBad}
        title={amount.asWritten && amount.asWritten !== shown ? `written: ${amount.asWritten}` : undefined}
        className={`inplace frac w-[6.500rem] text-right text-[1.05rem] ${isBad ? 'text-stop' : ''}`}
        {...input}
        onKeyDown={(e) => {
          leaveOn(e)
          if ((e.key !== 'ArrowUp' && e.key !== 'ArrowDown') || e.altKey) return
          e.preventDefault()
          step(e.key === 'ArrowUp' ? 1 : -1, e.shiftKey)
        }}
      />
      {isBad && <Refusal>{problem}</Refusal>}
    </span>
  )
}
