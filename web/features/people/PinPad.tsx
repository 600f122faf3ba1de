import { PIN_DIGITS } from '@conch/contract'
import { useEffect, useRef, useState } from 'react'

const DIGITS = ['1', '2', '3', '4', '5', '6', '7', '8', '9'] as const

interface PinPadProps {
  /** What the PIN is for, read out. */
  label: string
  /** Says it; what it throws is shown, and the digits go. */
  onPin: (pin: string) => Promise<unknown>
}

/** Digits large enough for wet hands; a keyboard's digits go in, too. The last one sends. */
export function PinPad({ label, onPin }: PinPadProps) {
  const [pin, setPin] = useState('')
  const [problem, setProblem] = useState<string>()
  const [isBusy, setBusy] = useState(false)
  const pad = useRef<HTMLFieldSetElement>(null)
  useEffect(() => pad.current?.focus(), [])
  const add = (digit: string) => {
    if (isBusy || pin.length >= PIN_DIGITS) return
    const next = pin + digit
    setPin(next)
    setProblem(undefined)
    if (next.length < PIN_DIGITS) return
    setBusy(true)
    onPin(next)
      .catch((error: Error) => setProblem(error.message))
      .finally(() => {
        setPin('')
        setBusy(false)
      })
  }
  const back = () => setPin((p) => p.slice(0, -1))
  const key =
    'min-h-14 border border-hair font-display text-2xl active:bg-shallow pointer-fine:hover:bg-shoal disabled:opacity-50'
  return (
    <fieldset
      ref={pad}
      tabIndex={-1}
      aria-label={label}
      className="w-full max-w-72 outline-none"
      onKeyDown={(e) => {
        if (/^\d$/.test(e.key)) add(e.key)
        else if (e.key === 'Backspace') back()
        else return
        e.preventDefault()
      }}
    >
      <p className="mb-3 flex h-8 items-end gap-4" role="status" aria-label={`${pin.length} of ${PIN_DIGITS} digits`}>
        {Array.from({ length: PIN_DIGITS }, (_, i) => (
          <span key={i} className={`w-10 border-b-2 ${i < pin.length ? 'h-7 border-ink bg-ink' : 'h-7 border-hair'}`} />
        ))}
      </p>
      <div className="grid grid-cols-3 gap-2">
        {DIGITS.map((d) => (
          <button key={d} type="button" className={key} disabled={isBusy} onClick={() => add(d)}>
            {d}
          </button>
        ))}
        <span />
        <button type="button" className={key} disabled={isBusy} onClick={() => add('0')}>
          0
        </button>
        <button
          type="button"
          className={`${key} text-base`}
          disabled={isBusy || pin === ''}
          onClick={back}
          aria-label="Take the last digit back"
        >
          back
        </button>
      </div>
      <p role="alert" className="mt-2 min-h-6 text-stop">
        {problem}
      </p>
    </fieldset>
  )
}
