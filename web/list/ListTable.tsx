import { columnVisibilityFeature, createColumnHelper, tableFeatures, useTable } from '@tanstack/react-table'
import { useWindowVirtualizer } from '@tanstack/react-virtual'
import { type KeyboardEvent, type ReactNode, useLayoutEffect, useMemo, useRef, useState } from 'react'
import { Link } from 'react-router'
import type { ListColumn } from './columns.ts'
import type { Rows } from './useRows.ts'

/** Rows before and after the visible ones that are drawn, too. */
const OVERSCAN = 12
/** How many pictures one waits until a row that was scrolled to is drawn. */
const MOST_FRAMES = 20

const features = tableFeatures({ columnVisibilityFeature })

export interface ListTableProps<R> {
  /** What the list is of, for whoever hears it. */
  label: string
  rows: Rows<R>
  columns: readonly ListColumn<R>[]
  isShown: (column: ListColumn<R>) => boolean
  idOf: (row: R) => string
  nameOf: (row: R) => string
  /** The row's first column leads there, or does this. */
  opens: (row: R) => string | (() => void)
  /** What stands above a row that begins something. */
  heading?: ((row: R, before: R | undefined) => string | undefined) | undefined
  rowPx: number
  sort: { by: string; isDown: boolean }
  onSort: (column: ListColumn<R>) => void
  /** Left out: nothing is picked. */
  picking?: { picked: ReadonlyMap<string, R>; onPick: (rows: readonly R[], on: boolean) => void } | undefined
}

