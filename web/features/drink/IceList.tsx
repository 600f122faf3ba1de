import { ICE_KINDS, type IceKind, type IcePortion } from '@conch/core/cold'
import { keysOf } from '@conch/core/schema/keysOf'
import { addPortion } from './edits.ts'
import { IceAmount } from './IceAmount.tsx'
import type { IceContextOf } from './iceContext.ts'

/** Portions of ice, each with its grams and kind. */
export function IceList({
  ice,
  label,
  context,
  onChange,
}: {
  ice: IcePortion[]
  label: string
  /** How amounts are read as bars say them; left out: in grams. */
  context?: IceContextOf
  onChange?: ((ice: IcePortion[]) => void) | undefined
}) {
  const replace = (index: number, portion: Partial<IcePortion>) =>
    onChange?.(ice.map((p, i) => (i === index ? { ...p, ...portion } : p)))
  return (
    <span className="inline-flex flex-wrap items-baseline gap-x-1">
      {ice.map((p, i) => (
        <span key={p.kind} className="inline-flex items-baseline gap-1">
          {i > 0 && <span className="text-soft">+</span>}
          {onChange ? (
            <IceAmount
              portion={p}
              label={`Grams of ${ICE_KINDS[p.kind].label}, ${label}`}
              context={context}
              onChange={(amount) => replace(i, amount)}
            />
          ) : (
            <span>{Math.round(p.massG)}</span>
          )}
          <span>g</span>
          {p.asWritten && <span className="caption">({p.asWritten})</span>}
          {onChange ? (
            <select
              aria-label={`Kind of ${label}`}
              className="inplace"
              value={p.kind}
              onChange={(e) => replace(i, { kind: e.target.value as IceKind, asWritten: undefined, fill: undefined })}
            >
              {keysOf(ICE_KINDS).map((k) => (
                <option key={k} value={k}>
                  {ICE_KINDS[k].label}
                </option>
              ))}
            </select>
          ) : (
            <span>{ICE_KINDS[p.kind].label}</span>
          )}
          {onChange && (
            <button
              type="button"
              className="px-1 text-soft hover:bg-shallow max-sm:min-h-11 max-sm:min-w-11"
              aria-label={`Without ${ICE_KINDS[p.kind].label}`}
              onClick={() => onChange(ice.filter((_, n) => n !== i))}
            >
              ×
            </button>
          )}
          {onChange && <NotFilled portion={p} context={context} />}
        </span>
      ))}
      {onChange && ice.length < 4 && (
        <button
          type="button"
          className="px-1 text-sm text-soft hover:bg-shallow max-sm:min-h-11"
          onClick={() => onChange(addPortion(ice))}
        >
          + {label}
        </button>
      )}
    </span>
  )
}

/** Why ice that is to fill the glass does not. */
function NotFilled({ portion, context }: { portion: IcePortion; context: IceContextOf | undefined }) {
  const filled = portion.fill && context?.fill?.(portion.kind, portion.fill)
  return filled && !filled.ok ? <span className="text-sm text-mind">{filled.reason}</span> : null
}
