import { Failure, Loading } from '../ui/States.tsx'
import { tryAgain, useFailure } from './failures.ts'

/** Waiting for something that is computed beside the page: until it is there, or until it is clear that it does not come. */
export function Computing({ what }: { what: string }) {
  const failure = useFailure()
  if (!failure) return <Loading what={what} />
  return <Failure error={new Error(`${what} could not be computed: ${failure.message}`)} onRetry={tryAgain} />
}

/** One line at the top of a page that still shows older figures than it should. */
export function ComputingFailure() {
  const failure = useFailure()
  if (!failure) return null
  return (
    <p role="alert" className="flex flex-wrap items-center gap-3 border-b border-stop px-4 py-1 text-sm text-stop">
      Something on this page could not be computed, and what it shows may be old: {failure.message}
      <button type="button" className="act" onClick={tryAgain}>
        Try again
      </button>
    </p>
  )
}
