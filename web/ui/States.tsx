import type { ReactNode } from 'react'

/** Waiting: the lines of a chart not yet drawn; seen only where it takes longer than a moment. */
export function Loading({ what }: { what: string }) {
  return (
    <div role="status" className="late p-6 text-soft">
      <svg width="180" height="34" viewBox="0 0 180 34" aria-hidden="true" className="mb-2 animate-pulse">
        <path
          d="M0 8q15-8 30 0t30 0 30 0 30 0 30 0 30 0M0 20q15-8 30 0t30 0 30 0 30 0 30 0 30 0M0 32q15-8 30 0t30 0 30 0 30 0 30 0 30 0"
          fill="none"
          stroke="var(--hair)"
        />
      </svg>
      Fetching {what} …
    </div>
  )
}

/** What an error may say of itself. */
interface Said {
  /** The network or the server is away, rather than the request refused. */
  isAway?: boolean
  problem?: { code: string } | undefined
}

/** Something went wrong: what, and what to do. */
export function Failure({ error, onRetry }: { error: unknown; onRetry?: () => void }) {
  // A part of the application that is fetched when needed; the browser's own words say nothing to a bar.
  const isMissingPart = error instanceof TypeError && /dynamically imported|module script/i.test(error.message)
  const said = error instanceof Error ? (error as Error & Said) : undefined
  const isAway = isMissingPart || said?.isAway === true
  const isRefused = said?.problem?.code === 'notAllowed'
  const title = isAway ? 'No connection to the house' : isRefused ? 'Not for this role' : 'This did not work'
  return (
    <div role="alert" className="m-6 max-w-xl border-l-4 border-stop pl-4">
      <h2 className="text-lg">{title}</h2>
      <p className="mt-1">
        {isMissingPart
          ? 'This part of the page could not be fetched. What you wrote is kept on this device.'
          : error instanceof Error
            ? error.message
            : String(error)}
      </p>
      {onRetry && (
        <button type="button" className="act mt-3" onClick={isMissingPart ? () => location.reload() : onRetry}>
          Try again
        </button>
      )}
    </div>
  )
}

/** Nothing here yet: what would be here, and the first step. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="m-6 max-w-xl">
      <svg width="72" height="64" viewBox="0 0 72 64" aria-hidden="true">
        <path d="M14 4l5 52h34l5-52" fill="none" stroke="var(--hair)" strokeWidth="2" />
        <path d="M17 40h38" stroke="var(--standard)" strokeDasharray="4 3" />
      </svg>
      <h2 className="mt-2 text-lg">{title}</h2>
      <div className="mt-1 text-soft">{children}</div>
    </div>
  )
}
