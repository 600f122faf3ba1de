import { type Given, gradeOf, isRight, type LearnAnswer, type Question, rememberedBy, toAsk } from '@conch/core/learn'
import { useEffect, useMemo, useRef, useState } from 'react'
import { toast } from 'sonner'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { RailFoot, SECOND_TAP_MS } from '../rail/index.ts'
import { Ask } from './Ask.tsx'
import { sendPractice, storeAnswers } from './practice.ts'
import { answerText, questionText } from './questionText.ts'
import type { Edition } from './useEdition.ts'

/** It ends by itself, s. */
const TEN_MINUTES_S = 600
/** What was wrong is asked once more behind so many others; then tomorrow. */
const AGAIN_BEHIND = 6
const MOST_ASKED = 120

interface DrillProps {
  edition: Edition
  answers: readonly LearnAnswer[]
  onClose: () => void
}

/** Ten minutes of questions: what changed first, then what is due, then what was never asked. */
export function Drill({ edition, answers, onClose }: DrillProps) {
  const { book, well } = useHouse()
  const who = useWho()
  const [beganMs] = useState(Date.now)
  const [first] = useState(() =>
    toAsk(edition.questions, rememberedBy(answers), edition.changed, beganMs).slice(0, MOST_ASKED),
  )
  const [queue, setQueue] = useState<Question[]>(first)
  const [draft, setDraft] = useState<Given>()
  const [given, setGiven] = useState<Given>()
  const [mine, setMine] = useState<LearnAnswer[]>([])
  const askedMs = useRef(beganMs)
  const again = useRef(new Set<string>())
  const answeredMs = useRef(0)
  const isSending = useRef(false)
  const question = queue[0]
  const [isOver, setOver] = useState(first.length === 0)

  const answer = (to: Given) => {
    if (!question || given) return
    setGiven(to)
    answeredMs.current = Date.now()
    // Asked again in the same ten minutes it is practice: only the first answer says what was known.
    if (mine.some((a) => a.item === question.id)) return
    const seconds = Math.min(3600, (Date.now() - askedMs.current) / 1000)
    const grade = gradeOf(isRight(question, to), seconds)
    const next = [
      ...mine,
      { item: question.id, grade, seconds: Number(seconds.toFixed(1)), at: new Date().toISOString() },
    ]
    setMine(next)
    storeAnswers({ person: who.id, well: well.slug, answers: next })
  }
  const goOn = () => {
    // A double tap on the answer is not a look at what is right.
    if (!question || !given || Date.now() - answeredMs.current < SECOND_TAP_MS) return
    const [, ...rest] = queue
    const wasAskedAgain = again.current.has(question.id)
    again.current.add(question.id)
    const next =
      isRight(question, given) || wasAskedAgain
        ? rest
        : [...rest.slice(0, AGAIN_BEHIND), question, ...rest.slice(AGAIN_BEHIND)]
    answeredMs.current = Date.now()
    setGiven(undefined)
    setDraft(undefined)
    setQueue(next)
    askedMs.current = Date.now()
    if (next.length === 0 || (Date.now() - beganMs) / 1000 > TEN_MINUTES_S) setOver(true)
  }
  const send = async () => {
    // The second tap on the button before is not a look at what was wrong.
    if (isSending.current || Date.now() - answeredMs.current < SECOND_TAP_MS) return
    isSending.current = true
    try {
      const isKept = mine.length > 0 && (await sendPractice({ kind: 'drill', well: well.slug, answers: mine }))
      // On the disk until they lie somewhere else: nobody answers twice because a tablet fell.
      storeAnswers(undefined)
      if (isKept) toast('Kept here, and sent when the house is heard.')
      onClose()
    } catch (error) {
      isSending.current = false
      toast.error((error as Error).message)
    }
  }
  if (isOver || !question) return <Over {...{ mine, edition }} onSend={() => void send()} />
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <TimeLeft beganMs={beganMs} answered={mine.length} onOver={() => setOver(true)} />
      <section aria-label="The question" className="flex min-h-0 flex-1 flex-col overflow-y-auto px-4 py-3">
        <p className="text-xl text-soft">
          {edition.changed.has(question.id) && <b className="text-mind">changed · </b>}
          {question.kind === 'picture' || question.kind === 'dark' ? '' : question.name}
        </p>
        <h1 className="rail-name">{questionText(question)}</h1>
        <Ask
          key={`${question.id} ${queue.length}`}
          {...{ question, edition }}
          isAnswered={given !== undefined}
          onGiven={answer}
          onDraft={setDraft}
        />
      </section>
      {given && (
        <div
          role="status"
          data-answer={isRight(question, given) ? 'right' : 'wrong'}
          className={`border-t-4 px-4 py-2 text-2xl ${isRight(question, given) ? 'border-standard' : 'border-stop'}`}
        >
          {isRight(question, given) ? 'Right: ' : 'No: '}
          {answerText(question, book.glasses, edition.drinks)}
        </div>
      )}
      <div className="shrink-0 px-3 pb-2">
        {given ? (
          <button type="button" className="rail-act rail-main w-full" onClick={goOn}>
            Next
          </button>
        ) : (
          <button
            type="button"
            className="rail-act rail-main w-full"
            disabled={!draft}
            onClick={() => draft && answer(draft)}
          >
            That is it
          </button>
        )}
      </div>
      <RailFoot>
        <button type="button" className="rail-quiet" onClick={() => setOver(true)}>
          Enough
        </button>
      </RailFoot>
    </main>
  )
}

