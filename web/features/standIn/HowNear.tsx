import { nameIn } from '@conch/core/house'
import type { StandInAnswer } from '@conch/core/standin'
import { useHouse } from '../../app/house.tsx'
import { StyleLines, stepsText } from '../../graphics/StyleLines.tsx'
import { InTheGlass } from './InTheGlass.tsx'
import type { StandInSearch } from './useStandInSearch.ts'

const exactly = (style: StandInAnswer['style']) =>
  Object.fromEntries(
    Object.entries(style).map(([axis, value]) => [axis, { value, low: value, high: value, tasters: 1 }]),
  )

/** Where it stands beside what is missing, on the lines and off them, and in the glass. */
export function HowNear({ search }: { search: StandInSearch }) {
  const { book } = useHouse()
  const { target, shown, document, effect, seconds } = search
  return (
    <aside aria-label="How near" className="border-hair max-lg:mt-4 max-lg:border-t max-lg:pt-3 lg:border-l lg:pl-5">
      <StyleLines
        target={target.style}
        series={
          shown
            ? [
                {
                  label: shown.parts.map((p) => nameIn(book.ingredients, p.slug)).join(' and '),
                  profile: exactly(shown.style),
                },
              ]
            : []
        }
      />
      {shown && <Distances answer={shown} />}
      {document && effect && <InTheGlass document={document} result={effect} seconds={seconds} />}
    </aside>
  )
}

/** What is not on the lines, in steps each. */
function Distances({ answer }: { answer: StandInAnswer }) {
  const { strength, sugar, acid, colour, price } = answer.distance
  const rows: [string, number | undefined][] = [
    ['strength', strength],
    ['sugar', sugar],
    ['acid', acid],
    ['colour', colour],
    ['dearer by', price],
  ]
  return (
    <table className="mt-2 w-full text-sm" aria-label="Distance of the rest">
      <tbody>
        <tr className="text-soft">
          {rows.map(([label]) => (
            <th key={label} scope="col" className="text-center font-normal">
              {label}
            </th>
          ))}
        </tr>
        <tr>
          {rows.map(([label, steps]) => (
            <td
              key={label}
              className={`text-center ${steps !== undefined && Math.abs(steps) > 1 ? 'font-semibold text-mind' : ''}`}
            >
              {steps === undefined ? '·' : stepsText(steps)}
            </td>
          ))}
        </tr>
      </tbody>
    </table>
  )
}
