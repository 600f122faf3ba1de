import type { LotPage } from '@conch/contract'
import { shortDayText } from '@conch/core/calendar'
import { endOf, type Lot, measuredOf, staleOfLot, standingOfLot } from '@conch/core/lots'
import { useMemo } from 'react'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useAddress } from '../../app/useAddress.ts'
import type { ListColumn } from '../../list/columns.ts'
import { ListPage, useListSort } from '../../list/ListPage.tsx'
import { useRows } from '../../list/useRows.ts'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { lotList } from './useLots.ts'

const TONES = { fresh: '', due: 'text-mind', expired: 'text-stop font-semibold', gone: 'text-soft' }
const ROW_PX = 37

/** How a lot stands, in words and a tone. */
function standingWords(lot: Lot, today: string): { words: string; tone: string } {
  const own = standingOfLot(lot, today)
  const end = endOf(lot)
  if (end) return { words: end === 'discarded' ? 'discarded' : 'used up', tone: TONES.gone }
  if (own !== 'expired' && staleOfLot(lot, today).length > 0)
    return { words: 'something in it is expired', tone: TONES.expired }
  const until = lot.useBy ? `by ${shortDayText(lot.useBy, today)}` : 'no use-by'
  return { words: own === 'fresh' ? until : `${until}: ${own}`, tone: TONES[own] }
}

function readWords(lot: Lot): string {
  const m = measuredOf(lot)?.measured
  const read = [
    m?.brix !== undefined && `${m.brix} °Bx`,
    m?.massG !== undefined && `${m.massG} g`,
    m?.volumeMl !== undefined && `${m.volumeMl} ml`,
  ]
  return read.filter(Boolean).join(', ')
}

const columnsAt = (today: string): readonly ListColumn<Lot>[] => [
  {
    id: 'name',
    label: 'of',
    sort: 'name',
    width: 'minmax(0, 2fr)',
    cell: (lot) => <span className={`sm:truncate ${standingWords(lot, today).tone}`}>{lot.name}</span>,
    csv: (lot) => lot.name,
  },
  {
    id: 'number',
    label: 'lot',
    sort: 'number',
    isDownFirst: true,
    width: '3.500rem',
    isRight: true,
    cell: (lot) => lot.id,
    csv: (lot) => lot.id,
  },
  {
    id: 'made',
    label: 'made',
    from: 'sm',
    width: 'minmax(0, 1fr)',
    cell: (lot) => (
      <span className="block truncate text-sm">
        {shortDayText(lot.madeOn, today)}, {lot.madeBy}
      </span>
    ),
    csv: (lot) => `${lot.madeOn}, ${lot.madeBy}`,
  },
  {
    id: 'read',
    label: 'measured',
    from: 'md',
    width: 'minmax(0, 1fr)',
    cell: (lot) => <span className="block truncate text-sm">{readWords(lot)}</span>,
    csv: readWords,
  },
  {
    id: 'useBy',
    label: 'good until',
    sort: 'useBy',
    width: 'minmax(7rem, 0.900fr)',
    isRight: true,
    cell: (lot) => {
      const { words, tone } = standingWords(lot, today)
      return <span className={`text-sm ${tone}`}>{words}</span>
    },
    csv: (lot) => `${lot.useBy ?? ''} ${standingWords(lot, today).words}`.trim(),
  },
]

/** The lots, gone ones too: what was made, what came of it. What is looked for stands in the address. */
export function LotsPage() {
  const { today } = useHouse()
  const { search, put } = useAddress()
  const columns = useMemo(() => columnsAt(today), [today])
  const words = search.get('words') ?? ''
  const isOpenOnly = search.get('open') === 'yes'
  const { sort, isAsked } = useListSort('lots', columns, { by: 'number', isDown: true })
  const { first, rows } = useRows<Lot, LotPage>(
    lotList({
      words,
      sort: isAsked ? sort.by : undefined,
      down: isAsked && sort.isDown ? 'yes' : undefined,
      open: isOpenOnly ? 'yes' : undefined,
    }),
  )
  if (first.isPending) return <Loading what="the lots" />
  if (!first.data) return <Failure error={first.error} onRetry={() => first.refetch()} />
  const { total, open } = first.data
  return (
    <ListPage
      list="lots"
      title="Lots"
      noun="lot"
      hint="a mix, a number, a hand"
      said={`${total} ${words === '' && !isOpenOnly ? 'ever made' : 'found'} · ${open} there now`}
      rows={rows}
      columns={columns}
      sort={sort}
      rowPx={ROW_PX}
      idOf={(lot) => String(lot.id)}
      nameOf={(lot) => `lot ${lot.id}, ${lot.name}`}
      opens={(lot) => `/lots/${lot.id}`}
      filters={
        <label className="flex min-h-8 items-center gap-2 text-sm max-sm:min-h-11">
          <input
            type="checkbox"
            checked={isOpenOnly}
            onChange={(e) => put({ open: e.target.checked ? 'yes' : undefined })}
          />
          only what is there
        </label>
      }
      whatToDo={(picked) => (
        <a className="act" href={`/api/labels.pdf?lots=${picked.join(',')}`} target="_blank" rel="noreferrer">
          Labels of them
        </a>
      )}
      empty={
        isOpenOnly ? (
          <p className="text-soft">Nothing is there.</p>
        ) : (
          <Empty title="No lot is written down yet">
            Make one from a{' '}
            <Link className="underline" to="/mixes">
              mix
            </Link>
            , or press a juice.
          </Empty>
        )
      }
    />
  )
}
