import { isTicked, type Round, type Step } from '@conch/core/service'

interface LoadStripProps {
  round: Round
  steps: readonly Step[]
  /** The load of the step in hand. */
  inHand: string
  onLook: (step: string) => void
  onPark: () => void
}

/** The round from left to right, in the order in which it is made: how far each is, and which is in hand. */
export function LoadStrip({ round, steps, inHand, onLook, onPark }: LoadStripProps) {
  return (
    <div className="flex min-h-18 shrink-0 items-stretch gap-2 border-b border-hair px-3 py-2">
      <ol aria-label="This round" className="flex min-w-0 flex-1 gap-2 overflow-x-auto">
        {round.loads.map(({ id, document, glasses, otherwise }, i) => {
          const own = steps.filter((s) => s.load === id)
          const done = own.filter((s) => isTicked(round, s)).length
          const open = own.find((s) => !isTicked(round, s)) ?? own[0]
          const isHere = id === inHand
          return (
            <li key={id} className="max-w-72 min-w-40 shrink-0">
              <button
                type="button"
                aria-current={isHere ? 'step' : undefined}
                onClick={() => open && onLook(open.id)}
                className={`rail-act h-full min-h-14 w-full flex-col items-start px-3 py-1 text-left ${isHere ? 'border-ink' : ''}`}
              >
                <span className="w-full truncate">
                  {round.loads.length > 1 && <span className="text-soft">{i + 1} · </span>}
                  {glasses > 1 && <b>{glasses} × </b>}
                  {document.name}
                  {document.serves > 1 && ` for ${document.serves}`}
                </span>
                {otherwise && <span className="w-full truncate text-base text-mind">{otherwise}</span>}
                <span className="mt-1 h-1.5 w-full bg-shallow" role="presentation">
                  <span
                    className="block h-full bg-ink"
                    style={{ width: `${own.length > 0 ? (100 * done) / own.length : 0}%` }}
                  />
                </span>
                <span className="sr-only">
                  {done} of {own.length} steps done
                </span>
              </button>
            </li>
          )
        })}
      </ol>
      {round.words && (
        <span className="max-w-40 self-center truncate text-lg text-soft max-sm:hidden">{round.words}</span>
      )}
      <button type="button" className="rail-quiet shrink-0" onClick={onPark}>
        Put aside
      </button>
    </div>
  )
}
