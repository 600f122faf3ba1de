import type { IceFill, IceKind, IcePortion } from '@conch/core/cold'
import { DEFAULT_KIT } from '@conch/core/measure'
import { readIce } from '@conch/core/reading'
import { useEffect, useState } from 'react'
import { Refusal } from '../../ui/Refusal.tsx'
import type { IceContextOf } from './iceContext.ts'

const STEP_G = 10
const MOST_G = 2000

/** An amount of ice as bars say it: grams, scoops, cups, pieces, or "to the line". What it comes to in grams stands there. */
export function IceAmount({
  portion,
  label,
  context,
  onChange,
}: {
  portion: IcePortion
  label: string
  context: IceContextOf | undefined
  onChange: (next: Pick<IcePortion, 'massG' | 'asWritten' | 'fill'>) => void
}) {
  const shown = String(Math.round(portion.massG))
  const [text, setText] = useState(shown)
  const [isEditing, setIsEditing] = useState(false)
  useEffect(() => {
    if (!isEditing) setText(shown)
  }, [shown, isEditing])
  const read = readAmount(text, portion.kind, context)
  const isBad = isEditing && !read.ok
  const take = (massG: number, asWritten?: string, fill?: IceFill) => onChange({ massG, asWritten, fill })
  const settle = () => {
    setIsEditing(false)
    if (read.ok && text.trim() !== shown) take(read.massG, read.asWritten, read.fill)
  }
  return (
    <span className="relative inline-block">
      <input
        aria-label={label}
        aria-invalid={isBad}
        value={text}
        title="180, 2 scoops, 1½ cups, to the line, half the glass"
        className={`inplace text-right ${isBad ? 'text-stop' : ''}`}
        size={Math.max(4, text.length)}
        onFocus={(e) => {
          setIsEditing(true)
          e.currentTarget.select()
        }}
        onBlur={settle}
        onChange={(e) => {
          setText(e.target.value)
          const next = readAmount(e.target.value, portion.kind, undefined)
          // Plain grams count with every key; what has to be solved when the field is left.
          if (next.ok && next.asWritten === undefined) take(next.massG)
        }}
        onKeyDown={(e) => {
          if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur()
          if ((e.key !== 'ArrowUp' && e.key !== 'ArrowDown') || e.altKey) return
          e.preventDefault()
          const massG = Math.min(MOST_G, Math.max(0, portion.massG + (e.key === 'ArrowUp' ? STEP_G : -STEP_G)))
          setText(String(massG))
          take(massG)
        }}
      />
      {isBad && <Refusal>{read.ok ? '' : read.reason}</Refusal>}
    </span>
  )
}

type Grams = { ok: true; massG: number; asWritten?: string; fill?: IceFill } | { ok: false; reason: string }

function readAmount(text: string, kind: IceKind, context: IceContextOf | undefined): Grams {
  const plain = Number(text.trim().replace(',', '.').replace(/\s*g$/, ''))
  if (text.trim() !== '' && Number.isFinite(plain))
    return plain >= 0 && plain <= MOST_G
      ? { ok: true, massG: plain }
      : { ok: false, reason: `${text.trim()} g; 0 to ${MOST_G} g` }
  const read = readIce(text, kind, { kit: context?.kit ?? DEFAULT_KIT, scoops: context?.scoops ?? [] })
  if (!read.ok) return read
  if ('massG' in read) return { ok: true, massG: read.massG, asWritten: read.asWritten }
  const filled = context?.fill?.(kind, read.fill)
  if (!filled) return { ok: false, reason: 'to the line is for ice in the glass; write grams, scoops or cups here' }
  return filled.ok ? { ok: true, massG: filled.massG, asWritten: read.asWritten, fill: read.fill } : filled
}
