import type { AlignedRow, ComparableLine } from '@conch/core/compare'
import { MEASURE_NAMES, MEASURES, type MeasureName, POUR_PARTS } from '@conch/core/drink'
import { VERSION_KINDS } from '@conch/core/lineage'
import { amountText, toFraction } from '@conch/core/measure'
import { Fragment, type ReactNode } from 'react'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { measureText, mlText } from '../../graphics/format.ts'
import { Seal } from '../../graphics/Seal.tsx'
import { Window } from '../../graphics/Window.tsx'
import { specWords } from './specWords.ts'
import type { Sheet, SheetColumn } from './useSheet.ts'

interface SheetTableProps {
  sheet: Sheet
  /** Volumes are of one serve, or of all that is made. */
  serves: 'one' | 'all'
  onLeaveOut: (key: string) => void
  onFirst: (key: string) => void
}

/** Versions as columns: what is poured by what it does, how it is made, and what is in the glass. */
export function SheetTable({ sheet, serves, onLeaveOut, onFirst }: SheetTableProps) {
  const { columns, rows, done, remarks, problems, changed } = sheet
  return (
    <>
      {problems.length > 0 && (
        <ul role="alert" className="mb-2 border-l-4 border-stop pl-3 text-sm">
          {[...new Set(problems)].map((p) => (
            <li key={p}>One of them cannot be counted: {p}</li>
          ))}
        </ul>
      )}
      <div className="overflow-x-auto">
        <table
          className="w-full table-fixed border-collapse text-left"
          style={{ minWidth: `${7 + 11 * columns.length}rem` }}
          aria-label="Versions side by side"
        >
          <Heads {...{ columns, onLeaveOut, onFirst }} />
          {columns.length > 1 && (
            <Section words="what changed most" span={columns.length}>
              <Row label="against the first">
                {columns.map((c, i) => (
                  <Cell key={c.key}>{i === 0 ? <span className="text-soft">·</span> : changed.get(c.key)}</Cell>
                ))}
              </Row>
            </Section>
          )}
          <Section words="what is poured" span={columns.length}>
            <Pours rows={rows} isNarrow={columns.length > 3} />
          </Section>
          <Section words="how it is made" span={columns.length}>
            <Making columns={columns} />
          </Section>
          <Section words="in the glass" span={columns.length}>
            <InTheGlass columns={columns} serves={serves} />
          </Section>
        </table>
      </div>
      {(done.length > 0 || remarks.length > 0) && (
        <section aria-label="How it was counted" className="mt-3 text-sm">
          <ul>
            {remarks.map((r) => (
              <li key={r} className="text-mind">
                {r}
              </li>
            ))}
            {done.map((d) => (
              <li key={`${d.key} ${d.step} ${d.words}`} className="text-soft">
                {titleOf(columns.find((c) => c.key === d.key))}: {d.words}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  )
}

const titleOf = (column: SheetColumn | undefined) => (column ? `${column.name} v${column.version.number}` : '')

function Heads({
  columns,
  onLeaveOut,
  onFirst,
}: Pick<SheetTableProps, 'onLeaveOut' | 'onFirst'> & Pick<Sheet, 'columns'>) {
  return (
    <thead>
      <tr className="align-top">
        <td className="w-28" />
        {columns.map(({ key, version, name, isPoured, isPlanned }, i) => {
          const what = version.label || (version.origin ? VERSION_KINDS[version.origin.kind] : '')
          return (
            <th key={key} scope="col" className="px-2 pb-1 font-normal">
              <Link
                to={`/drinks/${version.drink}?v=${version.number}`}
                className="font-display text-lg font-semibold hover:underline"
              >
                {name}
              </Link>
              <span className="flex flex-wrap items-center gap-x-2">
                v{version.number} {what}
                {isPoured && <Seal title="poured today" />}
                {isPlanned && !isPoured && <span className="border border-ink px-1 text-[11px] leading-4">next</span>}
              </span>
              <span className="caption block">{version.era}</span>
              <span className="no-print flex gap-1">
                {i > 0 && (
                  <button
                    type="button"
                    className="act act-quiet min-h-8 px-1 text-sm max-sm:min-h-11"
                    onClick={() => onFirst(key)}
                  >
                    Make it the first
                  </button>
                )}
                <button
                  type="button"
                  className="act act-quiet min-h-8 px-1 text-sm max-sm:min-h-11"
                  aria-label={`Leave ${name} v${version.number} out`}
                  onClick={() => onLeaveOut(key)}
                >
                  ×
                </button>
              </span>
            </th>
          )
        })}
      </tr>
    </thead>
  )
}

function Section({ words, span, children }: { words: string; span: number; children: ReactNode }) {
  return (
    <tbody>
      <tr>
        <th colSpan={span + 1} scope="rowgroup" className="border-b border-ink pt-3 pb-0.5 text-base">
          {words}
        </th>
      </tr>
      {children}
    </tbody>
  )
}

function Row({ label, children }: { label: string; children: ReactNode }) {
  return (
    <tr className="border-b border-hair/60 align-baseline">
      <th scope="row" className="w-28 py-0.5 pr-2 text-sm font-normal text-soft">
        {label}
      </th>
      {children}
    </tr>
  )
}

const Cell = ({ children }: { children: ReactNode }) => <td className="px-2 py-0.5">{children}</td>

function Pours({ rows, isNarrow }: { rows: readonly AlignedRow[]; isNarrow: boolean }) {
  return rows.map((row, i) => (
    <Row key={i} label={rows[i - 1]?.part === row.part ? '' : POUR_PARTS[row.part]}>
      {row.cells.map((cell, side) => (
        <Cell key={side}>
          {cell ? <Poured line={cell} isNarrow={isNarrow} /> : <span className="text-soft">·</span>}
        </Cell>
      ))}
    </Row>
  ))
}

const INTO = { tin: '', glass: ' in the glass', float: ' floated' } as const

function Poured({ line, isNarrow }: { line: ComparableLine; isNarrow: boolean }) {
  const { kit } = useHouse().book.settings
  const ounces = line.volumeMl / kit.ounceMl
  // An ounce that nobody can pour is not said.
  const inOunces = toFraction(ounces) && amountText({ value: Number(ounces.toFixed(4)), unit: 'oz' })
  return (
    <span
      className={`grid items-baseline gap-x-2 ${isNarrow ? 'grid-cols-[3.800rem_minmax(0,1fr)]' : 'grid-cols-[3.800rem_3.500rem_minmax(0,1fr)]'}`}
    >
      <span className="text-right">
        {mlText(line.volumeMl)}
        {isNarrow && <span className="caption block leading-tight">{line.written ?? inOunces}</span>}
      </span>
      {!isNarrow && <span className="caption text-right">{line.written ?? inOunces}</span>}
      <span>
        {line.name}
        <span className="text-soft">{INTO[line.into]}</span>
      </span>
    </span>
  )
}

function Making({ columns }: { columns: readonly SheetColumn[] }) {
  const { book, well } = useHouse()
  const words = columns.map((c) => specWords(c.version.document, book, well.slug))
  return (
    <>
      <Row label="chill">
        {words.map((w, i) => (
          <Cell key={i}>
            {w.method.map((m, n) => (
              <Fragment key={n}>
                {n > 0 && <br />}
                {m}
              </Fragment>
            ))}
          </Cell>
        ))}
      </Row>
      {(['glass', 'ice', 'garnish'] as const).map((key) =>
        words.every((w) => w[key] === undefined) ? null : (
          <Row key={key} label={key}>
            {words.map((w, i) => (
              <Cell key={i}>{w[key] ?? <span className="text-soft">·</span>}</Cell>
            ))}
          </Row>
        ),
      )}
    </>
  )
}

function InTheGlass({ columns, serves }: { columns: readonly SheetColumn[]; serves: 'one' | 'all' }) {
  return MEASURE_NAMES.map((name) => (
    <Row key={name} label={MEASURES[name].label}>
      {columns.map((c) => (
        <Cell key={c.key}>
          <Measured column={c} name={name} serves={serves} />
        </Cell>
      ))}
    </Row>
  ))
}

function Measured({ column, name, serves }: { column: SheetColumn; name: MeasureName; serves: 'one' | 'all' }) {
  const { answer, version } = column
  if (!answer) return <span className="late text-soft">…</span>
  const predicted = answer.ok ? answer.result.predictions[name] : undefined
  if (!predicted) return <span className="text-soft">·</span>
  const { standard, serves: made } = version.document
  const isShared = name === 'volumeMl' && serves === 'one' && made > 1
  return (
    <span className="flex flex-wrap items-center gap-x-3">
      <span className="w-28 text-right whitespace-nowrap">
        {measureText(name, isShared ? predicted.value / made : predicted.value)}
      </span>
      {isShared ? (
        <span className="caption">of {measureText(name, predicted.value)}</span>
      ) : (
        <Window measure={name} predicted={predicted} band={standard[name]} width={76} height={14} isAlone />
      )}
    </span>
  )
}
