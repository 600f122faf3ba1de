import { MEASURE_NAMES, MEASURES } from '@conch/core/drink'
import { keysOf } from '@conch/core/schema/keysOf'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { shownDrinksQuery } from '../../app/queries.ts'
import { measureText } from '../../graphics/format.ts'
import { GlassSection } from '../../graphics/GlassSection.tsx'
import type { ScatterPoint } from '../../graphics/ScatterMap.tsx'
import { SeriesMark, StyleLines } from '../../graphics/StyleLines.tsx'
import { FindOne } from '../../ui/FindOne.tsx'
import { Loading } from '../../ui/States.tsx'
import { Computing } from '../../workers/Computing.tsx'
import { drinkId, pickTwo, versionKeyOf } from './comparedThings.ts'
import { sheetAddress } from './sheetAddress.ts'
import { type Compared, UNITS, useCompared } from './useCompared.ts'
import { useOffered } from './useOffered.ts'

const ScatterMap = lazy(() => import('../../graphics/ScatterMap.tsx'))

const AXES = {
  taste: { words: 'sweet against sour', x: 'sweet', y: 'sour', size: 'strength' },
  strength: { words: 'strength against sweet', x: 'strength', y: 'sweet', size: 'volume' },
  base: { words: 'weight against ester funk of the base', x: 'weight', y: 'funk', size: 'oak' },
} as const
type Axes = keyof typeof AXES

/** So many of the menu until somebody picks. */
const MOST_AT_FIRST = 60

/** Drinks, versions, blends and bottles in one chart; two of them side by side. */
export function ComparePage() {
  const { well } = useHouse()
  const [search, setSearch] = useSearchParams()
  const [axes, setAxes] = useState<Axes>('taste')
  const [typed, setTyped] = useState('')
  const menu = useQuery({ ...shownDrinksQuery(well.slug, { menu: 'yes' }) }).data?.drinks
  const asked = search.get('of')?.split(',').filter(Boolean)
  const ids = asked ?? (menu ?? []).slice(0, MOST_AT_FIRST).map((d) => drinkId(d.drink, d.version ?? undefined))
  // Until somebody picks, the first two stand beside each other.
  const two = search.get('two')?.split(',') ?? ids.slice(0, 2)
  const picked = two.filter((id) => ids.includes(id))
  const show = (of: readonly string[], pair: readonly string[]) =>
    setSearch({ of: of.join(','), two: pair.join(',') }, { replace: true })

  const { compared, isComputing } = useCompared(ids, menu)
  const { groups, isLooking } = useOffered(typed, ids)
  const { x, y, size } = AXES[axes]
  const points: ScatterPoint[] = compared.flatMap(({ id, name, shape, figures: f }) => {
    const [atX, atY, atSize] = [f[x], f[y], f[size]]
    return atX === undefined || atY === undefined || atSize === undefined
      ? []
      : [{ id, name, shape, x: atX, y: atY, size: atSize }]
  })
  const pair = picked.flatMap((id) => compared.find((c) => c.id === id) ?? [])
  return (
    <div className="px-4 pt-4 pb-10">
      <header className="mb-2 flex flex-wrap items-center gap-2">
        <div className="mr-auto">
          <h1 className="text-3xl">Compare</h1>
          <p className="caption">
            {compared.length} in the chart, at the {well.name} · tap two to see them side by side
          </p>
        </div>
        <select
          aria-label="What the chart shows"
          className="field w-auto"
          value={axes}
          onChange={(e) => setAxes(e.target.value as Axes)}
        >
          {keysOf(AXES).map((key) => (
            <option key={key} value={key}>
              {AXES[key].words}
            </option>
          ))}
        </select>
        <FindOne
          label="Find something to compare"
          placeholder="a drink, a version, a blend, a bottle"
          nothing="Nothing of that name."
          align="end"
          groups={groups}
          onWords={setTyped}
          onOpen={() => setTyped('')}
          isLooking={isLooking}
          onPick={(id) => show([...ids, id], pickTwo(picked, id))}
        >
          <button type="button" className="act">
            Put in …
          </button>
        </FindOne>
        {asked && (
          <button type="button" className="act act-quiet" onClick={() => setSearch({}, { replace: true })}>
            All that is poured
          </button>
        )}
      </header>
      {isComputing ? (
        <Computing what="the glasses" />
      ) : (
        <div className="grid gap-x-6 lg:grid-cols-[minmax(0,1fr)_39rem]">
          <div className="min-w-0">
            <Suspense fallback={<Loading what="the chart" />}>
              <ScatterMap
                label={`${compared.length} things by ${AXES[axes].words}`}
                xLabel={`${x}, ${UNITS[x]}`}
                yLabel={`${y}, ${UNITS[y]}`}
                sizeLabel={size}
                points={points}
                picked={picked}
                onPick={(id) => show(ids, pickTwo(picked, id))}
              />
            </Suspense>
            <ul aria-label="In the chart" className="mt-2 flex flex-wrap gap-1">
              {compared.map((c) => (
                <li key={c.id} className="flex border border-hair">
                  <button
                    type="button"
                    aria-pressed={picked.includes(c.id)}
                    className={`min-h-8 px-2 text-sm max-sm:min-h-11 ${picked.includes(c.id) ? 'bg-ink text-paper' : 'hover:bg-shallow'}`}
                    onClick={() => show(ids, pickTwo(picked, c.id))}
                  >
                    {c.name}
                  </button>
                  <button
                    type="button"
                    className="px-1.5 text-soft hover:bg-shallow max-sm:min-h-11"
                    aria-label={`Leave ${c.name} out`}
                    onClick={() =>
                      show(
                        ids.filter((id) => id !== c.id),
                        picked.filter((id) => id !== c.id),
                      )
                    }
                  >
                    ×
                  </button>
                </li>
              ))}
            </ul>
          </div>
          <aside
            aria-label="Side by side"
            className="border-hair max-lg:mt-4 max-lg:border-t max-lg:pt-3 lg:border-l lg:pl-5"
          >
            {pair.length === 0 ? (
              <p className="text-soft">Tap two marks, or two names under the chart.</p>
            ) : (
              <SideBySide two={pair} />
            )}
          </aside>
        </div>
      )}
    </div>
  )
}

