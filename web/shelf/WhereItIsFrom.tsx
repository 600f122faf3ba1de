import { ALLERGENS, type Allergen, SAFETY_DEFERRAL } from '@conch/core/house'
import { Field } from '../ui/Field.tsx'
import type { PartOfBottle } from './partOfBottle.ts'

const WORDS = [
  { key: 'style', label: 'Style', most: 80, example: 'aged pot still' },
  { key: 'colour', label: 'Colour', most: 40, example: 'amber' },
  { key: 'base', label: 'Made from', most: 80, example: 'molasses' },
  { key: 'origin', label: 'Origin', most: 80, example: 'the delta' },
] as const

/** What is said of it in words. */
export function WhereItIsFrom({ draft, set }: PartOfBottle) {
  return (
    <div className="grid gap-x-4 sm:grid-cols-2">
      {WORDS.map(({ key, label, most, example }) => (
        <Field key={key} label={label}>
          {(props) => (
            <input
              {...props}
              maxLength={most}
              placeholder={example}
              value={draft[key] ?? ''}
              onChange={(e) => set({ [key]: e.target.value || undefined })}
            />
          )}
        </Field>
      ))}
    </div>
  )
}

/** What a guest may not bear. */
export function Contains({ draft, set }: PartOfBottle) {
  return (
    <div className="mb-3">
      <p className="text-sm font-semibold">Contains</p>
      <div className="flex flex-wrap gap-x-4">
        {ALLERGENS.map((a: Allergen) => (
          <label key={a} className="flex min-h-8 items-center gap-1.5 max-sm:min-h-11">
            <input
              type="checkbox"
              checked={draft.allergens.includes(a)}
              onChange={(e) =>
                set({
                  allergens: e.target.checked ? [...draft.allergens, a] : draft.allergens.filter((x) => x !== a),
                })
              }
            />
            {a}
          </label>
        ))}
      </div>
      <p className="caption">{SAFETY_DEFERRAL}</p>
    </div>
  )
}
