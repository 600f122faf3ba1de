import { bySlug, type Ingredient } from '@conch/core/house'
import { MOST_IN_A_FLIGHT, STYLE_AXIS_NAMES, type StyleAxis } from '@conch/core/palate'
import { formOf } from '@conch/core/schema'
import { flightSchema, styleSchema } from '@conch/core/schema/palate'
import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { toast } from 'sonner'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { refreshHouse } from '../../app/queries.ts'
import { useShelfOf } from '../../app/shelf.ts'
import { readStored, writeStored } from '../../app/stored.ts'
import { useWho } from '../../app/who.ts'
import { IngredientPicker } from '../../shelf/IngredientPicker.tsx'
import { NeedShelf } from '../../shelf/NeedShelf.tsx'
import { AxisLine } from './AxisLine.tsx'

const flightInMaking = z.object({
  bottles: z.array(z.object({ slug: z.string(), style: formOf(styleSchema) })),
  note: z.string(),
})
type FlightInMaking = z.infer<typeof flightInMaking>

const flightForm = formOf(flightSchema)
const KEY = 'conch:flight'
const LETTERS = 'ABCDEF'

/** A tasting flight: bottles side by side, each put on the lines with a finger; who tasted and when is kept. */
export function FlightPage() {
  const [search] = useSearchParams()
  const asked = (search.get('with') ?? '').split(',').filter(Boolean)
  const kept = readStored(KEY, flightInMaking)?.bottles.map((b) => b.slug) ?? []
  return (
    <NeedShelf what="what is tasted" of={[...asked, ...kept]}>
      {() => <Flight />}
    </NeedShelf>
  )
}

function Flight() {
  const { book, house } = useHouse()
  const who = useWho()
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const [search] = useSearchParams()
  const [flight, setFlight] = useState<FlightInMaking>(() => {
    const asked = (search.get('with') ?? '').split(',').filter((s) => bySlug(house.ingredients, s))
    const kept = readStored(KEY, flightInMaking)
    if (kept && kept.bottles.length > 0) {
      // What is half placed is not lost: the newcomer is put beside it.
      const more = asked.filter((s) => !kept.bottles.some((b) => b.slug === s)).map((slug) => ({ slug, style: {} }))
      return { ...kept, bottles: [...kept.bottles, ...more].slice(0, MOST_IN_A_FLIGHT) }
    }
    return { bottles: asked.slice(0, MOST_IN_A_FLIGHT).map((slug) => ({ slug, style: {} })), note: '' }
  })
  const [active, setActive] = useState(0)
  const [problem, setProblem] = useState<string>()
  useEffect(() => writeStored(KEY, flight.bottles.length > 0 ? flight : undefined), [flight])
  const { bottles, note } = flight
  useShelfOf(bottles.map((b) => b.slug))
  const place = (index: number, axis: StyleAxis, at: number) => {
    setActive(index)
    setFlight({
      ...flight,
      bottles: bottles.map((b, i) => (i === index ? { ...b, style: { ...b.style, [axis]: at } } : b)),
    })
  }
  const isFree = (i: Ingredient) => i.figures.abvPct.value > 0 && !bottles.some((b) => b.slug === i.slug)
  const count = bottles.reduce((sum, b) => sum + Object.keys(b.style).length, 0)
  const keep = async () => {
    try {
      const scores = bottles.map((b) => ({ ingredient: b.slug, style: b.style }))
      await api.post('/api/flights', flightForm, {
        document: { scores, ...(note.trim() ? { note: note.trim() } : {}) },
      })
      await refreshHouse(queryClient)
      writeStored(KEY, undefined)
      setFlight({ bottles: [], note: '' })
      toast('The flight is written down, under your name.')
      navigate('/base')
    } catch (e) {
      setProblem(e instanceof Error ? e.message : String(e))
    }
  }
  return (
    <div className="mx-auto max-w-5xl px-4 pt-4 pb-10">
      <header className="mb-2 flex flex-wrap items-baseline gap-3">
        <div className="mr-auto">
          <h1 className="text-3xl">Taste a flight</h1>
          <p className="caption">
            tasted by {who.name} · a small letter is where the house has it until now · half placed is kept on this
            device
          </p>
        </div>
        {bottles.length > 0 && (
          <button type="button" className="act" onClick={() => setFlight({ bottles: [], note: '' })}>
            Begin again
          </button>
        )}
        <button type="button" className="act act-main" disabled={bottles.length < 2 || count === 0} onClick={keep}>
          Write it down
        </button>
      </header>
      <ul
        aria-label="Bottles"
        className="sticky top-0 z-20 mb-2 flex flex-wrap gap-1 border-b border-ink bg-paper py-2"
      >
        {bottles.map((b, i) => (
          <li key={b.slug} className="flex">
            <button
              type="button"
              aria-pressed={i === active}
              className={`act max-sm:min-h-11 ${i === active ? 'act-main' : ''}`}
              onClick={() => setActive(i)}
            >
              <b className="font-semibold">{LETTERS[i]}</b> {bySlug(book.ingredients, b.slug)?.name ?? b.slug}
            </button>
            <button
              type="button"
              className="px-1.5 text-soft hover:bg-shallow"
              aria-label={`Take ${bySlug(book.ingredients, b.slug)?.name} out of the flight`}
              onClick={() => {
                setFlight({ ...flight, bottles: bottles.filter((_, n) => n !== i) })
                setActive(0)
              }}
            >
              ×
            </button>
          </li>
        ))}
        {bottles.length < MOST_IN_A_FLIGHT && (
          <li>
            <IngredientPicker
              isFree={isFree}
              onPick={(slug) => {
                setFlight({ ...flight, bottles: [...bottles, { slug, style: {} }] })
                setActive(bottles.length)
              }}
            >
              <button type="button" className="act act-quiet text-soft max-sm:min-h-11">
                Add a bottle
              </button>
            </IngredientPicker>
          </li>
        )}
      </ul>
      {bottles.length < 2 && (
        <p className="py-3 text-lg text-soft">
          Put two to six glasses in front of you and choose their bottles. Then, line by line, tap where each belongs
          beside the others: comparing is easier than scoring.
        </p>
      )}
      {bottles.length >= 2 &&
        STYLE_AXIS_NAMES.map((axis) => (
          <AxisLine
            key={axis}
            axis={axis}
            active={active}
            onActivate={setActive}
            onPlace={(i, at) => place(i, axis, at)}
            places={bottles.map((b, i) => ({
              letter: LETTERS[i] ?? '?',
              name: bySlug(book.ingredients, b.slug)?.name ?? b.slug,
              place: b.style[axis],
              before: book.profiles?.[b.slug]?.[axis],
            }))}
          />
        ))}
      {bottles.length >= 2 && (
        <label className="mt-3 block">
          <span className="text-sm font-semibold">Note</span>
          <input
            className="field"
            maxLength={500}
            placeholder="what the lines do not say"
            value={note}
            onChange={(e) => setFlight({ ...flight, note: e.target.value })}
          />
        </label>
      )}
      {problem && (
        <p role="alert" className="mt-3 border-l-4 border-stop pl-3 text-stop">
          {problem}
        </p>
      )}
    </div>
  )
}