/** Minutes left, as a line that gets shorter; the drill ends where it does, and never in the middle of an answer. */
function TimeLeft({ beganMs, answered, onOver }: { beganMs: number; answered: number; onOver: () => void }) {
  const [nowMs, setNow] = useState(Date.now)
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 5_000)
    return () => clearInterval(timer)
  }, [])
  const left = Math.max(0, TEN_MINUTES_S - (nowMs - beganMs) / 1000)
  // A tablet that was put down for an hour is not asked on.
  useEffect(() => {
    if (left === 0 && (nowMs - beganMs) / 1000 > 2 * TEN_MINUTES_S) onOver()
  }, [left, nowMs, beganMs, onOver])
  return (
    <div className="flex shrink-0 items-center gap-3 border-b border-hair px-4 py-2 text-lg text-soft">
      <span className="h-2 flex-1 bg-shallow" role="presentation">
        <span className="block h-full bg-ink" style={{ width: `${(100 * left) / TEN_MINUTES_S}%` }} />
      </span>
      <span>
        {Math.ceil(left / 60)} min · {answered} answered
      </span>
    </div>
  )
}

/** How it went, without a mark: what to look at once more. */
function Over({ mine, edition, onSend }: { mine: readonly LearnAnswer[]; edition: Edition; onSend: () => void }) {
  const { book } = useHouse()
  const wrong = useMemo(
    () => mine.filter((a) => a.grade === 'again').flatMap((a) => edition.questions.find((q) => q.id === a.item) ?? []),
    [mine, edition],
  )
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <div className="min-h-0 flex-1 overflow-y-auto px-4 py-3">
        <h1 className="rail-name">
          {mine.length === 0 ? 'Nothing asked' : `${mine.length - wrong.length} of ${mine.length} known`}
        </h1>
        {wrong.length > 0 && (
          <>
            <p className="mt-2 text-xl text-soft">Look at these once more; they come again tomorrow.</p>
            <ul className="mt-1 text-2xl">
              {wrong.map((q) => (
                <li key={q.id} className="border-b border-hair py-1">
                  <span className="text-soft">
                    {q.name}: {questionText(q)}
                  </span>{' '}
                  {answerText(q, book.glasses, edition.drinks)}
                </li>
              ))}
            </ul>
          </>
        )}
      </div>
      <div className="shrink-0 px-3 pb-2">
        <button type="button" className="rail-act rail-main w-full" onClick={onSend}>
          Done for today
        </button>
      </div>
      <RailFoot />
    </main>
  )
}
