import { publishedMenuSchema } from '@conch/contract'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { ApiError, api } from '../../app/api.ts'
import { useAloneSince } from '../../app/line.ts'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { SignInDialog } from '../people/index.ts'

/** What a tablet for guests shows: drinks, glasses, strength and allergens; nothing of what is poured. */
export function GuestMenuPage() {
  const [isSigningIn, setSigningIn] = useState(false)
  const asked = useQuery({
    queryKey: ['publishedMenu'],
    queryFn: () => api.get('/api/published-menu', publishedMenuSchema),
    refetchInterval: 60_000,
  })
  const menu = asked.data
  const since = useAloneSince()
  const isEarly = asked.error instanceof ApiError && asked.error.problem?.code === 'notFound'
  return (
    <div className="mx-auto flex min-h-dvh max-w-5xl flex-col px-5 py-6">
      {asked.isPending && <Loading what="the menu" />}
      {asked.isError && !menu && !isEarly && <Failure error={asked.error} onRetry={() => asked.refetch()} />}
      {isEarly && <Empty title="The first menu is being written">It stands here as soon as it is published.</Empty>}
      {menu && (
        <main className="flex-1">
          <h1 className="text-4xl break-words">{menu.house}</h1>
          <p className="mb-6 text-lg text-soft">{menu.edition.name}</p>
          {since && (
            <p role="status" data-alone className="mb-4 border-l-4 border-mind pl-3">
              As of {since.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}: this tablet is on its
              own since then. Ask the bar what is there, and what is in it.
            </p>
          )}
          <div className="gap-x-12 md:columns-2">
            {menu.chapters.map((chapter) => (
              <section key={chapter.name} aria-label={chapter.name} className="mb-8 break-inside-avoid">
                <h2 className="mb-1 border-b border-ink text-2xl">{chapter.name}</h2>
                <ul>
                  {chapter.drinks.map((drink) => (
                    <li key={drink.name} className="border-b border-hair/60 py-2.5">
                      <p className="flex items-baseline gap-3">
                        <span
                          className={`min-w-0 flex-1 font-display text-xl break-words ${drink.isOff ? 'text-soft' : ''}`}
                        >
                          {drink.name}
                        </span>
                        {drink.isOff && <span className="whitespace-nowrap text-soft">not tonight</span>}
                        {!drink.isOff && drink.strengthPct !== undefined && (
                          <span className="whitespace-nowrap text-soft">{drink.strengthPct} %</span>
                        )}
                      </p>
                      <p className="text-soft">
                        {[drink.glass, ...drink.allergens].filter(Boolean).join(' · ') || ' '}
                      </p>
                    </li>
                  ))}
                </ul>
              </section>
            ))}
          </div>
          <p className="text-sm text-soft">
            Allergens as the house knows them: tell the bar before you order. Strength is the alcohol in the glass by
            volume, as it is served. Local law and the word of whoever serves you come first.
          </p>
        </main>
      )}
      <p className="no-print mt-6 text-right">
        <button type="button" className="min-h-11 px-2 text-sm text-soft underline" onClick={() => setSigningIn(true)}>
          for the bar
        </button>
      </p>
      <SignInDialog isOpen={isSigningIn} onClose={() => setSigningIn(false)} />
    </div>
  )
}
