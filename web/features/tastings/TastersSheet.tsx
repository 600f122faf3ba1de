import type { Tasting } from '@conch/contract'
import { keysOf } from '@conch/core/schema/keysOf'
import { type Scores, TASTE_LINES, type TasteLine } from '@conch/core/tasting'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { toast } from 'sonner'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { TASTINGS_KEY } from './queries.ts'

const written = z.object({ id: z.number() })

/** The glasses of one taster, one at a time, in the order that was drawn for them. */
export function TastersSheet({ tasting, taster, onDone }: { tasting: Tasting; taster: string; onDone: () => void }) {
  const { document, sheets } = tasting
  const order = document.orders[document.tasters.indexOf(taster)] ?? []
  const done = new Set(sheets.filter((s) => s.taster === taster).map((s) => s.code))
  const [code, setCode] = useState(() => order.find((c) => !done.has(c)) ?? order[0] ?? '')
  const next = order[order.indexOf(code) + 1]
  return (
    <section aria-label={`Sheet of ${taster}`}>
      <nav aria-label="Glasses" className="mb-3 flex flex-wrap items-center gap-2">
        <span className="text-soft">{taster},</span>
        {order.map((c) => (
          <button
            key={c}
            type="button"
            className={`act min-h-11 ${c === code ? 'act-main' : ''}`}
            aria-current={c === code}
            onClick={() => setCode(c)}
          >
            {c}
            {done.has(c) && (
              <span role="img" aria-label="judged">
                {' '}
                ✓
              </span>
            )}
          </button>
        ))}
        <button type="button" className="act act-quiet min-h-11" onClick={onDone}>
          Somebody else
        </button>
      </nav>
      <Glass
        key={code}
        tasting={tasting}
        taster={taster}
        code={code}
        isLast={next === undefined}
        onWritten={() => {
          if (next) setCode(next)
          else {
            toast('Thank you: that was the last glass.')
            onDone()
          }
        }}
      />
    </section>
  )
}

interface GlassProps {
  tasting: Tasting
  taster: string
  code: string
  isLast: boolean
  onWritten: () => void
}

function Glass({ tasting, taster, code, isLast, onWritten }: GlassProps) {
  const queryClient = useQueryClient()
  const before = tasting.sheets.find((s) => s.taster === taster && s.code === code)
  const [scores, setScores] = useState<Scores>(before?.scores ?? {})
  const [words, setWords] = useState(before?.words ?? '')
  const [isBusy, setBusy] = useState(false)
  const write = async () => {
    setBusy(true)
    try {
      await api.post(`/api/tastings/${tasting.id}/sheets`, written, { taster, code, scores, words })
      await queryClient.invalidateQueries({ queryKey: TASTINGS_KEY })
      onWritten()
    } catch (error) {
      toast.error((error as Error).message)
    } finally {
      setBusy(false)
    }
  }
  return (
    <>
      <h2 className="font-display text-5xl font-semibold" aria-label={`Glass ${code}`}>
        {code}
      </h2>
      {keysOf(TASTE_LINES).map((line) => (
        <Line
          key={line}
          line={line}
          value={scores[line]}
          onChange={(value) => {
            const { [line]: _, ...others } = scores
            setScores(value === undefined ? others : { ...others, [line]: value })
          }}
        />
      ))}
      <textarea
        aria-label="In words"
        className="field mt-3"
        rows={2}
        maxLength={300}
        placeholder="in words, if there are any"
        value={words}
        onChange={(e) => setWords(e.target.value)}
      />
      <button
        type="button"
        className="act act-main mt-3 min-h-14 w-full justify-center"
        disabled={isBusy || (Object.keys(scores).length === 0 && words.trim() === '')}
        onClick={write}
      >
        {isLast ? 'That is all' : 'The next glass'}
      </button>
    </>
  )
}

/** One line of judgement: as many places as it has, its ends in words. A second tap takes it back. */
function Line({
  line,
  value,
  onChange,
}: {
  line: TasteLine
  value: number | undefined
  onChange: (value: number | undefined) => void
}) {
  const { low, middle, high, least, most } = TASTE_LINES[line]
  const places = Array.from({ length: most - least + 1 }, (_, i) => least + i)
  const wordOf = (place: number) =>
    place === least ? low : place === most ? high : place === (least + most) / 2 ? middle : ''
  return (
    <fieldset className="mt-3">
      <legend className="sr-only">{line}</legend>
      <div className="flex gap-1">
        {places.map((place) => (
          <button
            key={place}
            type="button"
            aria-pressed={value === place}
            aria-label={wordOf(place) || `${line} ${place}`}
            className={`min-h-12 flex-1 border px-1 text-sm leading-tight ${value === place ? 'border-ink bg-ink text-paper' : 'border-hair hover:bg-shallow'}`}
            onClick={() => onChange(value === place ? undefined : place)}
          >
            {wordOf(place)}
          </button>
        ))}
      </div>
    </fieldset>
  )
}
