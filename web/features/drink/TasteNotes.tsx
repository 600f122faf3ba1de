import { mayDo, type SaidNoteRow, saidNoteSchema } from '@conch/contract'
import { nightText } from '@conch/core/calendar'
import { MEASURES, type Predictions } from '@conch/core/drink'
import { bySlug } from '@conch/core/house'
import { formOf } from '@conch/core/schema'
import { keysOf } from '@conch/core/schema/keysOf'
import { NOTE_WORDS, type NoteWord, openNotes, type Proposal, proposalOf, saidText } from '@conch/core/tasting'
import { queryOptions, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import { z } from 'zod'
import { noteForm, notesKey, notesPath, sayNote } from '../../alone/sayNote.ts'
import { api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { measureText } from '../../graphics/format.ts'
import { ReasonDialog } from '../../ui/ReasonDialog.tsx'

const notesForm = formOf(z.array(saidNoteSchema))
const notesQuery = (drink: string, number: number) =>
  queryOptions({ queryKey: notesKey(drink, number), queryFn: () => api.get(notesPath(drink, number), notesForm) })

interface TasteNotesProps {
  drink: string
  name: string
  number: number
  predictions: Predictions | undefined
}

/** What people say of a drink on its nights: two taps and a word; and what several of them ask for together. */
export function TasteNotes({ drink, name, number, predictions }: TasteNotesProps) {
  const { book, well } = useHouse()
  const who = useWho()
  const notes = useQuery(notesQuery(drink, number)).data ?? []
  const [says, setSays] = useState<NoteWord>()
  const [words, setWords] = useState('')
  const said = notes.map((n) => ({ ...n, by: n.savedBy }))
  const now = Object.fromEntries(Object.entries(predictions ?? {}).map(([m, p]) => [m, p?.value]))
  const proposal = predictions && proposalOf(said, now, book.settings.noteSteps)
  const save = async () => {
    if (!says) return
    try {
      const said = await sayNote({ drink, number, name, says, words, well: well.slug })
      setSays(undefined)
      setWords('')
      toast(said)
    } catch (error) {
      toast.error((error as Error).message)
    }
  }
  return (
    <section aria-label="What was said of it" className="no-print mt-3 border-t border-hair pt-2">
      {proposal && <Asked {...{ drink, number, proposal }} />}
      <Said notes={openNotes(said)} />
      {mayDo(who.role, 'taste') && (
        <>
          <p className="text-sm text-soft">How does it taste tonight?</p>
          <div className="mt-0.5 flex flex-wrap gap-1">
            {keysOf(NOTE_WORDS).map((word) => (
              <button
                key={word}
                type="button"
                aria-pressed={says === word}
                className={`act min-h-8 px-2 text-sm max-sm:min-h-11 ${says === word ? 'act-main' : ''}`}
                onClick={() => setSays(says === word ? undefined : word)}
              >
                {NOTE_WORDS[word]}
              </button>
            ))}
          </div>
        </>
      )}
      {says && (
        <div className="mt-1 flex flex-wrap gap-2">
          <input
            aria-label="A word more"
            className="field min-w-40 flex-1"
            maxLength={300}
            placeholder="a word more, if there is one"
            value={words}
            onChange={(e) => setWords(e.target.value)}
          />
          <button type="button" className="act act-main max-sm:min-h-11" onClick={save}>
            Write it down
          </button>
        </div>
      )}
    </section>
  )
}

function Said({ notes }: { notes: readonly SaidNoteRow[] }) {
  const { book, clock } = useHouse()
  if (notes.length === 0) return null
  return (
    <details className="text-sm">
      <summary className="min-h-8 cursor-pointer text-soft max-sm:py-2">
        {notes.length === 1 ? 'one person has' : `${notes.length} people have`} said something of it
      </summary>
      <ul>
        {notes.map((n) =>
          n.document.kind === 'note' ? (
            <li key={n.id}>
              {NOTE_WORDS[n.document.says]}
              {n.document.words && `, “${n.document.words}”`}{' '}
              <span className="caption">
                {n.savedBy}, {nightText(n.document.saidAt ?? n.savedAt, clock)}, at the{' '}
                {bySlug(book.wells, n.document.well)?.name ?? n.document.well}
                {n.document.lots.length > 0 && `, lot ${n.document.lots.join(', ')}`}
              </span>
            </li>
          ) : null,
        )}
      </ul>
    </details>
  )
}

/** What the notes ask for: a person takes it, with a word, or does not. */
function Asked({ drink, number, proposal }: { drink: string; number: number; proposal: Proposal }) {
  const who = useWho()
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const [answer, setAnswer] = useState<'take' | 'leave'>()
  const { measure, from, to, target } = proposal
  const text = `${MEASURES[measure].label} ${measureText(measure, from)} → ${measureText(measure, to)}`
  const tell = async (isTaken: boolean, words: string) => {
    setAnswer(undefined)
    try {
      await api.post(`${notesPath(drink, number)}/answer`, noteForm, { isTaken, words, proposal: text })
      await queryClient.invalidateQueries({ queryKey: notesQuery(drink, number).queryKey })
      if (isTaken) navigate(`/drinks/${drink}/tune?v=${number}&to=${target}`)
    } catch (error) {
      toast.error((error as Error).message)
    }
  }
  return (
    <div className="mb-2 border-l-2 border-standard pl-3">
      <p>
        <b className="font-semibold">{saidText(proposal)}</b>: {text}?
      </p>
      {mayDo(who.role, 'saveVersion') && (
        <div className="flex gap-2">
          <button type="button" className="act min-h-8 text-sm max-sm:min-h-11" onClick={() => setAnswer('take')}>
            Take it …
          </button>
          <button
            type="button"
            className="act act-quiet min-h-8 text-sm max-sm:min-h-11"
            onClick={() => setAnswer('leave')}
          >
            Leave it …
          </button>
        </div>
      )}
      {answer && (
        <ReasonDialog
          title={answer === 'take' ? 'Take what they ask for?' : 'Leave it as it is?'}
          lead={
            answer === 'take'
              ? 'The tuner looks for the pours; nothing is changed before you take one of its answers.'
              : 'What was said until now is answered with it; what is said from now on counts again.'
          }
          main={answer === 'take' ? 'Take it' : 'Leave it'}
          onClose={() => setAnswer(undefined)}
          onReason={(words) => void tell(answer === 'take', words)}
        />
      )}
    </div>
  )
}
