import { ICE_KINDS, METHODS, POURS } from '@conch/core/cold'
import type { DrinkDocument } from '@conch/core/drink'
import { UNITS } from '@conch/core/measure'
import type { ReadSpec } from '@conch/core/reading'
import { keysOf } from '@conch/core/schema/keysOf'
import { useHouse } from '../../app/house.tsx'
import { NumberField } from '../../ui/NumberField.tsx'
import { type Choices, type ForMany, SOURCE_UNITS, servesOf } from './pastedDrink.ts'

/** What is done, with what nobody wrote marked as ours. */
export function ReadMethod({
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
    (p) =>
      `${Math.round(p.massG)} g ${ICE_KINDS[p.kind].label} in the glass${p.asWritten ? ` (${p.asWritten})` : ''}${p.fill && !document?.glass ? ', until a glass is chosen' : ''}`,
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
export function ForHowMany({
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
export function Unplaced({
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
export function SourceMeasures({
  spec,
  choices,
  onChange,
}: {
  spec: ReadSpec
  choices: Choices
  onChange: (sourceKit: Choices['sourceKit']) => void
}) {
  const { kit } = useHouse().book.settings
  const used = keysOf(SOURCE_UNITS).filter((unit) => spec.lines.some((l) => l.amount?.unit === unit))
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
