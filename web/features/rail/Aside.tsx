import type { Rounds, SaidRound } from '@conch/contract'
import type { Round } from '@conch/core/service'
import { roundSchema } from '@conch/core/service/roundSchema'
import { useState } from 'react'
import { toast } from 'sonner'
import { waitingTaps } from '../../alone/taps.ts'
import { ApiError } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { BEFORE, roundWords, setRound, withOwnGoes } from './railRound.ts'
import { dropRound, takeUp, takeUpHere } from './sendRound.ts'

const MOST_AGAIN = 5

/** Rounds that are put aside, here or on another tablet; and the last ones, to be made again. */
export function Aside({ rounds, onAgain }: { rounds: Rounds; onAgain: (round: SaidRound) => void }) {
  const { book, clock, well } = useHouse()
  const nameOf = (slug: string) => book.wells.find((w) => w.slug === slug)?.name ?? slug
  const timeOf = (at: string) =>
    new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', timeZone: clock.timeZone }).format(
      new Date(at),
    )
  const said = (error: unknown) => void toast.error(error instanceof Error ? error.message : String(error))
  // Whoever takes it up makes it where they stand: with the ice and the machines of this well.
  const here = (round: Round): Round => ({
    ...(round.well === well.slug ? round : withOwnGoes(round)),
    well: well.slug,
    // Other bottles stand here: what the guest has to hear is said again.
    ticks: round.ticks.filter((t) => t !== BEFORE || round.well === well.slug),
  })
  // On this tablet before the house lets go of it: an answer that is lost loses no round.
  const take = async (parked: SaidRound) => {
    setRound(here(parked.round))
    try {
      await takeUp(parked)
    } catch (error) {
      const isAway = error instanceof ApiError && error.isAway
      if (isAway) return void toast('The house is not heard: should somebody else take it up too, it is finished once.')
      setRound(undefined)
      said(error)
    }
  }
  // Put aside here while the house was away: nobody else knows of it yet.
  const waiting = waitingTaps.use().flatMap((tap) => {
    if (tap.kind !== 'round' || tap.refused) return []
    const body = tap.body as { state?: string; round?: unknown }
    const round = body.state === 'parked' ? roundSchema.safeParse(body.round).data : undefined
    return round ? [{ place: tap.place, round, by: tap.by.name }] : []
  })
  return (
    <>
      {(rounds.parked.length > 0 || waiting.length > 0) && (
        <section aria-label="Put aside" className="mb-3">
          <h2 className="caption">Put aside, half made</h2>
          <ul>
            {waiting.map(({ place, round, by }) => (
              <li key={place} className="border-b border-hair py-1">
                <button
                  type="button"
                  className="rail-act w-full justify-between px-3 text-left"
                  onClick={() => takeUpHere(place).then(() => setRound(here(round)), said)}
                >
                  <span className="min-w-0 break-words">{roundWords(round)}</span>
                  <span className="text-base text-soft">{by} · not sent yet</span>
                </button>
              </li>
            ))}
            {rounds.parked.map((parked) => (
              <li key={parked.id} className="flex items-stretch gap-1 border-b border-hair py-1">
                <button
                  type="button"
                  className="rail-act min-w-0 flex-1 justify-between px-3 text-left"
                  onClick={() => void take(parked)}
                >
                  <span className="min-w-0 break-words">
                    {roundWords(parked.round)}
                    {parked.round.words && <span className="block text-base text-soft">{parked.round.words}</span>}
                  </span>
                  <span className="text-base text-soft">
                    {nameOf(parked.round.well)} · {parked.savedBy} · {timeOf(parked.savedAt)}
                  </span>
                </button>
                <ThrowAway round={parked} onFail={said} />
              </li>
            ))}
          </ul>
        </section>
      )}
      {rounds.made.length > 0 && (
        <section aria-label="Made tonight">
          <h2 className="caption">
            Made tonight: {rounds.glasses} {rounds.glasses === 1 ? 'glass' : 'glasses'}
          </h2>
          <ul>
            {rounds.made.slice(0, MOST_AGAIN).map((made) => (
              <li key={made.id}>
                <button
                  type="button"
                  className="rail-quiet w-full justify-between border-b border-hair text-left text-lg"
                  onClick={() => onAgain(made)}
                >
                  <span className="min-w-0 truncate text-ink">{roundWords(made.round)}</span>
                  <span className="shrink-0 pl-2">{timeOf(made.saidAt ?? made.savedAt)} · again</span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  )
}

/** In two taps: a wet thumb throws nothing away. */
function ThrowAway({ round, onFail }: { round: SaidRound; onFail: (error: unknown) => void }) {
  const [isSure, setSure] = useState(false)
  return (
    <button
      type="button"
      className={`rail-quiet ${isSure ? 'border-2 border-stop text-stop' : ''}`}
      aria-label={`Throw away ${roundWords(round.round)}`}
      onBlur={() => setSure(false)}
      onClick={() => (isSure ? void dropRound(round).then(() => toast('Thrown away.'), onFail) : setSure(true))}
    >
      {isSure ? 'away?' : '×'}
    </button>
  )
}
