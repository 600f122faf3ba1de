import { ICE_KINDS, type IceKind } from '@conch/core/cold'
import { keysOf } from '@conch/core/schema/keysOf'
import { RANGES } from '@conch/core/schema/ranges'
import { toast } from 'sonner'
import { useScaleReading } from '../../devices/useTray.ts'
import { NumberField } from '../../ui/NumberField.tsx'
import type { WellProps } from './wellProps.ts'

/** The scoops of a well, and what each holds when it is struck off level. */
export function Scoops({ well, mayEdit, put }: WellProps) {
  const readingG = useScaleReading()
  const scoops = well.scoops ?? []
  const change = (i: number, to: Partial<(typeof scoops)[number]>) =>
    put({ scoops: scoops.map((s, n) => (n === i ? { ...s, ...to } : s)) })
  return (
    <section aria-label="Scoops">
      <h2 className="border-b border-ink text-lg">Scoops</h2>
      {scoops.length === 0 && <p className="py-2 text-soft">None yet: amounts of ice are shown in grams.</p>}
      <ul>
        {scoops.map((s, i) => (
          <li key={i} className="flex flex-wrap items-baseline gap-x-3 border-b border-hair/60 py-1 text-sm">
            <input
              aria-label={`Name of scoop ${i + 1}`}
              className="inplace w-40"
              maxLength={120}
              readOnly={!mayEdit}
              defaultValue={s.name}
              onBlur={(e) => {
                const name = e.target.value.trim()
                if (name && name !== s.name) void change(i, { name })
                else e.target.value = s.name
              }}
            />
            <select
              aria-label={`Ice of ${s.name}`}
              disabled={!mayEdit}
              className="inplace"
              value={s.kind}
              onChange={(e) => void change(i, { kind: e.target.value as IceKind })}
            >
              {keysOf(ICE_KINDS).map((k) => (
                <option key={k} value={k}>
                  {ICE_KINDS[k].label}
                </option>
              ))}
            </select>
            <span className="mr-auto">
              <NumberField
                label={`${s.name} holds`}
                value={s.massG}
                {...RANGES.scoopG}
                step={5}
                digits={0}
                isReadOnly={!mayEdit}
                isSettling
                onChange={(massG) => void change(i, { massG })}
              />{' '}
              g
            </span>
            {mayEdit && (
              <>
                <button
                  type="button"
                  className="act act-quiet text-sm max-sm:min-h-11"
                  aria-label={`Weigh ${s.name}`}
                  onClick={() => {
                    if (readingG <= 0) toast('Put a struck scoop of ice on the scale, or open the devices (d).')
                    else void change(i, { massG: readingG })
                  }}
                >
                  {readingG > 0 ? `${readingG} g: take it` : 'from the scale'}
                </button>
                <button
                  type="button"
                  className="px-1 text-soft"
                  aria-label={`Without ${s.name}`}
                  onClick={() => void put({ scoops: scoops.filter((_, n) => n !== i) })}
                >
                  ×
                </button>
              </>
            )}
          </li>
        ))}
      </ul>
      {mayEdit && scoops.length < 12 && (
        <button
          type="button"
          className="act act-quiet mt-1"
          onClick={() =>
            void put({ scoops: [...scoops, { name: `scoop ${scoops.length + 1}`, kind: 'crushed', massG: 100 }] })
          }
        >
          Add a scoop
        </button>
      )}
    </section>
  )
}
