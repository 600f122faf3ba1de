import { drinkSchema, mayDo } from '@conch/contract'
import { ICE_KINDS, METHODS, POURS } from '@conch/core/cold'
import type { DrinkDocument } from '@conch/core/drink'
import { bySlug } from '@conch/core/house'
import { fillWithIce } from '@conch/core/means'
import { type Amount, amountText, readAmount, UNITS, volumeMlOfAmount } from '@conch/core/measure'
import { flagUnusual, type ReadSpec, readSpec, type SpecLine, type Usual } from '@conch/core/reading'
import { formOf } from '@conch/core/schema'
import { useQueryClient } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { ApiError, api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { drinksQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { mlText } from '../../graphics/format.ts'
import { IngredientDialog } from '../../shelf/IngredientDialog.tsx'
import { IngredientPicker } from '../../shelf/IngredientPicker.tsx'
import { useFruitMl } from '../../shelf/useFruitMl.ts'
import { useUsual } from '../../shelf/useUsual.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { Field } from '../../ui/Field.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import {
  type Answer,
  type Choices,
  type ForMany,
  keyOf,
  openQuestions,
  pouredOf,
  SOURCE_UNITS,
  servesOf,
  toDocument,
} from './pastedDrink.ts'

const EXAMPLE = `Harbour Bell
1 1/2 oz gold rum
22,5 ml / ¾ oz lime
half oz orgeat
2-3 dashes bitters
Flash blend with crushed ice for 4 seconds, open pour
Garnish: mint`

/** A recipe pasted as text: every line is read as it stands, matched, or asks. */
export function PasteSpec({ onClose }: { onClose: () => void }) {
  const { book, well } = useHouse()
  const [text, setText] = useState('')
  const [choices, setChoices] = useState<Choices>({ answers: {}, leftovers: {} })
  const [name, setName] = useState<string>()
  const [error, setError] = useState<string>()
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const usual = useUsual()
  const fruitMl = useFruitMl()
  const spec = useMemo(
    () => readSpec(text, { book, usual, fruitMl, well: well.slug }),
    [text, book, usual, fruitMl, well.slug],
  )
  const choose = (change: Partial<Choices>) => setChoices({ ...choices, ...change })
  const answer = (key: string, change: Answer) =>
    choose({ answers: { ...choices.answers, [key]: { ...choices.answers[key], ...change } } })
  const open = openQuestions(spec, choices)
  const shownName = name ?? spec.name ?? ''
  const serves = servesOf(spec, choices)
  const document = useMemo(
    () =>
      toDocument(spec, shownName, choices, book.settings.kit, (d, ice) =>
        ice.fill ? fillWithIce(d, book, well.slug, ice.kind, ice.fill) : { ok: false, reason: '' },
      ),
    [spec, shownName, choices, book, well.slug],
  )
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
      lead="Paste it as it is written. Nothing is changed or dropped silently: what does not fit is marked, and you decide."
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
              setError(undefined)
            }}
          />
          <SourceMeasures spec={spec} choices={choices} onChange={(sourceKit) => choose({ sourceKit })} />
        </div>
        <div>
          {spec.lines.length + spec.unplaced.length === 0 ? (
            <p className="text-soft">What is read appears here, line by line.</p>
          ) : (
            <>
              <Field label="Name" error={error}>
                {(props) => (
                  <input {...props} maxLength={120} value={shownName} onChange={(e) => setName(e.target.value)} />
                )}
              </Field>
              <ol aria-label="What was read">
                {spec.lines.map((line, i) => {
                  const key = keyOf(spec.lines, i)
                  return (
                    <ReadRow
                      key={key}
                      line={line}
                      serves={serves}
                      usual={usual}
                      answer={choices.answers[key]}
                      onAnswer={(change) => answer(key, change)}
                    />
                  )
                })}
              </ol>
              {(serves > 1 || spec.servesUpTo !== undefined) && (
                <ForHowMany spec={spec} choices={choices} onChange={choose} />
              )}
              <ReadMethod spec={spec} document={document} onGlass={(glass) => choose({ glass })} />
              <Unplaced spec={spec} choices={choices} onChange={(leftovers) => choose({ leftovers })} />
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

/** What is done, with what nobody wrote marked as ours. */
function ReadMethod({
  spec,
  document,
  onGlass,
}: {
  spec: ReadSpec
  document: DrinkDocument | undefined
  onGlass: (slug: string | undefined) => void
}) {
  const { book } = useHouse()
  const stages = (document?.stages ?? spec.stages).map((s) => {
    const ice =
      s.ice && (s.ice.length === 0 ? 'no ice' : s.ice.map((p) => `${p.massG} g ${ICE_KINDS[p.kind].label}`).join(', '))
    const bursts = s.bursts && `${s.bursts} bursts`
    const parts = [s.durationS !== undefined && `${s.durationS} s`, bursts, ice, s.pour && POURS[s.pour].label]
    return [s.method && METHODS[s.method].label, ...parts].filter(Boolean).join(' · ')
  })
  const serveIce = (document?.serveIce ?? []).map(
    (p) => `${Math.round(p.massG)} g ${ICE_KINDS[p.kind].label} in the glass${p.asWritten ? ` (${p.asWritten})` : ''}`,
  )
  const words = [...stages, ...serveIce, ...spec.garnish, spec.hasFlame && 'with flame'].filter(Boolean)
  return (
    <div className="mt-2 text-sm">
      {words.length > 0 && <p>{words.join(' · ')}</p>}
      {book.glasses.length > 0 && (
        <p>
          <span className="text-soft">glass</span>{' '}
          <select
            aria-label="Glass"
            className="inplace"
            value={document?.glass ?? ''}
            onChange={(e) => onGlass(e.target.value || undefined)}
          >
            <option value="">none was read</option>
            {book.glasses.map((g) => (
              <option key={g.slug} value={g.slug}>
                {g.name}
              </option>
            ))}
          </select>
        </p>
      )}
      {spec.ours.length > 0 && <p className="text-soft italic">not written, ours: {spec.ours.join(' · ')}</p>}
    </div>
  )
}

/** A spec for several is made in a bowl, or each guest's by itself. */
function ForHowMany({
  spec,
  choices,
  onChange,
}: {
  spec: ReadSpec
  choices: Choices
  onChange: (change: Partial<Choices>) => void
}) {
  const serves = servesOf(spec, choices)
  const upTo = spec.servesUpTo ?? spec.serves
  const choice = (forMany: ForMany, words: string) => (
    <button
      type="button"
      className={`act min-h-8 text-sm ${choices.forMany === forMany ? 'act-main' : ''}`}
      aria-pressed={choices.forMany === forMany}
      onClick={() => onChange({ forMany })}
    >
      {words}
    </button>
  )
  return (
    <p className={`mt-2 flex flex-wrap items-center gap-2 text-sm ${choices.forMany ? '' : 'bg-shoal p-1 text-mind'}`}>
      <span>
        {spec.servesUpTo === undefined
          ? `Written for ${serves}:`
          : `Written for ${spec.serves} to ${spec.servesUpTo}; for`}
      </span>
      {spec.servesUpTo !== undefined && (
        <select
          aria-label="For how many"
          className="inplace"
          value={serves}
          onChange={(e) => onChange({ serves: Number(e.target.value) })}
        >
          {Array.from({ length: upTo - spec.serves + 1 }, (_, i) => spec.serves + i).map((n) => (
            <option key={n} value={n}>
              {n}
            </option>
          ))}
        </select>
      )}
      {choice('oneServe', `one serve of it, 1/${serves} of everything`)}
      {choice('bowl', `a bowl for ${serves}, as written`)}
    </p>
  )
}

/** What is none of the drink: a note, or left out; nothing by itself. */
function Unplaced({
  spec,
  choices,
  onChange,
}: {
  spec: ReadSpec
  choices: Choices
  onChange: (leftovers: Choices['leftovers']) => void
}) {
  if (spec.unplaced.length === 0) return null
  const { leftovers } = choices
  const isAsked = spec.unplaced.some((t) => leftovers[t] === undefined)
  const all = (as: 'note' | 'out') =>
    onChange({ ...leftovers, ...Object.fromEntries(spec.unplaced.map((t) => [t, as])) })
  return (
    <section aria-label="Not placed" className={`mt-2 p-1 text-sm ${isAsked ? 'bg-shoal' : ''}`}>
      <p className="flex flex-wrap items-center gap-2">
        <span className={isAsked ? 'text-mind' : 'text-soft'}>What is this?</span>
        {spec.unplaced.length > 1 && (
          <button type="button" className="act min-h-8 text-sm" onClick={() => all('note')}>
            all of it a note
          </button>
        )}
      </p>
      <ul>
        {[...new Set(spec.unplaced)].map((text) => (
          <li key={text} className="flex flex-wrap items-center gap-2">
            <span className={`mr-auto ${leftovers[text] === 'out' ? 'line-through opacity-50' : ''}`}>“{text}”</span>
            {(['note', 'out'] as const).map((as) => (
              <button
                key={as}
                type="button"
                className={`act min-h-8 text-sm ${leftovers[text] === as ? 'act-main' : ''}`}
                aria-pressed={leftovers[text] === as}
                onClick={() => onChange({ ...leftovers, [text]: as })}
              >
                {as === 'note' ? 'a note' : 'leave it out'}
              </button>
            ))}
          </li>
        ))}
      </ul>
    </section>
  )
}

/** A book may have its own ounce and its own spoon: what it writes in them is taken over in ml. */
function SourceMeasures({
  spec,
  choices,
  onChange,
}: {
  spec: ReadSpec
  choices: Choices
  onChange: (sourceKit: Choices['sourceKit']) => void
}) {
  const { kit } = useHouse().book.settings
  const used = (Object.keys(SOURCE_UNITS) as (keyof typeof SOURCE_UNITS)[]).filter((unit) =>
    spec.lines.some((l) => l.amount?.unit === unit),
  )
  if (used.length === 0) return null
  return (
    <p className="caption mt-2 flex flex-wrap items-baseline gap-x-3">
      <span>In this source</span>
      {used.map((unit) => {
        const key = SOURCE_UNITS[unit]
        return (
          <span key={unit}>
            {UNITS[unit].label}{' '}
            <NumberField
              label={`A ${UNITS[unit].label} of this source, ml`}
              value={choices.sourceKit?.[key] ?? kit[key]}
              low={0.01}
              high={300}
              step={0.5}
              digits={3}
              onChange={(ml) => onChange({ ...choices.sourceKit, [key]: ml })}
            />{' '}
            ml
          </span>
        )
      })}
    </p>
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
