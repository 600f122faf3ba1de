import { dayText } from '@conch/core/calendar'
import type { Figure } from '@conch/core/house'
import { readGrams, readStrength, readSugar } from '@conch/core/reading'
import { useHouse } from '../app/house.tsx'
import { useWho } from '../app/who.ts'
import { ReadField } from '../ui/ReadField.tsx'
import type { PartOfBottle } from './partOfBottle.ts'

const FIGURES = [
  { key: 'abvPct', label: 'Strength', unit: '% ABV, or as 80 proof', read: readStrength },
  { key: 'sugarGPer100Ml', label: 'Sugar', unit: 'g in 100, or as 65 °Bx, 620 g/l', read: readSugar },
  { key: 'acidGPer100Ml', label: 'Acid', unit: 'g in 100, as citric', read: (t: string) => readGrams(t, 100) },
  { key: 'fatGPer100Ml', label: 'Fat', unit: 'g in 100', read: (t: string) => readGrams(t, 100) },
  { key: 'otherGPer100Ml', label: 'Other solids', unit: 'g in 100', read: (t: string) => readGrams(t, 100) },
] as const

/** What is in it, each with how it is known, since when and from whom. */
export function FiguresOfBottle({ draft, mayEdit, set }: PartOfBottle) {
  const { today } = useHouse()
  const who = useWho()
  const setFigure = (key: (typeof FIGURES)[number]['key'], change: Partial<Figure>) => {
    const before: Figure = draft.figures[key] ?? { value: 0, basis: 'label' }
    // Who types a figure knows it.
    const basis = change.value !== undefined && before.basis === 'unknown' ? { basis: 'label' as const } : {}
    set({ figures: { ...draft.figures, [key]: { ...before, ...basis, ...change } } })
  }
  return (
    <table className="mb-3 w-full max-sm:block">
      <tbody className="max-sm:block">
        {FIGURES.map(({ key, label, unit, read }) => {
          const figure = draft.figures[key]
          return (
            <tr
              key={key}
              className="border-b border-hair/60 max-sm:flex max-sm:flex-wrap max-sm:items-baseline max-sm:gap-x-2"
            >
              <th scope="row" className="py-1 text-left text-sm font-semibold max-sm:w-24">
                {label}
              </th>
              <td className="sm:whitespace-nowrap">
                <ReadField
                  label={label}
                  value={figure?.value ?? 0}
                  read={read}
                  isReadOnly={!mayEdit}
                  onChange={(value) => setFigure(key, { value: value ?? 0, on: today, by: who.name })}
                />{' '}
                <span className="text-sm text-soft">{unit}</span>
              </td>
              <td>
                <select
                  className="inplace"
                  aria-label={`How ${label.toLowerCase()} is known`}
                  value={figure?.basis ?? 'label'}
                  onChange={(e) =>
                    setFigure(key, {
                      basis: e.target.value as Figure['basis'],
                      ...(e.target.value === 'unknown' ? { value: 0 } : {}),
                      on: today,
                      by: who.name,
                    })
                  }
                >
                  <option value="measured">measured</option>
                  <option value="label">from the label</option>
                  <option value="assumed">assumed</option>
                  <option value="unknown">not known</option>
                </select>
              </td>
              <td className="caption">{[figure?.on && dayText(figure.on), figure?.by].filter(Boolean).join(', ')}</td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
