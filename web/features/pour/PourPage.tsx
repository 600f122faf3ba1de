import { type Pourable, pourableSchema } from '@conch/contract'
import { SAFETY_DEFERRAL } from '@conch/core/house'
import { readWish } from '@conch/core/wish'
import { queryOptions, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { AGAIN_MS, addressOf, KEPT } from '../../app/queries.ts'
import { useAddress } from '../../app/useAddress.ts'
import { countText, measureText } from '../../graphics/format.ts'
import { Failure, Loading } from '../../ui/States.tsx'
import { WishField } from './WishField.tsx'

const ofWords = { menu: 'the menu', book: 'the whole book' } as const
type Of = keyof typeof ofWords

const pourableQuery = (asked: { well: string; of: Of; wish: string; dark?: 'with' | undefined }) => {
  const search = addressOf(asked)
  return queryOptions({
    queryKey: [KEPT, 'pourable', search],
    queryFn: () => api.get(`/api/pourable?${search}`, pourableSchema),
    refetchInterval: ({ state }) => (state.data?.isComputing ? AGAIN_MS : false),
  })
}

/** What can be poured with what is here now, and is what somebody wishes for. */
export function PourPage() {
  const { well } = useHouse()
  const { search, put } = useAddress()
  const of: Of = search.get('of') === 'book' ? 'book' : 'menu'
  const wish = search.get('wish') ?? ''
  const dark = search.get('dark') === 'with' ? ('with' as const) : undefined
  // The mark is there at once; the address follows when the page has time.
  const [isShown, setShown] = useState(dark === 'with')
  useEffect(() => setShown(dark === 'with'), [dark])
  const asked = useQuery(pourableQuery({ well: well.slug, of, wish, dark }))
  const hasAllergens = readWish(wish).withoutAllergens.length > 0
  return (
    <div className="px-4 pt-4 pb-10">
      <header className="mb-3 flex flex-wrap items-end gap-x-6 gap-y-2">
        <h1 className="text-3xl">What we can pour at the {well.name}</h1>
        <fieldset className="flex border border-hair" aria-label="Of what">
          {(Object.keys(ofWords) as Of[]).map((o) => (
            <button
              key={o}
              type="button"
              aria-pressed={o === of}
              className={`min-h-9 px-3 max-lg:min-h-11 ${o === of ? 'bg-ink text-paper' : 'hover:bg-shallow'}`}
              onClick={() => put({ of: o === 'menu' ? undefined : o })}
            >
              {ofWords[o]}
            </button>
          ))}
        </fieldset>
        <label className="flex min-h-9 items-center gap-1.5 text-sm max-lg:min-h-11">
          <input
            type="checkbox"
            checked={isShown}
            onChange={(e) => {
              setShown(e.target.checked)
              put({ dark: e.target.checked ? 'with' : undefined })
            }}
          />
          what is dark, too
        </label>
      </header>
      <WishField value={wish} onChange={(words) => put({ wish: words || undefined })} />
      {asked.isPending && <Loading what="what can be poured" />}
      {asked.isError && !asked.data && <Failure error={asked.error} onRetry={() => asked.refetch()} />}
      {asked.data && <Found found={asked.data} of={of} wish={wish} />}
      {hasAllergens && (
        <p className="mt-4 max-w-3xl border-l-4 border-stop pl-3">
          Allergens as the house wrote them down, at every depth of its mixes; a splash, a shared tin or a garnish can
          bring in others. Ask the guest how serious it is. {SAFETY_DEFERRAL}
        </p>
      )}
    </div>
  )
}

function Found({ found, of, wish }: { found: Pourable; of: Of; wish: string }) {
  const { understood, total, fitting, pourable, unsure, drinks } = found
  return (
    <>
      <p role="status" className="my-2">
        {understood.length > 0 && (
          <>
            <span className="text-soft">Understood: </span>
            {understood.map((u) => (
              <span key={u} className="mr-2 inline-block border-b border-ink">
                {u}
              </span>
            ))}
            <span className="mx-1 text-soft">·</span>
          </>
        )}
        <b className="font-semibold">{countText(pourable)}</b> can be poured
        {fitting > pourable &&
          `, ${countText(fitting - pourable)} more ${fitting - pourable === 1 ? 'is' : 'are'} dark`}
        {found.isComputing && <span className="text-soft"> (some are being computed)</span>}
        {wish !== '' && <span className="text-soft"> of {countText(total)}</span>}
      </p>
      {unsure > 0 && (
        <p className="mb-2 text-mind">
          ▲ {countText(unsure)} more would be like that, but nobody knows what is in {unsure === 1 ? 'it' : 'them'} for
          sure: ask a manager.
        </p>
      )}
      {drinks.length === 0 && (
        <p className="mt-4 text-lg text-soft">
          Nothing on {ofWords[of]} is like that{fitting > 0 ? ' and can be poured now' : ''}.
        </p>
      )}
      <ul className="border-t border-ink">
        {drinks.map((d) => {
          const isDark = d.state === 'dark' || d.state === 'off'
          return (
            <li key={d.drink} className="border-b border-hair/60">
              <Link
                to={`/drinks/${d.drink}?v=${d.state === 'instead' ? 'tonight' : d.version}`}
                className="grid min-h-11 grid-cols-[minmax(0,1fr)_4rem] items-baseline gap-x-4 py-1.5 hover:bg-shoal sm:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)_4rem]"
              >
                <span className="min-w-0">
                  <span className={`block text-lg break-words ${isDark ? 'text-soft line-through decoration-1' : ''}`}>
                    {d.name}
                    {of === 'book' && d.isPoured && <span className="caption ml-2 inline-block">on the menu</span>}
                  </span>
                  {(d.words || d.state === 'off') && (
                    <span className={`block text-sm ${isDark ? 'text-stop' : 'text-soft'}`}>
                      {d.state === 'off' ? `off tonight${d.words ? `: ${d.words}` : ''}` : d.words}
                    </span>
                  )}
                </span>
                <span className="text-sm text-soft max-sm:order-last max-sm:col-span-2">
                  {[
                    d.glass,
                    d.serves > 1 ? `for ${d.serves}` : '',
                    d.allergens.length > 0 ? `contains ${d.allergens.join(', ')}` : '',
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </span>
                <span className="text-right">
                  {d.strengthPct === undefined ? '' : measureText('strengthPct', d.strengthPct)}
                </span>
              </Link>
            </li>
          )
        })}
      </ul>
    </>
  )
}
