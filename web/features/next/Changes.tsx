import { type Edition, mayDo } from '@conch/contract'
import { MEASURES, type MeasureName } from '@conch/core/drink'
import type { LockedDrink, MenuChange, MenuPlan } from '@conch/core/menu'
import { useQueries } from '@tanstack/react-query'
import { useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { drinkQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { measureText } from '../../graphics/format.ts'
import { useGlasses } from '../../workers/compute.ts'
import { PublishDialog } from './PublishDialog.tsx'
import { listingsOf } from './plan.ts'
import type { PlanDraft } from './usePlanDraft.ts'

const KIND_WORDS: Record<MenuChange['kind'], string> = {
  added: 'new',
  removed: 'leaves',
  version: 'new version',
  moved: 'moves',
}
const COMPARED: MeasureName[] = ['strengthPct', 'sweetGPer100Ml', 'sourGPer100Ml', 'dilutionPct', 'volumeMl']

interface ChangesProps {
  plan: MenuPlan
  control: PlanDraft
  before: Edition | undefined
  changes: MenuChange[]
  nameOf: (slug: string) => string
}

/** What the next edition changes, with the figures before and after at the well one stands at. */
export function Changes({ plan, control, before, changes, nameOf }: ChangesProps) {
  const { book, well } = useHouse()
  const who = useWho()
  const [isPublishing, setPublishing] = useState(false)
  const listings = listingsOf(plan)
  const queries = useQueries({ queries: listings.map((l) => drinkQuery(l.drink)) })
  const documents = listings.map((l, i) => queries[i]?.data?.versions.find((v) => v.number === l.version)?.document)
  const isLoaded = documents.every((d) => d !== undefined)
  const answers = useGlasses(
    isLoaded && documents.length > 0 ? (documents as NonNullable<(typeof documents)[number]>[]) : undefined,
    book,
    well.slug,
  )
  const lockedOf = (slug: string): LockedDrink | undefined =>
    before?.lock.chapters.flatMap((c) => c.drinks).find((d) => d.drink === slug)
  const listed = new Map(changes.map((c) => [c.drink, c]))
  // An unchanged version can still come out differently: a bottle's figures have changed.
  const rows = [
    ...listings.flatMap((l, i) => {
      const change = listed.get(l.drink)
      const answer = answers?.[i]
      const now = answer?.ok ? answer.result.predictions : undefined
      const was = lockedOf(l.drink)?.byWell[well.slug]?.result.predictions
      const moved = COMPARED.filter(
        (m) => was?.[m] && now?.[m] && measureText(m, was[m].value) !== measureText(m, now[m].value),
      )
      if (!change && moved.length === 0) return []
      const figures = moved.map(
        (m) => `${MEASURES[m].label} ${measureText(m, was?.[m]?.value ?? 0)} → ${measureText(m, now?.[m]?.value ?? 0)}`,
      )
      const stops = answer?.ok
        ? answer.consequences.filter((c) => c.weight === 'stop').map((c) => c.text)
        : answer
          ? answer.problems.map((p) => p.message)
          : []
      return [{ drink: l.drink, words: change ? wordsOf(change) : 'same version, other figures', figures, stops }]
    }),
    ...changes
      .filter((c) => c.kind === 'removed')
      .map((c) => ({ drink: c.drink, words: wordsOf(c), figures: [], stops: [] })),
  ]
  const mayPublish = mayDo(who.role, 'publishEdition')
  return (
    <section aria-label="What it changes" className="border-hair max-lg:mt-6 lg:border-l lg:pl-8">
      <div className="mb-2 flex items-center gap-3">
        <h2 className="mr-auto text-lg">
          {before ? `Against “${before.name}”, at the ${well.name}` : `The first edition, at the ${well.name}`}
        </h2>
        <button
          type="button"
          className="act act-main"
          disabled={!mayPublish || listings.length === 0 || control.draft?.status.kind === 'conflict'}
          title={mayPublish ? undefined : 'A manager publishes'}
          onClick={() => setPublishing(true)}
        >
          Publish …
        </button>
      </div>
      {!mayPublish && <p className="caption mb-2">A manager publishes editions.</p>}
      {before && rows.length === 0 && (
        <p className="text-soft">Nothing would change: the plan is what is poured, and comes out the same.</p>
      )}
      <ul>
        {rows.map((r) => (
          <li key={r.drink} className="border-b border-hair/60 py-1.5">
            <p className="flex gap-2">
              <b className="font-semibold">{nameOf(r.drink)}</b>
              <span className="text-soft">{r.words}</span>
            </p>
            {r.figures.length > 0 && <p className="text-sm">{r.figures.join(' · ')}</p>}
            {r.stops.map((s) => (
              <p key={s} className="text-sm text-stop">
                ■ {s}
              </p>
            ))}
          </li>
        ))}
      </ul>
      <PublishDialog
        isOpen={isPublishing}
        onClose={() => setPublishing(false)}
        control={control}
        count={listings.length}
      />
    </section>
  )
}

function wordsOf({ kind, before, after }: MenuChange): string {
  if (kind === 'version') return `v${before?.version} → v${after?.version}`
  if (kind === 'moved') return `moves from ${before?.chapter} to ${after?.chapter}`
  return KIND_WORDS[kind]
}
