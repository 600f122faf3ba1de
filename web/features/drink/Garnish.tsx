import type { SpecSheetProps } from './specSheetProps.ts'

/** The finish: each thing on the glass, and whether it is food. */
export function Garnish({ document, onChange }: Pick<SpecSheetProps, 'document' | 'onChange'>) {
  if (!onChange) {
    const words = document.garnish.map((g) => g.text).join(', ')
    return (
      <span>
        {words || <span className="text-soft">none</span>}
        {document.hasFlame && <span className="text-soft"> · with flame</span>}
      </span>
    )
  }
  return (
    <span className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
      {document.garnish.map((g, i) => (
        <span key={i} className="inline-flex max-w-full flex-wrap items-baseline gap-1">
          <input
            className="inplace max-w-full min-w-0"
            aria-label={`Garnish ${i + 1}`}
            size={Math.max(8, g.text.length)}
            maxLength={120}
            value={g.text}
            onChange={(e) =>
              onChange({
                ...document,
                garnish: document.garnish
                  .map((x, n) => (n === i ? { ...x, text: e.target.value } : x))
                  .filter((x) => x.text !== ''),
              })
            }
          />
          <label className="caption flex items-center gap-1">
            <input
              type="checkbox"
              checked={g.isFood}
              onChange={(e) =>
                onChange({
                  ...document,
                  garnish: document.garnish.map((x, n) => (n === i ? { ...x, isFood: e.target.checked } : x)),
                })
              }
            />
            food
          </label>
        </span>
      ))}
      {document.garnish.length < 12 && (
        <button
          type="button"
          className="px-1 text-sm text-soft hover:bg-shallow max-sm:min-h-11"
          onClick={() => onChange({ ...document, garnish: [...document.garnish, { text: 'garnish', isFood: true }] })}
        >
          + garnish
        </button>
      )}
      <label className="caption flex items-center gap-1">
        <input
          type="checkbox"
          checked={document.hasFlame}
          onChange={(e) => onChange({ ...document, hasFlame: e.target.checked })}
        />
        flame
      </label>
    </span>
  )
}
