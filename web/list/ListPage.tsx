import { DropdownMenu as Menu } from 'radix-ui'
import { type ReactNode, useRef, useState } from 'react'
import { toast } from 'sonner'
import { useCommands } from '../app/commands.tsx'
import { useAddress } from '../app/useAddress.ts'
import { SearchField } from '../ui/SearchField.tsx'
import { useWidth } from '../ui/useWidth.ts'
import { isShownAt, type ListColumn, readKept, writeKept } from './columns.ts'
import { saveCsv } from './csv.ts'
import { ListTable, type ListTableProps } from './ListTable.tsx'
import type { Rows } from './useRows.ts'

const TYPING_MS = 150

export interface ListSort {
  by: string
  isDown: boolean
}

/**
 * In which order a list stands: as the address says, else as somebody wanted it here before, else by itself.
 * Words lead to the best first; only an address says otherwise.
 */
export function useListSort(list: string, columns: readonly { sort?: string }[], own: ListSort) {
  const { search } = useAddress()
  const known = [own.by, ...columns.flatMap((c) => c.sort ?? [])]
  const isKnown = (by: string | null | undefined): by is string => by != null && known.includes(by)
  const asked = search.get('sort')
  if (isKnown(asked)) return { sort: { by: asked, isDown: search.get('down') === 'yes' }, isAsked: true }
  const words = search.get('words') ?? ''
  const kept = readKept(list)
  if (words === '' && isKnown(kept.sort)) return { sort: { by: kept.sort, isDown: kept.down ?? false }, isAsked: true }
  return { sort: words === '' ? own : BEST_FIRST, isAsked: false }
}

/** No column's order. */
const BEST_FIRST: ListSort = { by: '', isDown: false }

interface ListPageProps<R> extends Pick<ListTableProps<R>, 'idOf' | 'nameOf' | 'opens' | 'heading' | 'rowPx'> {
  /** Under which name this device remembers it. */
  list: string
  title: string
  /** What one row is, as in “no drink is called …”. */
  noun: string
  said: ReactNode
  rows: Rows<R>
  columns: readonly ListColumn<R>[]
  sort: ListSort
  /** How looking for one is called; left out: by the noun. */
  find?: string
  hint?: string
  filters?: ReactNode
  buttons?: ReactNode
  /** What can be done with what is picked. */
  whatToDo?: ((picked: readonly string[], unpick: () => void) => ReactNode) | undefined
  /** There is none at all yet. */
  empty?: ReactNode
  children?: ReactNode
}

