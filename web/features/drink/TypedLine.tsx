import { mayDo } from '@conch/contract'
import type { DrinkDocument, PourLine } from '@conch/core/drink'
import { bySlug, type HouseBook, isWeighed, nameIn } from '@conch/core/house'
import { amountText, type LineFlag, type ReadLine, readLine } from '@conch/core/measure'
import {
  flagUnusual,
  matchIngredient,
  matchSlot,
  refusedHere,
  sureMatch,
  swappedWith,
  type Usual,
} from '@conch/core/reading'
import { useEffect, useMemo, useState } from 'react'
import { useShelf } from '../../app/shelf.ts'
import { useWho } from '../../app/who.ts'
import { IngredientDialog } from '../../shelf/IngredientDialog.tsx'
import { useFruitMl } from '../../shelf/useFruitMl.ts'
import { useSettled } from '../../ui/useSettled.ts'

/** What is odd about a pour as it stands: its own words disagree, or nobody pours so much of it. */
export function flagsOf(
  pour: PourLine,
  {
    book,
    serves,
    usual,
    older,
    siblings,
  }: {
    book: HouseBook
    serves: number
    usual: Usual
    older: DrinkDocument | undefined
    siblings: readonly DrinkDocument[] | undefined
  },
): LineFlag[] {
  if (!pour.amount || !pour.ingredient) return []
  const written = pour.amount.asWritten ? readLine(pour.amount.asWritten, { kit: book.settings.kit }).flags : []
  // A word that was looked at and left is still shown: the two amounts stand on the card.
  const line = {
    amount: pour.amount,
    flags: written.filter((f) => f.code === 'unitsDisagree' && f.likely?.value !== pour.amount?.value),
  }
  flagUnusual(line, pour.ingredient, serves, { book, usual, ...(siblings ? { siblings } : {}) })
  const swapped = older && swappedWith(pour.ingredient, book, older)
  const refused = older && refusedHere(pour.ingredient, book, older)
  return [...line.flags, ...(swapped ? [swapped] : []), ...(refused ? [refused] : [])]
}

const TYPING_MS = 120
/** Things of the shelf that are looked at for a line. */
const MOST_MEANT = 40

interface TypedLineProps {
  book: HouseBook
  onPour: (pour: PourLine) => void
}

/** A pour typed as books write it: read while one types, added with Enter. */
export function TypedLine({ book, onPour }: TypedLineProps) {
  const [text, setText] = useState('')
  const [isShelving, setShelving] = useState(false)
  const mayShelve = mayDo(useWho().role, 'editHouse')
  const fruitMl = useFruitMl()
  const read: ReadLine | undefined = text.trim() ? readLine(text, { kit: book.settings.kit, fruitMl }) : undefined
  const words = read?.words.trim() ?? ''
  const settled = useSettled(words, TYPING_MS)
  const found = useShelf(useMemo(() => (settled === '' ? undefined : { meant: settled, limit: MOST_MEANT }), [settled]))
  // Before the house has looked, nobody knows whether something else is meant more surely.
  const isLookedFor = settled === words && found.isReady
  const shelf = book.ingredients.filter((i) => !isWeighed(i.kind))
  const matches = read && isLookedFor ? matchIngredient(read.words, shelf) : []
  const sure = sureMatch(matches)
  const slots = read && isLookedFor ? matchSlot(read.words, book.slots ?? []) : []
  const sureSlot = sure ? undefined : sureMatch(slots)
  const add = (what: { ingredient: string } | { slot: string }) => {
    if (!read?.amount) return
    onPour({ ...what, amount: { ...read.amount, asWritten: text.trim().slice(0, 60) }, into: read.into ?? 'tin' })
    setText('')
    setWaiting(false)
  }
  // Enter may come before the house has looked: then the line is added when it has.
  const [isWaiting, setWaiting] = useState(false)
  const enter = () => {
    if (sure) add({ ingredient: sure })
    else if (sureSlot) add({ slot: sureSlot })
    else if (!isLookedFor) setWaiting(true)
  }
  useEffect(() => {
    if (!isWaiting || !isLookedFor) return
    setWaiting(false)
    if (sure) add({ ingredient: sure })
    else if (sureSlot) add({ slot: sureSlot })
  })
  const hint = () => {
    if (!read) return undefined
    if (!read.amount) return read.words.length > 2 ? (read.flags[0]?.text ?? '') : ''
    const name = (sure && nameIn(book.ingredients, sure)) ?? bySlug(book.slots ?? [], sureSlot)?.name
    const flags = sure ? [...read.flags] : []
    const what = name
      ? `${amountText(read.amount)} ${name}: press Enter`
      : !isLookedFor
        ? 'looking on the shelf …'
        : matches.length + slots.length > 0
          ? 'which one?'
          : `nothing on the back bar is called “${read.words}”`
    return [what, ...flags.map((f) => f.text)].join(' · ')
  }
  return (
    <span className="inline-block">
      <input
        aria-label="Type a line"
        className="inplace w-72 max-w-full"
        placeholder="or type it: 1½ oz lime"
        value={text}
        onChange={(e) => {
          setText(e.target.value)
          setWaiting(false)
        }}
        onKeyDown={(e) => {
          if (e.key === 'Escape') setText('')
          if (e.key === 'Enter') enter()
        }}
      />
      {read?.amount && read.words.length > 2 && isLookedFor && !sure && !sureSlot && mayShelve && (
        <button type="button" className="act act-quiet text-sm" onClick={() => setShelving(true)}>
          put “{read.words}” on the shelf …
        </button>
      )}
      {isShelving && read && (
        <IngredientDialog
          ingredient={undefined}
          startName={read.words}
          onClose={() => setShelving(false)}
          onSaved={(ingredient) => add({ ingredient })}
        />
      )}
      {read && (
        <span role="status" className="ml-2 text-sm text-soft">
          {hint()}
          {!sure && !sureSlot && read.amount && (
            <span className="ml-2 inline-flex flex-wrap gap-1">
              {slots.slice(0, 2).map((m) => (
                <button
                  key={m.slug}
                  type="button"
                  className="act min-h-8 text-sm text-ink italic"
                  onClick={() => add({ slot: m.slug })}
                >
                  {bySlug(book.slots ?? [], m.slug)?.name}
                </button>
              ))}
              {matches.slice(0, 4).map((m) => (
                <button
                  key={m.slug}
                  type="button"
                  className="act min-h-8 text-sm text-ink"
                  onClick={() => add({ ingredient: m.slug })}
                >
                  {nameIn(book.ingredients, m.slug)}
                </button>
              ))}
            </span>
          )}
        </span>
      )}
    </span>
  )
}
