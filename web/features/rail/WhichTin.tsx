import type { RoundLoad, SharedPour } from '@conch/core/service'

/** The same bottle for several tins: which of them is in hand, how much goes into each, and what it comes to. */
export function WhichTin({
  shared,
  loads,
  inHand,
}: {
  shared: SharedPour
  loads: readonly RoundLoad[]
  inHand: string
}) {
  return (
    <p className="text-2xl" data-shared>
      {shared.parts.map((part, i) => {
        const at = loads.findIndex((l) => l.id === part.load)
        const isHere = part.load === inHand
        return (
          <span key={part.load} className={isHere ? 'font-semibold' : 'text-soft'}>
            {i > 0 && ' + '}
            {part.text}
            <span className="text-lg"> in {at + 1}</span>
          </span>
        )
      })}
      <span className="text-soft"> = {shared.totalText}</span>
    </p>
  )
}
