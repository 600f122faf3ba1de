import type { Foresight } from '@conch/contract'
import { currencyOf } from '@conch/core/house'
import { useHouse } from '../app/house.tsx'
import { moneyText } from '../graphics/format.ts'
import { hurts, isOnMenu, wordsAt } from './words.ts'

/** Every drink that is another one by a change: the menu first, what hurts before the rest. */
export function ForesightLines({ drinks }: Pick<Foresight, 'drinks'>) {
  const { book } = useHouse()
  const currency = currencyOf(book.settings)
  const rank = (d: Foresight['drinks'][number]) => (isOnMenu(d) ? 0 : 2) + (hurts(d) ? 0 : 1)
  return (
    <ul className="max-h-64 overflow-y-auto border-t border-hair" aria-label="What moves">
      {[...drinks]
        .sort((a, b) => rank(a) - rank(b))
        .map((d) => (
          <li key={d.drink} className="border-b border-hair/60 py-1">
            <b className={`font-semibold ${hurts(d) ? 'text-stop' : ''}`}>{d.name}</b>
            {!isOnMenu(d) && <span className="caption"> not on the menu</span>}
            {d.at.map((at) => (
              <span key={at.well} className="block text-sm">
                <span className="text-soft">{book.wells.find((w) => w.slug === at.well)?.name ?? at.well}:</span>{' '}
                {wordsAt(at, (amount) => moneyText(amount, currency)).join('; ')}
              </span>
            ))}
          </li>
        ))}
    </ul>
  )
}
