import { keysOf } from '@conch/core/schema/keysOf'
import { GUEST_WISHES, type GuestWish, wishAsked } from '@conch/core/service'
import { useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { jiggerText } from '../../graphics/format.ts'
import { tuneOnce } from '../../workers/tune.ts'
import type { Asked } from './asked.ts'

/** What a guest wishes for one serve: the nearest that the jiggers pour, once. */
export function Wishes({
  asked,
  onWished,
}: {
  asked: Asked
  onWished: (next: (now: readonly Asked[], at: number) => Asked[]) => void
}) {
  const { book, well } = useHouse()
  const [searching, setSearching] = useState<GuestWish>()
  const [said, setSaid] = useState<string>()
  const wish = async (which: GuestWish) => {
    setSaid(undefined)
    const question = wishAsked(asked.load.document, book, well.slug, which)
    if (!question.ok) return setSaid(question.words)
    if (!question.asked) return setSaid(`Make it as it is: ${question.words}.`)
    setSearching(which)
    const { book: _, ...rest } = question.asked
    const result = await tuneOnce(book, rest).catch(() => undefined)
    setSearching(undefined)
    if (!result) return setSaid('That was not found: try again.')
    if (result.outcome === 'contradiction') return setSaid(result.reason)
    const answer =
      result.outcome === 'found'
        ? result.answers[0]
        : result.outcome === 'meets'
          ? result.answer
          : result.outcome === 'none'
            ? result.closest
            : undefined
    if (!answer) return setSaid('The jiggers pour nothing that comes near.')
    const near = result.outcome === 'none' ? 'as near as it comes' : undefined
    const moved = answer.lines.map((l) => `${l.name} ${jiggerText(l.toMl, book.settings)}`)
    const said = question.words === GUEST_WISHES[which] ? [] : [question.words]
    const otherwise = [GUEST_WISHES[which], [...said, ...moved, near].filter(Boolean).join(', ')]
      .filter(Boolean)
      .join(': ')
      .slice(0, 120)
    onWished((now, at) =>
      now.flatMap((a, i) => {
        if (i !== at) return [a]
        const wished: Asked = {
          ...a,
          key: `${a.key} ${which}`,
          glasses: 1,
          load: { ...a.load, document: answer.document, otherwise },
        }
        return a.glasses > 1 ? [{ ...a, glasses: a.glasses - 1 }, wished] : [wished]
      }),
    )
  }
  return (
    <div className="pb-2">
      <p className="text-base text-soft">For one serve; the spec stays as it is.</p>
      <div className="grid grid-cols-2 gap-1.5">
        {keysOf(GUEST_WISHES).map((which) => (
          <button
            key={which}
            type="button"
            className="rail-act min-h-14 px-2 text-lg"
            disabled={searching !== undefined}
            onClick={() => void wish(which)}
          >
            {searching === which ? 'looking …' : GUEST_WISHES[which]}
          </button>
        ))}
      </div>
      {said && (
        <p role="status" className="mt-1 border-l-4 border-mind pl-2 text-lg">
          {said}
        </p>
      )}
    </div>
  )
}
