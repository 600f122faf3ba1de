import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { toResearchQuery } from './queries.ts'
import { QuestionFoot } from './Research.tsx'

/** Everything that is still to be found out about the drinks of the house, drink by drink. */
export function ResearchPage() {
  const found = useQuery(toResearchQuery)
  if (found.isPending) return <Loading what="what is to be found out" />
  if (!found.data) return <Failure error={found.error} onRetry={() => found.refetch()} />
  const open = found.data
  const drinks = [...new Map(open.map((q) => [q.drink, q.name]))].sort((a, b) => a[1].localeCompare(b[1], 'en'))
  return (
    <div className="max-w-3xl px-4 pt-4 pb-10">
      <h1 className="text-3xl">Still to research</h1>
      <p className="caption">
        {open.length === 0 ? 'nothing' : `${open.length} ${open.length === 1 ? 'question' : 'questions'}`}
      </p>
      {open.length === 0 && (
        <Empty title="Nothing is left to find out">
          A version of a drink can be marked on the page of its lineage: what is to be found out stands here then.
        </Empty>
      )}
      {drinks.map(([slug, name]) => (
        <section key={slug} aria-label={name} className="mt-4">
          <h2 className="text-lg">
            <Link className="hover:underline" to={`/drinks/${slug}/lineage`}>
              {name}
            </Link>
          </h2>
          <ul className="mt-1 space-y-2">
            {open
              .filter((q) => q.drink === slug)
              .map(({ finding }) => (
                <li key={finding.id} className="border-l-2 border-hair pl-3">
                  {finding.document.kind === 'question' && <p className="break-words">{finding.document.asks}</p>}
                  <QuestionFoot finding={finding} />
                </li>
              ))}
          </ul>
        </section>
      ))}
    </div>
  )
}
