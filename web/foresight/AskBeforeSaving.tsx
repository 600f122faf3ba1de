import { AskFirst } from '../ui/AskFirst.tsx'
import { ForesightLines } from './ForesightLines.tsx'
import { useQuestion } from './question.ts'
import { summaryOf } from './words.ts'

/** Asks whoever is about to save something that hurts the menu. */
export function AskBeforeSaving() {
  const asked = useQuestion()
  if (!asked) return null
  const { foresight, answer } = asked
  return (
    <AskFirst
      title="This moves the menu"
      lead={
        <>
          <span className="mb-2 block">{summaryOf(foresight).join('; ')}.</span>
          <ForesightLines drinks={foresight.drinks} />
        </>
      }
      main="Save it"
      onClose={() => answer(false)}
      onYes={async () => answer(true)}
    />
  )
}