/** A long list of which only what is to be seen is drawn; it scrolls with the page. Arrows go from row to row. */
export function ListTable<R>(props: ListTableProps<R>) {
  const { label, rows, columns, isShown, idOf, nameOf, opens, heading, rowPx, sort, onSort, picking } = props
  const body = useRef<HTMLTableSectionElement>(null)
  const [marginPx, setMarginPx] = useState(0)
  useLayoutEffect(() => {
    const top = body.current?.getBoundingClientRect().top ?? 0
    setMarginPx(top + window.scrollY)
  }, [])
  const virtual = useWindowVirtualizer({
    count: rows.total,
    estimateSize: () => rowPx,
    overscan: OVERSCAN,
    scrollMargin: marginPx,
  })
  const items = virtual.getVirtualItems()
  const [first, last] = [items[0]?.index ?? 0, items.at(-1)?.index ?? 0]
  const { onRange } = rows
  useLayoutEffect(() => onRange(first, last), [first, last, onRange])

  const drawn = items.flatMap(({ index }) => {
    const row = rows.at(index)
    return row === undefined ? [] : [{ index, row }]
  })
  const defined = useMemo(() => {
    const column = createColumnHelper<typeof features, { index: number; row: R }>()
    return column.columns(
      columns.map((c) => column.display({ id: c.id, header: c.label, cell: (cell) => c.cell(cell.row.original.row) })),
    )
  }, [columns])
  const table = useTable({
    features,
    columns: defined,
    data: drawn,
    getRowId: (d) => String(d.index),
    state: { columnVisibility: Object.fromEntries(columns.map((c) => [c.id, isShown(c)])) },
  })
  const shown = table.getVisibleLeafColumns().flatMap((v) => columns.find((c) => c.id === v.id) ?? [])
  const cellsOf = new Map(table.getRowModel().rows.map((r) => [r.original.index, r.getVisibleCells()]))
  const template = [...(picking ? ['1.75rem'] : []), ...shown.map((c) => c.width)].join(' ')
  const drawnRows = drawn.map((d) => d.row)

  function goTo(index: number): void {
    if (index < 0 || index >= rows.total) return
    virtual.scrollToIndex(index)
    let frames = 0
    const focus = () => {
      const row = body.current?.querySelector<HTMLElement>(`[data-index="${index}"] [data-row]`)
      if (row) row.focus()
      else if (++frames < MOST_FRAMES) requestAnimationFrame(focus)
    }
    focus()
  }
  const onKeyDown = (event: KeyboardEvent<HTMLTableSectionElement>) => {
    const target = event.target as HTMLElement
    if (!target.matches('[data-row]')) return
    const index = Number(target.closest('[data-index]')?.getAttribute('data-index'))
    const to = { ArrowDown: index + 1, ArrowUp: index - 1, Home: 0, End: rows.total - 1 }[event.key]
    const row = rows.at(index)
    if (to !== undefined) goTo(to)
    else if (event.key === ' ' && picking && row) picking.onPick([row], !picking.picked.has(idOf(row)))
    else return
    event.preventDefault()
  }
  return (
    <table aria-label={label} aria-rowcount={rows.total + 1} className="grid w-full">
      <thead className="sticky top-0 z-10 grid bg-paper">
        <tr className="grid items-end gap-x-3 border-b border-ink" style={{ gridTemplateColumns: template }}>
          {picking && (
            <th>
              <input
                type="checkbox"
                aria-label="Pick all that is to be seen"
                checked={drawnRows.length > 0 && drawnRows.every((row) => picking.picked.has(idOf(row)))}
                onChange={(e) => picking.onPick(drawnRows, e.target.checked)}
              />
            </th>
          )}
          {shown.map((c) => (
            <HeaderCell key={c.id} column={c} sort={sort} onSort={onSort} />
          ))}
        </tr>
      </thead>
      <tbody ref={body} className="relative grid" style={{ height: virtual.getTotalSize() }} onKeyDown={onKeyDown}>
        {items.map((item) => {
          const row = rows.at(item.index)
          const title = row && heading?.(row, item.index === 0 ? undefined : rows.at(item.index - 1))
          const id = row && idOf(row)
          return (
            <tr
              key={item.key}
              ref={virtual.measureElement}
              data-index={item.index}
              aria-rowindex={item.index + 2}
              className="absolute inset-x-0 top-0 grid items-center gap-x-3 border-b border-hair/60 hover:bg-shoal"
              style={{ gridTemplateColumns: template, transform: `translateY(${item.start - marginPx}px)` }}
            >
              {title && (
                <td className="col-span-full border-b border-hair bg-paper pt-4 font-display text-lg font-semibold">
                  {title}
                </td>
              )}
              {picking && (
                <td className="relative z-1">
                  {row && id !== undefined && (
                    <input
                      type="checkbox"
                      tabIndex={-1}
                      aria-label={`Pick ${nameOf(row)}`}
                      checked={picking.picked.has(id)}
                      onChange={(e) => picking.onPick([row], e.target.checked)}
                    />
                  )}
                </td>
              )}
              {!row && <td className="col-span-full min-h-9 text-soft">…</td>}
              {row &&
                (cellsOf.get(item.index) ?? []).map((cell, n) => (
                  <Cell key={cell.id} column={shown[n] as ListColumn<R>} isMain={n === 0} opens={opens(row)}>
                    <table.FlexRender cell={cell} />
                  </Cell>
                ))}
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

interface HeaderCellProps<R> {
  column: ListColumn<R>
  sort: { by: string; isDown: boolean }
  onSort: (column: ListColumn<R>) => void
}

function HeaderCell<R>({ column, sort, onSort }: HeaderCellProps<R>) {
  const isSorted = column.sort !== undefined && column.sort === sort.by
  return (
    <th
      scope="col"
      aria-sort={isSorted ? (sort.isDown ? 'descending' : 'ascending') : undefined}
      className={`caption font-normal ${column.isRight ? 'text-right' : 'text-left'}`}
    >
      {column.sort === undefined ? (
        <span className="flex min-h-8 items-center [th.text-right>&]:justify-end">{column.label}</span>
      ) : (
        <button type="button" className="min-h-8 hover:underline max-sm:min-h-11" onClick={() => onSort(column)}>
          {column.label}
          {isSorted && (sort.isDown ? ' ↓' : ' ↑')}
        </button>
      )}
    </th>
  )
}

interface CellProps<R> {
  column: ListColumn<R>
  isMain: boolean
  opens: string | (() => void)
  children: ReactNode
}

/** The whole of a row is pressed where its first column leads. */
const WHOLE_ROW =
  'flex min-h-9 min-w-0 flex-1 items-center gap-2 text-left outline-offset-[-2px] after:absolute after:inset-0 hover:underline max-sm:min-h-11'

function Cell<R>({ column, isMain, opens, children }: CellProps<R>) {
  if (!isMain) return <td className={`min-w-0 ${column.isRight ? 'text-right' : ''}`}>{children}</td>
  return (
    <th scope="row" className="flex min-w-0 font-normal">
      {typeof opens === 'string' ? (
        <Link data-row to={opens} className={WHOLE_ROW}>
          {children}
        </Link>
      ) : (
        <button data-row type="button" onClick={opens} className={WHOLE_ROW}>
          {children}
        </button>
      )}
    </th>
  )
}
