import type { IceKind, IcePortion } from '@conch/core/cold'
import { DEFAULT_KIT } from '@conch/core/measure'
import { readIce } from '@conch/core/reading'
import { Refusal } from '../../ui/Refusal.tsx'
import { useTyped } from '../../ui/useTyped.ts'
import type { IceContextOf } from './iceContext.ts'

const STEP_G = 10
const MOST_G = 2000

/** So much ice, and how it was said. */
type HowMuch = Pick<IcePortion, 'massG' | 'asWritten' | 'fill'>

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
  onChange: (next: HowMuch) => void
}) {
  const take = ({ massG, asWritten, fill }: HowMuch) => onChange({ massG, asWritten, fill })
  const { text, isEditing, input, put, leaveOn } = useTyped<HowMuch>({
    value: portion,
    shown: String(Math.round(portion.massG)),
    // Plain grams count with every key; what has to be worked out, when the field is left.
    readKey: (typed) => {
      const plain = plainGrams(typed)
      return plain?.ok ? { value: plain.value } : undefined
    },
    onChange: take,
    onLeave: (typed) => {
      const left = plainGrams(typed) ? undefined : readAmount(typed, portion.kind, context)
      if (left?.ok) take(left.value)
    },
  })
  const read = readAmount(text, portion.kind, context)
  const isBad = isEditing && !read.ok
  return (
    <span className="relative inline-block">
      <input
        aria-label={label}
        aria-invalid={isBad}
        title="180, 2 scoops, 1½ cups, to the line, half the glass"
        className={`inplace text-right ${isBad ? 'text-stop' : ''}`}
        size={Math.max(4, text.length)}
        {...input}
        onKeyDown={(e) => {
          leaveOn(e)
          if ((e.key !== 'ArrowUp' && e.key !== 'ArrowDown') || e.altKey) return
          e.preventDefault()
          const massG = Math.min(MOST_G, Math.max(0, portion.massG + (e.key === 'ArrowUp' ? STEP_G : -STEP_G)))
          put({ massG }, String(massG))
        }}
      />
      {isBad && <Refusal>{read.reason}</Refusal>}
    </span>
  )
}

type Read = { ok: true; value: HowMuch } | { ok: false; reason: string }

/** "180", "180 g"; undefined for what is said otherwise. */
function plainGrams(text: string): Read | undefined {
  const massG = Number(text.trim().replace(',', '.').replace(/\s*g$/, ''))
  if (text.trim() === '' || !Number.isFinite(massG)) return undefined
  return massG >= 0 && massG <= MOST_G
    ? { ok: true, value: { massG } }
    : { ok: false, reason: `${text.trim()} g; 0 to ${MOST_G} g` }
}

function readAmount(text: string, kind: IceKind, context: IceContextOf | undefined): Read {
  const plain = plainGrams(text)
  if (plain) return plain
  const read = readIce(text, kind, { kit: context?.kit ?? DEFAULT_KIT, scoops: context?.scoops ?? [] })
  if (!read.ok) return read
  const { asWritten } = read
  if ('massG' in read) return { ok: true, value: { massG: read.massG, asWritten } }
  const filled = context?.fill?.(kind, read.fill)
  if (!filled) return { ok: false, reason: 'to the line is for ice in the glass; write grams, scoops or cups here' }
  return filled.ok ? { ok: true, value: { massG: filled.massG, asWritten, fill: read.fill } } : filled
}
