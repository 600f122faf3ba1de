import { drinkSchema } from '@conch/contract'
import { bySlug } from '@conch/core/house'
import { type Amount, amountText, volumeMlOfAmount } from '@conch/core/measure'
import { flagUnusual, readSpec, type SpecLine, type Usual } from '@conch/core/reading'
import { formOf } from '@conch/core/schema'
import { useQueryClient } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { ApiError, api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { drinksQuery } from '../../app/queries.ts'
import { mlText } from '../../graphics/format.ts'
import { IngredientPicker } from '../../shelf/IngredientPicker.tsx'
import { useFruitMl } from '../../shelf/useFruitMl.ts'
import { useUsual } from '../../shelf/useUsual.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { Field } from '../../ui/Field.tsx'
import { type Answer, type Answers, openQuestions, pouredOf, toDocument } from './pastedDrink.ts'

const EXAMPLE = `Harbour Bell
1 1/2 oz gold rum
22,5 ml / ¾ oz lime
half oz orgeat
2-3 dashes bitters
Flash blend with crushed ice for 4 seconds, open pour
Garnish: mint`

/** A recipe pasted as text: every line is read as it stands, matched, or asks. */
export function PasteSpec({ onClose }: { onClose: () => void }) {
  const { book } = useHouse()
  const [text, setText] = useState('')
  const [answers, setAnswers] = useState<Answers>({})
  const [name, setName] = useState<string>()
  const [error, setError] = useState<string>()
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const usual = useUsual()
  const fruitMl = useFruitMl()
  const spec = useMemo(
    () =>
      readSpec(text, {
        book,
        usual,
        fruitMl,
      }),
    [text, book, usual, fruitMl],
  )
  const answer = (index: number, change: Answer) =>
    setAnswers({ ...answers, [index]: { ...answers[index], ...change } })
  const open = openQuestions(spec, answers)
  const shownName = name ?? spec.name ?? ''
  const document = toDocument(spec, shownName, answers)
  const begin = async () => {
    if (!document) return
    if (shownName.trim() === '') return setError('Give it a name; it can be changed later.')
    try {
      const drink = await api.post('/api/drinks', formOf(drinkSchema), { name: shownName, document })
      await queryClient.invalidateQueries({ queryKey: drinksQuery.queryKey })
      navigate(`/drinks/${drink.slug}`)
    } catch (e) {
      setError(e instanceof ApiError ? e.message : String(e))
    }
  }
  return (
    <Dialog
      isOpen
      onClose={onClose}
      width={980}
      title="A spec from somewhere"
      lead="Paste it as it is written. Nothing is changed silently: what does not fit together is marked, and you decide."
    >
      <div className="grid gap-x-6 gap-y-3 md:grid-cols-[20rem_minmax(0,1fr)]">
        <div>
          <textarea
            aria-label="The spec as text"
            className="field min-h-64 font-text"
            placeholder={EXAMPLE}
            value={text}
            onChange={(e) => {
              setText(e.target.value)
              setAnswers({})
              setError(undefined)
            }}
          />
        </div>
        <div>
          {spec.lines.length === 0 ? (
            <p className="text-soft">What is read appears here, line by line.</p>
          ) : (
            <>
              <Field label="Name" error={error}>
                {(props) => (
                  <input {...props} maxLength={120} value={shownName} onChange={(e) => setName(e.target.value)} />
                )}
              </Field>
              <ol aria-label="What was read">
                {spec.lines.map((line, i) => (
                  <ReadRow
                    key={`${i} ${line.asWritten}`}
                    line={line}
                    serves={spec.serves}
                    usual={usual}
                    answer={answers[i]}
                    onAnswer={(change) => answer(i, change)}
                  />
                ))}
              </ol>
              <p className="mt-2 text-sm text-soft">
                {[
                  spec.serves > 1 ? `for ${spec.serves}` : '',
                  spec.stage?.method ? 'chilled as written' : 'no chill was read',
                  spec.glass ? (bySlug(book.glasses, spec.glass)?.name ?? '') : 'no glass was read',
                  ...spec.garnish,
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </p>
              {spec.notes.length > 0 && <p className="caption">kept as a note: {spec.notes.join(' / ')}</p>}
            </>
          )}
        </div>
      </div>
      <div className="mt-4 flex items-center justify-end gap-3">
        <span role="status" className="mr-auto text-sm text-mind">
          {open.length > 0 && `${open.length} ${open.length === 1 ? 'line asks' : 'lines ask'} something`}
        </span>
        <button type="button" className="act" onClick={onClose}>
          Not yet
        </button>
        <button type="button" className="act act-main" disabled={!document || open.length > 0} onClick={begin}>
          Begin with this
        </button>
      </div>
    </Dialog>
  )
}

const isSameAmount = (a: Amount, b: Amount | undefined) => a.value === b?.value && a.unit === b.unit

function ReadRow({
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
  const asks = chosen === undefined || !amount
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
          {amount ? amountText(amount) : '?'}
        </span>
        <span className="caption w-14 text-right">
          {amount && amount.unit !== 'ml' && ml !== undefined && mlText(ml)}
        </span>
        <span className="min-w-40 flex-1">
          <IngredientPicker
            ingredients={book.ingredients}
            slots={book.slots ?? []}
            onPick={(ingredient) => onAnswer({ what: { ingredient } })}
            onPickSlot={(s) => onAnswer({ what: { slot: s } })}
          >
            <button
              type="button"
              className={`border-b border-dashed border-hair text-left hover:bg-shallow ${ingredient || slot ? '' : 'text-mind'} ${slot ? 'italic' : ''}`}
            >
              {ingredient?.name ?? slot?.name ?? (chosen === null ? 'left out' : `what is “${line.words}”?`)}
            </button>
          </IngredientPicker>
        </span>
        <button
          type="button"
          className="act act-quiet text-sm text-soft"
          onClick={() => onAnswer({ what: chosen === null ? (pouredOf(line, undefined) as undefined) : null })}
        >
          {chosen === null ? 'take it in' : 'leave it out'}
        </button>
      </div>
      <p className="caption pl-[10.500rem]">as written: {line.asWritten}</p>
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
              {bySlug(book.ingredients, m.slug)?.name}
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
