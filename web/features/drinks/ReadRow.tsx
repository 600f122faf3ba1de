import { mayDo } from '@conch/contract'
import { bySlug, nameApart, nameIn } from '@conch/core/house'
import { type Amount, amountText, readAmount, volumeMlOfAmount } from '@conch/core/measure'
import { flagUnusual, type SpecLine, type Usual } from '@conch/core/reading'
import { useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { mlText } from '../../graphics/format.ts'
import { IngredientDialog } from '../../shelf/IngredientDialog.tsx'
import { IngredientPicker } from '../../shelf/IngredientPicker.tsx'
import { type Answer, pouredOf } from './pastedDrink.ts'

const isSameAmount = (a: Amount, b: Amount | undefined) => a.value === b?.value && a.unit === b.unit

/** A line as it was read: what it pours, how much, and what a person should look at. */
export function ReadRow({
  line,
  serves,
  usual,
  answer,
  onAnswer,
}: {
  line: SpecLine
  serves: number
  usual: Usual
  answer: Answer | undefined
  onAnswer: (change: Answer) => void
}) {
  const { book } = useHouse()
  const chosen = pouredOf(line, answer)
  const slug = chosen && 'ingredient' in chosen ? chosen.ingredient : undefined
  const slot = chosen && 'slot' in chosen ? bySlug(book.slots ?? [], chosen.slot) : undefined
  const amount: Amount | undefined = answer?.amount ?? line.amount
  const ml = amount && volumeMlOfAmount(amount, book.settings.kit)
  const ingredient = bySlug(book.ingredients, slug)
  const asks = chosen === undefined || (chosen !== null && !amount)
  const [isShelving, setShelving] = useState(false)
  const mayShelve = mayDo(useWho().role, 'editHouse')
  // What is usual is asked of what stands there now, not of what was read at first.
  const now: SpecLine = {
    ...line,
    amount,
    flags: line.flags.filter((f) => f.code !== 'unusual' && !(f.likely && isSameAmount(f.likely, answer?.amount))),
  }
  if (slug) flagUnusual(now, slug, serves, { book, usual })
  const flags = chosen === null ? [] : now.flags
  return (
    <li className={`border-b border-hair/60 py-1.5 ${asks ? 'bg-shoal' : ''}`}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <span className={`frac w-24 text-right ${chosen === null ? 'line-through opacity-50' : ''}`}>
          {amount ? amountText(amount) : chosen === null ? '' : <AskedAmount line={line} onAnswer={onAnswer} />}
        </span>
        <span className="caption w-14 text-right">
          {amount && amount.unit !== 'ml' && ml !== undefined && mlText(ml)}
        </span>
        <span className="min-w-40 flex-1">
          <IngredientPicker
            slots={book.slots ?? []}
            onPick={(ingredient) => onAnswer({ what: { ingredient } })}
            onPickSlot={(s) => onAnswer({ what: { slot: s } })}
          >
            <button
              type="button"
              className={`border-b border-dashed border-hair text-left hover:bg-shallow ${ingredient || slot ? '' : 'text-mind'} ${slot ? 'italic' : ''}`}
            >
              {(ingredient && nameApart(ingredient, book.ingredients)) ??
                slot?.name ??
                (chosen === null ? 'left out' : `what is “${line.words}”?`)}
            </button>
          </IngredientPicker>
        </span>
        {line.into && (
          <span className="text-sm text-soft italic">{line.into === 'float' ? 'float' : 'in the glass'}</span>
        )}
        <button
          type="button"
          className="act act-quiet text-sm text-soft"
          onClick={() => onAnswer({ what: chosen === null ? (pouredOf(line, undefined) as undefined) : null })}
        >
          {chosen === null ? 'take it in' : 'leave it out'}
        </button>
      </div>
      <p className="caption pl-[10.500rem]">as written: {line.asWritten}</p>
      {chosen === undefined && mayShelve && (
        <button type="button" className="act act-quiet ml-[10.000rem] text-sm" onClick={() => setShelving(true)}>
          put “{line.words}” on the shelf …
        </button>
      )}
      {isShelving && (
        <IngredientDialog
          ingredient={undefined}
          startName={line.words}
          onClose={() => setShelving(false)}
          onSaved={(ingredient) => onAnswer({ what: { ingredient } })}
        />
      )}
      {chosen === undefined && line.matches.length + line.slots.length > 0 && (
        <p className="flex flex-wrap items-center gap-1 pl-[10.500rem] text-sm">
          {line.slots.slice(0, 2).map((m) => (
            <button
              key={m.slug}
              type="button"
              className="act min-h-8 text-sm italic"
              onClick={() => onAnswer({ what: { slot: m.slug } })}
            >
              {bySlug(book.slots ?? [], m.slug)?.name}
            </button>
          ))}
          {line.matches.slice(0, 4).map((m) => (
            <button
              key={m.slug}
              type="button"
              className="act min-h-8 text-sm"
              onClick={() => onAnswer({ what: { ingredient: m.slug } })}
            >
              {nameIn(book.ingredients, m.slug)}
            </button>
          ))}
        </p>
      )}
      {flags.map((flag) => (
        <p key={flag.text} className="flex flex-wrap items-center gap-2 pl-[10.500rem] text-sm text-mind">
          <span>▲ {flag.text}</span>
          {flag.likely && (
            <button
              type="button"
              className="act min-h-8 text-sm text-ink"
              onClick={() => flag.likely && onAnswer({ amount: flag.likely })}
            >
              take {amountText(flag.likely)}
            </button>
          )}
        </p>
      ))}
    </li>
  )
}

/** How much of it: typed where the line does not say. */
function AskedAmount({ line, onAnswer }: { line: SpecLine; onAnswer: (change: Answer) => void }) {
  const [text, setText] = useState('')
  const read = readAmount(text, 'oz')
  const take = () => {
    if (read.ok && read.amount.value > 0) onAnswer({ amount: read.amount })
  }
  return (
    <input
      aria-label={`How much ${line.words}`}
      className="inplace w-20 text-right"
      placeholder="how much?"
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => {
        if (e.key === 'Enter') take()
      }}
    />
  )
}
