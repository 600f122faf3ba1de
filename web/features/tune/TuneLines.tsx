import { type DrinkDocument, pourName } from '@conch/core/drink'
import type { HouseBook } from '@conch/core/house'
import { amountText, volumeMlOfAmount } from '@conch/core/measure'
import { mlText } from '../../graphics/format.ts'
import { IngredientPicker } from '../../shelf/IngredientPicker.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import { type TuneState, withLimit } from './tuneState.ts'

interface TuneLinesProps {
  document: DrinkDocument
  book: HouseBook
  state: TuneState
  onChange: (change: Partial<TuneState>) => void
}

/** The lines of the drink: which may move, and how far; and what may be put in besides. */
export function TuneLines({ document, book, state, onChange }: TuneLinesProps) {
  const { kit } = book.settings
  return (
    <section aria-label="What may move">
      <h2 className="border-b border-ink text-lg">What may move</h2>
      <table className="w-full text-left" aria-label="Lines">
        <thead className="caption">
          <tr>
            <th className="font-normal">line</th>
            <th className="w-24 font-normal">now</th>
            <th className="w-20 font-normal">least, ml</th>
            <th className="w-20 font-normal">most, ml</th>
            <th className="w-16 font-normal">locked</th>
          </tr>
        </thead>
        <tbody>
          {document.pours.map((line, index) => {
            const name = pourName(line, book)
            const limits = state.lines[index] ?? {}
            const ml = line.volumeMl ?? (line.amount && volumeMlOfAmount(line.amount, kit, document.partMl)) ?? 0
            const set = (change: typeof limits) => onChange({ lines: withLimit(state.lines, index, change) })
            return (
              <tr key={index} className={`border-b border-hair/60 ${limits.isLocked ? 'text-soft' : ''}`}>
                <td className="py-1 pr-2">{name}</td>
                <td>
                  {mlText(ml)}{' '}
                  {line.amount && line.amount.unit !== 'ml' && (
                    <span className="caption">{amountText({ value: line.amount.value, unit: line.amount.unit })}</span>
                  )}
                </td>
                <td>
                  <NumberField
                    label={`Least of ${name}, ml`}
                    value={limits.leastMl}
                    low={0}
                    high={500}
                    step={5}
                    isReadOnly={limits.isLocked === true}
                    onChange={(leastMl) => set({ leastMl })}
                  />
                </td>
                <td>
                  <NumberField
                    label={`Most of ${name}, ml`}
                    value={limits.mostMl}
                    low={0}
                    high={500}
                    step={5}
                    isReadOnly={limits.isLocked === true}
                    onChange={(mostMl) => set({ mostMl })}
                  />
                </td>
                <td>
                  <label className="flex min-h-9 items-center max-sm:min-h-11">
                    <input
                      type="checkbox"
                      aria-label={`Leave ${name} as it is`}
                      checked={limits.isLocked ?? false}
                      onChange={(e) => set({ isLocked: e.target.checked })}
                    />
                  </label>
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <p className="caption mt-1">Without limits a line moves between half and twice of what it pours.</p>
      <MayAdd book={book} state={state} onChange={onChange} />
      {document.pours.length > 1 && <KeepRatio document={document} book={book} state={state} onChange={onChange} />}
    </section>
  )
}

/** So much at most of something that is put in, in ounces of the house. */
const USUAL_MOST_OZ = 0.25

function MayAdd({ book, state, onChange }: Omit<TuneLinesProps, 'document'>) {
  const { mayAdd } = state
  return (
    <div className="mt-3">
      <p className="flex flex-wrap items-center gap-2 text-sm">
        <span className="text-soft">may be put in, too:</span>
        {mayAdd.length === 0 && <span>nothing</span>}
        {mayAdd.length < 3 && (
          <IngredientPicker
            onPick={(ingredient) =>
              onChange({
                mayAdd: [
                  ...mayAdd.filter((m) => m.ingredient !== ingredient),
                  { ingredient, mostMl: USUAL_MOST_OZ * book.settings.kit.ounceMl },
                ],
              })
            }
          >
            <button type="button" className="act min-h-8 text-sm max-sm:min-h-11">
              Something …
            </button>
          </IngredientPicker>
        )}
      </p>
      <ul>
        {mayAdd.map(({ ingredient, mostMl }, i) => {
          const name = pourName({ ingredient }, book)
          return (
            <li key={ingredient} className="flex flex-wrap items-center gap-2">
              {name}, at most
              <NumberField
                label={`At most so much of ${name}, ml`}
                value={mostMl}
                low={1}
                high={60}
                step={2.5}
                onChange={(ml) => onChange({ mayAdd: mayAdd.map((m, n) => (n === i ? { ...m, mostMl: ml } : m)) })}
              />
              ml
              <button
                type="button"
                className="act act-quiet min-h-8 text-sm max-sm:min-h-11"
                aria-label={`Do not put ${name} in`}
                onClick={() => onChange({ mayAdd: mayAdd.filter((_, n) => n !== i) })}
              >
                ×
              </button>
            </li>
          )
        })}
      </ul>
    </div>
  )
}

/** Two lines that go up and down together. */
function KeepRatio({ document, book, state, onChange }: TuneLinesProps) {
  const { keepRatio } = state
  const choice = (which: 0 | 1, value: number, set: (index: number) => void) => (
    <select
      aria-label={which === 0 ? 'One line' : 'The other line'}
      className="inplace max-w-44"
      value={value}
      onChange={(e) => set(Number(e.target.value))}
    >
      {document.pours.map((line, i) => (
        <option key={i} value={i} disabled={keepRatio?.[1 - which] === i}>
          {pourName(line, book)}
        </option>
      ))}
    </select>
  )
  return (
    <p className="mt-2 flex flex-wrap items-center gap-2 text-sm">
      <label className="flex min-h-8 items-center gap-1.5 max-sm:min-h-11">
        <input
          type="checkbox"
          checked={keepRatio !== undefined}
          onChange={(e) => onChange({ keepRatio: e.target.checked ? [0, 1] : undefined })}
        />
        keep the ratio of
      </label>
      {keepRatio ? (
        <>
          {choice(0, keepRatio[0], (i) => onChange({ keepRatio: [i, keepRatio[1]] }))} to{' '}
          {choice(1, keepRatio[1], (i) => onChange({ keepRatio: [keepRatio[0], i] }))}
        </>
      ) : (
        <span className="text-soft">two lines</span>
      )}
    </p>
  )
}
