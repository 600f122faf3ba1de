import { bySlug, SAFETY_DEFERRAL } from '@conch/core/house'
import { type LoadToMake, type Step, stepsOf } from '@conch/core/service'
import { useMemo } from 'react'
import { useHouse } from '../../app/house.tsx'
import { GlassSection } from '../../graphics/GlassSection.tsx'
import { useGlass } from '../../workers/compute.ts'
import { useLoads } from '../../workers/round.ts'
import type { RailDrink } from '../rail/index.ts'

const POURED: ReadonlySet<Step['kind']> = new Set(['pour', 'soda', 'after', 'float'])
const WHERE: Partial<Record<Step['kind'], string>> = {
  soda: 'in the glass first',
  after: 'in the glass',
  float: 'on top',
}

/** Without what is said above all lines. */
const mindsOf = ({ minds }: Step): string => minds.filter((m) => !m.startsWith('overproof')).join(' · ')

/** One drink, read from two metres: every pour in the order of its making, ice and seconds, glass and garnish. */
export function Card({
  card,
  head,
}: {
  card: RailDrink & { document: NonNullable<RailDrink['document']> }
  /** Which card of which edition it is. */
  head: string
}) {
  const { book, well } = useHouse()
  const { document, name } = card
  const asked = useMemo(() => [{ document, glasses: 1 }], [document])
  const made = useLoads(asked, book, well.slug)?.[0]
  const said = useGlass(document, book, well.slug)
  const steps = useMemo(() => {
    const load: LoadToMake = { id: 'a', name, document, glasses: 1, made, goes: 1 }
    return stepsOf([load], book, well.slug)
  }, [name, document, made, book, well.slug])
  const poured = steps.filter((s) => POURED.has(s.kind))
  const of = (kind: Step['kind']) => steps.find((s) => s.kind === kind)
  const [ice, chill, strain, top] = [of('ice'), of('chill'), of('strain'), of('topIce')]
  const glass = bySlug(book.glasses, document.glassByWell?.[well.slug] ?? document.glass)
  // Said once, above all lines.
  const safety = said?.ok ? said.consequences.filter((c) => c.isSafety) : []
  const each = made && made.goes > 1 ? 'each ' : ''
  const isDark = card.state === 'dark' || card.state === 'off'
  return (
    <article
      // biome-ignore lint/a11y/noNoninteractiveTabindex: on a phone it is longer than the screen, and keys scroll it
      tabIndex={0}
      className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_auto] gap-x-4 overflow-y-auto px-4 py-2 max-sm:grid-cols-1"
    >
      <div className="flex min-w-0 flex-col">
        <p className="text-lg text-soft">{head}</p>
        <h1 className="rail-name break-words">
          {name}
          {document.serves > 1 && <span className="text-3xl text-soft"> for {document.serves}</span>}
        </h1>
        {card.words && <p className={`text-2xl ${isDark ? 'text-stop' : 'text-mind'}`}>{card.words}</p>}
        {safety.length > 0 && (
          <p className="text-xl leading-tight text-mind">
            {safety.map((c) => c.text).join(' · ')} <span className="text-base text-soft">{SAFETY_DEFERRAL}</span>
          </p>
        )}
        <table className="card-lines mt-1" style={{ '--lines': Math.max(5, poured.length) } as React.CSSProperties}>
          <tbody>
            {poured.map((s) => (
              <tr key={s.id} className="align-baseline">
                <td className="card-amount pr-4 text-right whitespace-nowrap" data-amount>
                  {s.amount}
                </td>
                <td className="w-full">
                  {s.name}
                  {WHERE[s.kind] && <span className="text-[0.6em] text-soft"> {WHERE[s.kind]}</span>}
                  {mindsOf(s) && <span className="block text-[0.5em] text-stop">■ {mindsOf(s)}</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <p className="mt-1 text-xl leading-snug">
          {[
            made && made.goes > 1 && `in ${made.goes} goes`,
            chill && `${each}${chill.name} ${chill.amount}`,
            ice && `${ice.amount} ${ice.name}${ice.also ? ` (${ice.also})` : ''}`,
            strain?.name,
            top && `top with ${top.amount} ${top.name}${top.also ? ` (${top.also})` : ''}`,
          ]
            .filter(Boolean)
            .join(' · ')}
        </p>
        <p className="text-xl leading-snug text-soft">
          {glass?.name}
          {document.garnish.length > 0 && ` · ${document.garnish.map((g) => g.text).join(', ')}`}
        </p>
      </div>
      <div className="flex w-60 flex-col items-center justify-center max-sm:hidden">
        {made?.glass && glass && (
          <>
            <GlassSection
              profile={glass.profile}
              stemMm={glass.stemMm}
              glass={made.glass}
              height={360}
              maxWidth={240}
              hasLabels={false}
            />
            <p className="text-xl text-soft">stands at {Math.round(made.glass.fill.washLinePct)} %</p>
          </>
        )}
      </div>
    </article>
  )
}
