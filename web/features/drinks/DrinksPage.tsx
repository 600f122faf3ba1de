import { type DrinkListing, type DrinkPage, drinkSchema, mayDo } from '@conch/contract'
import { nightText } from '@conch/core/calendar'
import { formOf } from '@conch/core/schema'
import { useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { NameDialog } from '../../app/NameDialog.tsx'
import { DRINKS_KEY, drinkList } from '../../app/queries.ts'
import { useAddress } from '../../app/useAddress.ts'
import { useWho } from '../../app/who.ts'
import { Seal } from '../../graphics/Seal.tsx'
import type { ListColumn } from '../../list/columns.ts'
import { ListPage, useListSort } from '../../list/ListPage.tsx'
import { useRows } from '../../list/useRows.ts'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { drinkId, versionKeyOf } from '../compare/index.ts'

const drinkForm = formOf(drinkSchema)
const PasteSpec = lazy(() => import('./PasteSpec.tsx').then((m) => ({ default: m.PasteSpec })))

/** Rows that are fetched together. */
const ROWS_AT_ONCE = 100
const ROW_PX = 45
const versionText = (version: number | null) => (version === null ? '' : `v${version}`)

const COLUMNS: readonly ListColumn<DrinkListing>[] = [
  {
    id: 'name',
    label: 'drink',
    sort: 'name',
    width: 'minmax(0, 1fr)',
    cell: (d) => (
      <>
        <span className="w-5 shrink-0">{d.pouredVersion !== null && <Seal title="poured today" />}</span>
        <span className="sm:truncate text-[1.05rem]">{d.name}</span>
        {d.isHidden && <span className="caption">hidden</span>}
        {d.hasDraft && <span className="caption">draft</span>}
      </>
    ),
    csv: (d) => d.name,
  },
  {
    id: 'poured',
    label: 'poured',
    sort: 'poured',
    // On a phone the seal says it.
    from: 'sm',
    width: '5rem',
    cell: (d) => versionText(d.pouredVersion) || <span className="text-soft">·</span>,
    csv: (d) => d.pouredVersion ?? '',
  },
  {
    id: 'next',
    label: 'next edition',
    from: 'sm',
    width: '6.500rem',
    cell: (d) =>
      d.plannedVersion === d.pouredVersion ? (
        <span className="text-soft">{d.plannedVersion === null ? '·' : 'the same'}</span>
      ) : d.plannedVersion === null ? (
        'leaves'
      ) : (
        versionText(d.plannedVersion)
      ),
    csv: (d) => d.plannedVersion ?? '',
  },
  {
    id: 'versions',
    label: 'versions',
    sort: 'versions',
    isDownFirst: true,
    width: '4.500rem',
    isRight: true,
    cell: (d) => d.versionCount || <span className="text-soft">none yet</span>,
    csv: (d) => d.versionCount,
  },
  {
    id: 'changed',
    label: 'last saved',
    sort: 'changed',
    isDownFirst: true,
    from: 'md',
    width: '9rem',
    isRight: true,
    cell: (d) => <SavedOn at={d.changedAt} />,
    csv: (d) => d.changedAt ?? '',
  },
]

function SavedOn({ at }: { at: string | null }) {
  const { clock } = useHouse()
  return <span className="text-sm text-soft">{at ? nightText(at, clock) : ''}</span>
}

/** Every drink the house ever wrote, on the menu or not. What is looked for stands in the address. */
export function DrinksPage() {
  const who = useWho()
  const { search, put } = useAddress()
  const [isNew, setNew] = useState(false)
  const [isPasting, setPasting] = useState(false)
  const words = search.get('words') ?? ''
  const hidden = search.get('hidden') === 'with' ? ('with' as const) : undefined
  const { sort, isAsked } = useListSort('drinks', COLUMNS, { by: 'name', isDown: false })
  const asked = { words, hidden, sort: isAsked ? sort.by : undefined, down: sort.isDown ? ('yes' as const) : undefined }
  const { first, rows } = useRows<DrinkListing, DrinkPage>(drinkList(asked, ROWS_AT_ONCE))
  if (first.isPending) return <Loading what="the drinks" />
  if (!first.data) return <Failure error={first.error} onRetry={() => first.refetch()} />
  const { total, hidden: hiddenCount } = first.data
  return (
    <ListPage
      list="drinks"
      title="Drinks"
      noun="drink"
      said={words === '' ? `${total} in the book` : rows.isNear ? '' : `${total} found`}
      rows={rows}
      columns={COLUMNS}
      sort={sort}
      rowPx={ROW_PX}
      idOf={(d) => drinkId(d.slug, d.pouredVersion ?? d.ownVersion ?? undefined)}
      nameOf={(d) => d.name}
      opens={(d) => `/drinks/${d.slug}`}
      whatToDo={(picked) => {
        const made = picked.filter((id) => versionKeyOf(id).length > 0)
        return made.length > 0 ? (
          <Link className="act" to={`/compare?${new URLSearchParams({ of: made.join(',') })}`}>
            Compare them
          </Link>
        ) : null
      }}
      empty={
        <Empty title="No drink is written yet">
          Begin with a name: a first draft with one pour is waiting behind it.
        </Empty>
      }
      buttons={
        mayDo(who.role, 'saveDraft') && (
          <>
            <button type="button" className="act" onClick={() => setPasting(true)}>
              Paste a spec
            </button>
            <button type="button" className="act act-main" onClick={() => setNew(true)}>
              New drink
            </button>
          </>
        )
      }
    >
      {hiddenCount > 0 && (
        <button
          type="button"
          className="act act-quiet mt-3 text-soft"
          onClick={() => put({ hidden: hidden ? undefined : 'with' })}
        >
          {hidden ? 'Leave out what is hidden' : `Show ${hiddenCount} hidden`}
        </button>
      )}
      {isPasting && (
        <Suspense fallback={null}>
          <PasteSpec onClose={() => setPasting(false)} />
        </Suspense>
      )}
      {isNew && <NewDrink onClose={() => setNew(false)} />}
    </ListPage>
  )
}

function NewDrink({ onClose }: { onClose: () => void }) {
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  const make = async (name: string) => {
    const drink = await api.post('/api/drinks', drinkForm, { name })
    await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
    navigate(`/drinks/${drink.slug}`)
  }
  return (
    <NameDialog title="New drink" unnamed="Give it a name; it can be changed later." onClose={onClose} onName={make} />
  )
}