/** The other glass, so that both are drawn to one scale. */
function besideOf(other: Compared | undefined) {
  const iceTopMm = other?.glass?.answer.result.glass?.fill.iceTopMm
  return other?.glass && iceTopMm !== undefined ? { ...other.glass.vessel, iceTopMm } : undefined
}

function SideBySide({ two }: { two: readonly Compared[] }) {
  const versions = two.flatMap((c) => versionKeyOf(c.id))
  return (
    <>
      {versions.length > 1 && (
        <p className="mb-2 text-right">
          <Link className="act" to={sheetAddress(versions)}>
            With their pours, on one sheet
          </Link>
        </p>
      )}
      <div className="grid grid-cols-2 gap-4">
        {two.map((c, i) => (
          <div key={c.id} className="min-w-0">
            <h2 className="flex items-center gap-2 text-base">
              <SeriesMark index={i} />{' '}
              <Link to={c.href} className="min-w-0 hover:underline">
                {c.name}
              </Link>
            </h2>
            {c.glass?.answer.result.glass ? (
              <GlassSection
                {...c.glass.vessel}
                glass={c.glass.answer.result.glass}
                height={230}
                maxWidth={280}
                beside={besideOf(two[1 - i])}
              />
            ) : (
              <p className="caption flex h-[200px] items-center justify-center border border-dashed border-hair">
                no glass of its own
              </p>
            )}
          </div>
        ))}
      </div>
      <table className="mt-2 w-full text-right" aria-label="Figures side by side">
        <tbody>
          {two.some((c) => c.glass)
            ? MEASURE_NAMES.map((m) => (
                <tr key={m} className="border-b border-hair/60">
                  <th scope="row" className="text-left text-sm font-normal text-soft">
                    {MEASURES[m].label}
                  </th>
                  {two.map((c) => {
                    const value = c.glass?.answer.result.predictions[m]?.value
                    return <td key={c.id}>{value === undefined ? '·' : measureText(m, value)}</td>
                  })}
                </tr>
              ))
            : (['strength', 'sweet', 'sour'] as const).map((key) => (
                <tr key={key} className="border-b border-hair/60">
                  <th scope="row" className="text-left text-sm font-normal text-soft">
                    {key}
                  </th>
                  {two.map((c) => (
                    <td key={c.id}>
                      {c.figures[key]?.toFixed(key === 'sour' ? 2 : 1)} {UNITS[key]}
                    </td>
                  ))}
                </tr>
              ))}
        </tbody>
      </table>
      <div className="mt-3">
        <p className="mb-1 text-sm text-soft">what they stand on</p>
        <StyleLines series={two.map((c) => ({ label: c.name, profile: c.profile }))} hasLegend={false} />
      </div>
    </>
  )
}
