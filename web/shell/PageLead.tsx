import { useLocation } from 'react-router'
import { pageAt } from './places.ts'
import { tell, useTold } from './told.ts'

/** What the page is for, in one sentence, until somebody has read it. */
export function PageLead() {
  const { pathname } = useLocation()
  const page = pageAt(pathname)
  const what = `page ${page?.path}`
  const isTold = useTold(what)
  if (!page || isTold) return null
  return (
    <p className="no-print flex items-center gap-2 bg-shoal px-4 text-sm text-soft max-sm:items-start max-sm:py-1">
      <span className="max-sm:py-2">{page.lead}</span>
      <button
        type="button"
        aria-label="Read; do not say it again"
        className="act act-quiet min-h-8 text-sm max-sm:min-h-11"
        onClick={() => tell(what)}
      >
        Got it
      </button>
    </p>
  )
}
