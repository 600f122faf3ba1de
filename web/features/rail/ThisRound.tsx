import type { SaidRound } from '@conch/contract'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Aside } from './Aside.tsx'
import { type Asked, fromRound, glassesOf, takeFrom } from './asked.ts'
import { roundsQuery } from './sendRound.ts'
import type { RailDrink } from './useRailMenu.ts'
import { Wishes } from './Wishes.tsx'

interface ThisRoundProps {
  asked: readonly Asked[]
  setAsked: (next: Asked[]) => void
  drinks: readonly RailDrink[]
  tables: readonly string[]
  /** What of it cannot be made, and why. */
  problem: { of: number; words: string } | undefined
  onMake: () => void
}

/** What is asked for so far; while it is nothing, what is put aside and what was made. */
export function ThisRound({ asked, setAsked, drinks, tables, problem, onMake }: ThisRoundProps) {
  const [isWishing, setWishing] = useState<number>()
  const rounds = useQuery(roundsQuery).data
  const count = glassesOf(asked)
  return (
    <section
      aria-label="This round"
      className="flex min-h-0 shrink-0 flex-col border-hair px-3 py-2 max-md:max-h-[46%] max-md:border-t md:w-[21rem] md:border-l"
    >
      <div className="min-h-0 flex-1 overflow-y-auto">
        {asked.length === 0 && <p className="py-2 text-xl text-soft max-md:hidden">Tap what is asked for.</p>}
        <ul>
          {asked.map((a, i) => (
            <li key={a.key} className="border-b border-hair py-1">
              <div className="flex items-center gap-1">
                <button
                  type="button"
                  className="rail-quiet text-3xl text-ink"
                  aria-label={`One ${a.load.document.name} less`}
                  onClick={() => setAsked(takeFrom(asked, i))}
                >
                  −
                </button>
                <span className="w-8 text-center font-display text-3xl font-semibold">{a.glasses}</span>
                <span className="min-w-0 flex-1 text-xl leading-tight break-words">
                  {a.load.document.name}
                  {a.load.otherwise && <span className="block text-base text-mind">{a.load.otherwise}</span>}
                </span>
                <button
                  type="button"
                  className="rail-quiet"
                  aria-expanded={isWishing === i}
                  onClick={() => setWishing(isWishing === i ? undefined : i)}
                >
                  wish
                </button>
              </div>
              {isWishing === i && (
                <Wishes
                  asked={a}
                  onWished={(next) => {
                    setWishing(undefined)
                    setAsked(next(asked, i))
                  }}
                />
              )}
            </li>
          ))}
        </ul>
        {asked.length === 0 && rounds && (
          <Aside rounds={rounds} onAgain={(round: SaidRound) => setAsked(fromRound(round, drinks))} />
        )}
      </div>
      {problem && (
        <p role="alert" className="border-l-4 border-stop pl-2 text-lg">
          {asked[problem.of]?.load.document.name}: {problem.words}
        </p>
      )}
      {tables.length > 0 && <p className="py-1 text-lg text-soft">{tables.join(', ')}</p>}
      <button
        type="button"
        className="rail-act rail-main mt-2 w-full"
        disabled={asked.length === 0 || problem !== undefined}
        onClick={onMake}
      >
        {count > 1 ? `Make ${count}` : 'Make it'}
      </button>
    </section>
  )
}