/** A list of the house: searched, sorted, its columns chosen, picked from, and saved as a file. The address says which part. */
export function ListPage<R>(props: ListPageProps<R>) {
  const {
    list,
    title,
    noun,
    said,
    rows,
    columns,
    sort,
    find = `Find a ${noun}`,
    hint = find,
    filters,
    buttons,
    whatToDo,
    empty,
    children,
  } = props
  const { idOf, nameOf, opens, heading, rowPx } = props
  const { search, put } = useAddress()
  const widthPx = useWidth()
  const [kept, setKept] = useState(() => readKept(list))
  // Rows, not their names alone: what is picked may no longer be among what is looked for.
  const [picked, setPicked] = useState<ReadonlyMap<string, R>>(new Map())
  const page = useRef<HTMLDivElement>(null)
  const words = search.get('words') ?? ''
  const keep = (next: typeof kept) => {
    setKept(next)
    writeKept(list, next)
  }
  const onSort = (column: ListColumn<R>) => {
    const isSame = column.sort === sort.by
    const isDown = isSame ? !sort.isDown : (column.isDownFirst ?? false)
    keep({ ...kept, sort: column.sort, down: isDown })
    put({ sort: column.sort, down: isDown ? 'yes' : undefined })
  }
  const onPick = (some: readonly R[], on: boolean) => {
    const next = new Map(picked)
    for (const row of some) on ? next.set(idOf(row), row) : next.delete(idOf(row))
    setPicked(next)
  }
  const isShown = (column: ListColumn<R>) => isShownAt(column, widthPx, kept.columns[column.id])
  const shown = columns.filter(isShown)
  const save = async () => {
    try {
      await saveCsv(list, shown, picked.size > 0 ? [...picked.values()] : await rows.all())
    } catch (error) {
      toast.error(`The file could not be made: ${error instanceof Error ? error.message : String(error)}`)
    }
  }
  useCommands(
    () => [
      {
        id: 'find-in-list',
        label: `Find in ${title.toLowerCase()}`,
        group: 'do',
        keys: 'f',
        perform: () => page.current?.querySelector<HTMLInputElement>('input[type=search]')?.focus(),
      },
    ],
    [title],
  )
  return (
    <div ref={page} className="px-4 pt-4 pb-10">
      <header className="mb-2 flex flex-wrap items-center gap-2">
        <div className="mr-auto">
          <h1 className="text-3xl">{title}</h1>
          <p className="caption" role="status">
            {said}
          </p>
        </div>
        {filters}
        <SearchField
          label={find}
          hint={hint}
          value={words}
          waitMs={TYPING_MS}
          onChange={(value) => put({ words: value })}
          onDown={() => page.current?.querySelector<HTMLElement>('[data-row]')?.focus()}
        />
        <ColumnsMenu
          columns={columns}
          isShown={isShown}
          onShow={(id, on) => keep({ ...kept, columns: { ...kept.columns, [id]: on } })}
        />
        <button type="button" className="act max-sm:hidden" disabled={rows.total === 0} onClick={() => void save()}>
          {picked.size > 0 ? `${picked.size} as CSV` : 'As CSV'}
        </button>
        {buttons}
      </header>
      {whatToDo && picked.size > 0 && (
        <div className="mb-2 flex flex-wrap items-center gap-2 bg-shoal px-2 py-1 text-sm" aria-live="polite">
          <span>{picked.size} picked</span>
          {whatToDo([...picked.keys()], () => setPicked(new Map()))}
          <button type="button" className="act act-quiet" onClick={() => setPicked(new Map())}>
            Pick none
          </button>
        </div>
      )}
      {rows.isNear && (
        <p className="mb-1 text-soft" role="status">
          No {noun} is called “{words}”. Near it:
        </p>
      )}
      {rows.total === 0 &&
        (words === '' ? (
          empty
        ) : (
          <p className="text-soft">
            No {noun} is called “{words}”, nor anything near it.
          </p>
        ))}
      {rows.total > 0 && (
        <ListTable
          key={rows.id}
          label={title}
          {...{ rows, columns, isShown, idOf, nameOf, opens, heading, rowPx, sort, onSort }}
          picking={whatToDo && { picked, onPick }}
        />
      )}
      {children}
    </div>
  )
}

interface ColumnsMenuProps<R> {
  columns: readonly ListColumn<R>[]
  isShown: (column: ListColumn<R>) => boolean
  onShow: (id: string, on: boolean) => void
}

function ColumnsMenu<R>({ columns, isShown, onShow }: ColumnsMenuProps<R>) {
  const [main, ...others] = columns
  if (!main || others.length === 0) return null
  return (
    <Menu.Root>
      <Menu.Trigger className="act max-sm:hidden">Columns</Menu.Trigger>
      <Menu.Portal>
        <Menu.Content align="end" sideOffset={4} className="z-30 min-w-44 border border-ink bg-paper py-1">
          {others.map((c) => (
            <Menu.CheckboxItem
              key={c.id}
              checked={isShown(c)}
              onCheckedChange={(on) => onShow(c.id, on)}
              // One looks at several before one is done.
              onSelect={(e) => e.preventDefault()}
              className="flex min-h-9 cursor-pointer items-center gap-2 px-3 outline-none data-[highlighted]:bg-shallow"
            >
              <span className="w-3">{isShown(c) ? '•' : ''}</span> {c.label}
            </Menu.CheckboxItem>
          ))}
        </Menu.Content>
      </Menu.Portal>
    </Menu.Root>
  )
}
