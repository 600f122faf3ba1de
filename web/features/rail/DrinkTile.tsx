import type { RailDrink } from './useRailMenu.ts'

/** A drink of the menu: a tap is one glass. What is dark tonight says why, and cannot be tapped. */
export function DrinkTile({ drink, count, onTap }: { drink: RailDrink; count: number; onTap: () => void }) {
  const isDark = drink.state === 'dark' || drink.state === 'off' || !drink.document
  return (
    <button
      type="button"
      className="rail-act h-full min-h-18 w-full justify-between px-3 text-left"
      aria-pressed={count > 0}
      disabled={isDark}
      onClick={onTap}
    >
      <span className="min-w-0">
        <span className="block break-words">{drink.name}</span>
        {drink.words && <span className={`block text-base ${isDark ? 'text-stop' : 'text-mind'}`}>{drink.words}</span>}
        {!drink.document && <span className="block text-base text-stop">not known on this tablet</span>}
      </span>
      {count > 0 && <b className="font-display text-3xl">{count}</b>}
    </button>
  )
}
