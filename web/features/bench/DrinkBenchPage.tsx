import { mayDo } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import { ownVersionOf } from '@conch/core/lineage'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { drinkQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { NeedShelfFor } from '../../shelf/NeedShelf.tsx'
import { Failure, Loading } from '../../ui/States.tsx'
import { useWellMeans } from '../../workers/bench.ts'
import type { BenchProps } from './benchProps.ts'
import { CurvesOfDrink } from './CurvesOfDrink.tsx'
import { StandardOfDrink } from './StandardOfDrink.tsx'
import { Swaps } from './Swaps.tsx'
import { TolerancePanel } from './TolerancePanel.tsx'
import { WellRow } from './WellRow.tsx'

/** A drink on the bench: its standard held still, and what every well, method and hand makes of it. */
export function DrinkBenchPage() {
  const { slug = '' } = useParams()
  const { book, well } = useHouse()
  const who = useWho()
  const drink = useQuery(drinkQuery(slug))
  const navigate = useNavigate()
  const [chosen, setChosen] = useState<string>()
  if (drink.isPending) return <Loading what="the drink" />
  if (!drink.data) return <Failure error={drink.error} />
  const { name, versions, draft, poured } = drink.data
  const open = chosen ?? (draft ? 'draft' : String(poured?.version ?? ownVersionOf(versions)?.number))
  const document = open === 'draft' ? draft?.document : versions.find((v) => String(v.number) === open)?.document
  if (!document) return <Failure error={`${name} has nothing written down yet.`} />
  const mayEdit = mayDo(who.role, 'saveDraft')
  const use = (next: DrinkDocument, note: string) =>
    navigate(`/drinks/${slug}`, { state: { useSpec: { document: next, note } } })
  return (
    <div className="px-4 pt-3 pb-10">
      <p className="caption">
        <Link className="underline" to={`/drinks/${slug}`}>
          {name}
        </Link>{' '}
        · on the bench
      </p>
      <header className="mb-2 flex flex-wrap items-baseline gap-3">
        <h1 className="text-3xl">{name}</h1>
        <select
          aria-label="Version"
          className="inplace mr-auto"
          value={open}
          onChange={(e) => setChosen(e.target.value)}
        >
          {draft && <option value="draft">the draft</option>}
          {[...versions].reverse().map((v) => (
            <option key={v.number} value={v.number}>
              v{v.number} {v.label}
              {poured?.version === v.number ? ', poured today' : ''}
            </option>
          ))}
        </select>
      </header>
      <NeedShelfFor key={`${slug} ${open}`} what="what it pours" documents={[document]}>
        {() => <Bench {...{ slug, document, book, well, mayEdit, use }} />}
      </NeedShelfFor>
    </div>
  )
}

function Bench({ slug, document, book, well, mayEdit, use }: BenchProps & { slug: string }) {
  const means = useWellMeans(book, document)
  const here = means?.find((m) => m.well === well.slug)
  const window = here?.ok && here.solved.outcome === 'reached' ? here.solved.window : undefined
  const hasStandard = Object.keys(document.standard).length > 0
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 lg:grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)]">
      <div>
        <StandardOfDrink {...{ document, book, well, mayEdit, use }} />
        {hasStandard && (
          <section aria-label="Seconds at every well" className="mt-4">
            <h2 className="border-b border-ink text-lg">The same glass at every well</h2>
            {!means && <p className="py-3 text-soft">Looking for the seconds …</p>}
            {means?.map((m) => (
              <WellRow key={m.well} means={m} {...{ document, book, mayEdit, use }} />
            ))}
          </section>
        )}
        {hasStandard && <Swaps {...{ document, book, well, mayEdit, use }} />}
      </div>
      <aside className="border-hair max-lg:mt-6 lg:border-l lg:pl-6">
        <CurvesOfDrink {...{ slug, document, book, well }} window={window} />
        {hasStandard && <TolerancePanel {...{ document, book, well }} />}
      </aside>
    </div>
  )
}
