import { mayDo, type SaidFinding } from '@conch/contract'
import { nightText } from '@conch/core/calendar'
import { openQuestions } from '@conch/core/lineage'
import { useState } from 'react'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { AnswerDialog, WithdrawDialog } from './FindingDialogs.tsx'

/** What was asked about a drink, and what was found out: open questions first. */
export function Research({ findings }: { findings: readonly SaidFinding[] }) {
  const questions = openQuestions(findings)
  if (questions.length === 0) return null
  const sorted = [...questions.filter((q) => !q.answer), ...questions.filter((q) => q.answer)]
  return (
    <section aria-label="Still to research" className="mt-5">
      <h2 className="text-lg">Still to research</h2>
      <ul className="mt-1 space-y-2">
        {sorted.map(({ finding, asks, answer }) => (
          <li key={finding.id} className="border-l-2 border-hair pl-3">
            <p className={answer ? 'text-soft' : ''}>{asks}</p>
            {answer && <p>{answer.says}</p>}
            <QuestionFoot finding={finding} answer={answer?.finding} />
          </li>
        ))}
      </ul>
      <p className="mt-2 text-sm">
        <Link className="underline" to="/research">
          Everything that is still to research
        </Link>
      </p>
    </section>
  )
}

/** Who asked, who answered, and what can be said to it. */
export function QuestionFoot({ finding, answer }: { finding: SaidFinding; answer?: SaidFinding | undefined }) {
  const { clock } = useHouse()
  const who = useWho()
  const [open, setOpen] = useState<'answer' | 'withdraw'>()
  const mayWrite = mayDo(who.role, 'saveVersion')
  const { savedBy, savedAt } = answer ?? finding
  const close = () => setOpen(undefined)
  return (
    <div className="flex flex-wrap items-center gap-x-1">
      <span className="caption mr-2">
        v{finding.number} · {answer ? 'answered' : 'asked'} by {savedBy}, {nightText(savedAt, clock)}
      </span>
      {mayWrite && (
        <>
          {!answer && (
            <button
              type="button"
              className="act act-quiet min-h-8 text-sm max-sm:min-h-11"
              onClick={() => setOpen('answer')}
            >
              Answer …
            </button>
          )}
          <button
            type="button"
            className="act act-quiet min-h-8 text-sm max-sm:min-h-11"
            onClick={() => setOpen('withdraw')}
          >
            {answer ? 'The answer was a mistake …' : 'A mistake …'}
          </button>
        </>
      )}
      {open === 'answer' && <AnswerDialog question={finding} onClose={close} />}
      {open === 'withdraw' && <WithdrawDialog finding={answer ?? finding} onClose={close} />}
    </div>
  )
}
