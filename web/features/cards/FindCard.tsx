import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { useAloneSince } from '../../app/line.ts'
import { drinkPageQuery } from '../../app/queries.ts'
import { useSettled } from '../../ui/useSettled.ts'
import { type CardDrink, type CardFilter, findCards } from './findCards.ts'

const SEARCH_MS = 200
const MOST_OF_BOOK = 9

interface FindCardProps {
  drinks: readonly CardDrink[]
  onDrink: (drink: string) => void
  onFilter: (filter: CardFilter) => void
  onClose: () => void
}

/** First letters of a drink, of the bottle in hand, of a glass: what is this for? */
export function FindCard({ drinks, onDrink, onFilter, onClose }: FindCardProps) {
  const { book, well } = useHouse()
  const [letters, setLetters] = useState('')
  const found = useMemo(() => findCards(drinks, letters, book, well.slug), [drinks, letters, book, well.slug])
  const words = useSettled(letters.trim(), SEARCH_MS)
  const isAway = useAloneSince() !== undefined
  const inBook = useQuery({
    ...drinkPageQuery({ words, made: 'yes', limit: MOST_OF_BOOK }),
    enabled: words.length > 1 && !isAway,
  }).data
  const others = words.length > 1 ? (inBook?.rows ?? []).filter((r) => !drinks.some((d) => d.drink === r.slug)) : []
  const isNothing =
    letters.trim() !== '' && found.drinks.length === 0 && found.filters.length === 0 && others.length === 0
  return (
    <main className="flex min-h-0 flex-1 flex-col px-3 py-2">
      <h1 className="sr-only">Find a card</h1>
      <div className="flex gap-2">
        <input
          // biome-ignore lint/a11y/noAutofocus: whoever opens it wants to write
          autoFocus
          type="search"
          aria-label="First letters of a drink, a bottle or a glass"
          placeholder="a drink, the bottle in hand, a glass"
          value={letters}
          onChange={(e) => setLetters(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Escape') onClose()
            if (e.key === 'Enter' && found.drinks[0]) onDrink(found.drinks[0].drink)
          }}
          className="field h-16 min-w-0 flex-1 px-3 text-2xl"
        />
        <button type="button" className="rail-act" onClick={onClose}>
          Close
        </button>
      </div>
      <div className="mt-2 min-h-0 flex-1 overflow-y-auto">
        {isNothing && <p className="text-2xl text-soft">Nothing begins with that.</p>}
        <ul className="grid grid-cols-2 gap-2 lg:grid-cols-3">
          {(letters.trim() === '' ? drinks : found.drinks).map((d) => (
            <li key={d.drink}>
              <button
                type="button"
                className="rail-act w-full justify-start text-left text-2xl"
                onClick={() => onDrink(d.drink)}
              >
                {d.name}
              </button>
            </li>
          ))}
        </ul>
        {found.filters.length > 0 && (
          <ul aria-label="What is it for?" className="mt-3 grid grid-cols-1 gap-2 md:grid-cols-2">
            {found.filters.map((f) => (
              <li key={`${f.kind} ${f.of}`}>
                <button
                  type="button"
                  className="rail-act w-full justify-between text-left"
                  onClick={() => onFilter({ kind: f.kind, of: f.of, name: f.name })}
                >
                  <span>{f.name}</span>
                  <span className="text-soft">
                    {f.kind === 'glass' ? 'glass' : 'in'} {f.count} {f.count === 1 ? 'drink' : 'drinks'}
                  </span>
                </button>
              </li>
            ))}
          </ul>
        )}
        {others.length > 0 && (
          <>
            <h2 className="mt-3 text-lg text-soft">Not on the menu</h2>
            <ul className="grid grid-cols-2 gap-2 lg:grid-cols-3">
              {others.map((r) => (
                <li key={r.slug}>
                  <button
                    type="button"
                    className="rail-act w-full justify-start text-left text-2xl text-soft"
                    onClick={() => onDrink(r.slug)}
                  >
                    {r.name}
                  </button>
                </li>
              ))}
            </ul>
          </>
        )}
      </div>
    </main>
  )
}
