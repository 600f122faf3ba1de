import { type Lineage, mayDo } from '@conch/contract'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useMemo, useState } from 'react'
import { Link, useParams, useSearchParams } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useOpened } from '../../app/lastOpened.ts'
import { useWho } from '../../app/who.ts'
import { NeedShelfFor } from '../../shelf/NeedShelf.tsx'
import { Empty, Failure, Loading } from '../../ui/States.tsx'
import { LineageTree } from './LineageTree.tsx'
import { nodesOf, sourcesOf } from './lineageView.ts'
import { NodeDetails } from './NodeDetails.tsx'
import { lineageQuery } from './queries.ts'
import { Research } from './Research.tsx'
import { Story } from './Story.tsx'
import { WhatSourcesSay } from './WhatSourcesSay.tsx'

const PasteSpec = lazy(() => import('../drinks/index.ts').then((m) => ({ default: m.PasteSpec })))

/** How a drink came to be. */
export function LineagePage() {
  const { slug = '' } = useParams()
  const found = useQuery(lineageQuery(slug))
  useOpened(found.data?.name)
  if (found.isPending) return <Loading what="where it comes from" />
  if (!found.data) return <Failure error={found.error} onRetry={() => found.refetch()} />
  const { versions, relatives } = found.data
  return (
    <NeedShelfFor key={slug} what="what it pours" documents={[...versions, ...relatives].map((v) => v.document)}>
      {() => <OpenLineage lineage={found.data} />}
    </NeedShelfFor>
  )
}

function OpenLineage({ lineage }: { lineage: Lineage }) {
  const { book } = useHouse()
  const who = useWho()
  const [search, setSearch] = useSearchParams()
  const [isPasting, setPasting] = useState(false)
  const nodes = useMemo(() => nodesOf(lineage), [lineage])
  const own = nodes.filter((n) => !n.isRelative)
  // What the address says; else what is poured; else the newest.
  const picked = nodes.find((n) => n.key === search.get('v')) ?? own.find((n) => n.isPoured) ?? own[own.length - 1]
  const sources = own.flatMap((n) => sourcesOf(n.version, lineage.findings))
  const pick = (key: string) => setSearch({ v: key }, { replace: true })
  return (
    <div className="px-4 pt-3 pb-10">
      <header className="mb-2 flex flex-wrap items-baseline gap-x-4">
        <div className="mr-auto min-w-0">
          <h1 className="text-3xl break-words">
            <Link className="hover:underline" to={`/drinks/${lineage.drink}`}>
              {lineage.name}
            </Link>
          </h1>
          <p className="caption">{countsText(lineage)}</p>
        </div>
        {mayDo(who.role, 'saveVersion') && (
          <button type="button" className="act no-print" onClick={() => setPasting(true)}>
            Enter a version from a source
          </button>
        )}
      </header>
      {nodes.length === 0 ? (
        <Empty title="It has no version yet">
          Save its draft as a version, or enter one from a book, a card or somebody’s memory.
        </Empty>
      ) : (
        <LineageTree nodes={nodes} book={book} picked={picked?.key} onPick={pick} />
      )}
      <div className="mt-4 grid gap-x-10 gap-y-5 lg:grid-cols-[minmax(0,1fr)_26rem]">
        {picked && (
          <NodeDetails
            key={picked.key}
            node={picked}
            nodes={nodes}
            findings={picked.isRelative ? [] : lineage.findings}
            hasDraft={lineage.hasDraft}
            onPick={pick}
          />
        )}
        <div>
          <Story lineage={lineage} />
          <WhatSourcesSay sources={sources} />
          <Research findings={lineage.findings} />
        </div>
      </div>
      {isPasting && (
        <Suspense fallback={null}>
          <PasteSpec into={{ slug: lineage.drink, name: lineage.name }} onClose={() => setPasting(false)} />
        </Suspense>
      )}
    </div>
  )
}

const many = (count: number, one: string) => `${count} ${one}${count === 1 ? '' : 's'}`

function countsText({ versions, relatives }: Lineage): string {
  const drinks = new Set(relatives.map((r) => r.drink)).size
  return [many(versions.length, 'version'), drinks > 0 && `${many(drinks, 'drink')} one step away`]
    .filter(Boolean)
    .join(' · ')
}
