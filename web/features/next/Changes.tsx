import { type Decision, type EditionSummary, mayDo, type NextMenu } from '@conch/contract'
import { MEASURES, type MeasureName } from '@conch/core/drink'
import type { MenuChange, MenuPlan } from '@conch/core/menu'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { measureText } from '../../graphics/format.ts'
import { DecideDialog } from './DecideDialog.tsx'
import { decisionsQuery } from './decide.ts'
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
  next: NextMenu
  before: EditionSummary | undefined
  changes: MenuChange[]
  nameOf: (slug: string) => string
}

/** What the next edition changes, with the figures before and after at the well one stands at. */
export function Changes({ plan, control, next, before, changes, nameOf }: ChangesProps) {
  const { well } = useHouse()
  const who = useWho()
  const [isPublishing, setPublishing] = useState(false)
  const listings = listingsOf(plan)
  const wasAt = new Map(next.poured.map((d) => [d.drink, d.locked]))
  const listed = new Map(changes.map((c) => [c.drink, c]))
  const decided = useQuery(decisionsQuery).data
  const waiting = next.planned.filter((d) => !d.now || d.now.isOld).length
  // An unchanged version can still come out differently: a bottle's figures have changed.
  const rows = [
    ...listings.flatMap((l) => {
      const change = listed.get(l.drink)
      const kept = next.planned.find((d) => d.drink === l.drink && d.version === l.version)?.now
      const now = kept?.isOld ? undefined : kept
      const was = wasAt.get(l.drink)
      const moved = COMPARED.flatMap((m) => {
        const [before, after] = [was?.[m], now?.predictions[m]?.value]
        if (before === undefined || after === undefined || measureText(m, before) === measureText(m, after)) return []
        return [`${MEASURES[m].label} ${measureText(m, before)} → ${measureText(m, after)}`]
      })
      if (!change && moved.length === 0) return []
      const stops = [...(now?.stops.map((s) => s.text) ?? []), ...(now?.problem ? [now.problem] : [])]
      const words = change ? wordsOf(change) : 'same version, other figures'
      const isOther = change?.kind === 'version' || change?.kind === 'added'
      return [{ drink: l.drink, words, figures: moved, stops, version: isOther ? l.version : undefined }]
    }),
    ...changes
      .filter((c) => c.kind === 'removed')
      .map((c) => ({ drink: c.drink, words: wordsOf(c), figures: [], stops: [], version: undefined })),
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
          data-first-step="publish"
          disabled={!mayPublish || listings.length === 0 || control.draft?.status.kind === 'conflict'}
          title={mayPublish ? undefined : 'A manager publishes'}
          onClick={() => setPublishing(true)}
        >
          Publish …
        </button>
      </div>
      {!mayPublish && <p className="caption mb-2">A manager publishes editions.</p>}
      {waiting > 0 && (
        <p className="mb-2 text-sm text-soft italic" role="status">
          {waiting} of {next.planned.length} are being computed …
        </p>
      )}
      {before && waiting === 0 && rows.length === 0 && (
        <p className="text-soft">Nothing would change: the plan is what is poured, and comes out the same.</p>
      )}
      <ul>
        {rows.map((r) => (
          <li key={r.drink} className="border-b border-hair/60 py-1.5">
            <p className="flex gap-2">
              <b className="font-semibold">{nameOf(r.drink)}</b>
              <span className="text-soft">{r.words}</span>
            </p>
            {r.version !== undefined && decided && (
              <Why
                drink={{ slug: r.drink, name: nameOf(r.drink) }}
                version={r.version}
                decision={decided.find((d) => d.drink === r.drink && d.number === r.version)}
                instead={listed.get(r.drink)?.before?.version}
              />
            )}
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

/** Why another version is poured: as it was decided, or that nobody has said so yet. */
function Why({
  drink,
  version,
  decision,
  instead,
}: {
  drink: { slug: string; name: string }
  version: number
  decision: Decision | undefined
  instead: number | undefined
}) {
  const who = useWho()
  const [isAsked, setAsked] = useState(false)
  if (decision)
    return (
      <p className="text-sm">
        “{decision.document.reason}” <span className="caption">{decision.savedBy}</span>
      </p>
    )
  return (
    <p className="text-sm text-mind">
      nobody has said why{' '}
      {mayDo(who.role, 'planMenu') && (
        <button type="button" className="act act-quiet min-h-8 text-sm max-sm:min-h-11" onClick={() => setAsked(true)}>
          Say why …
        </button>
      )}
      {isAsked && <DecideDialog {...{ drink, version, instead }} onClose={() => setAsked(false)} />}
    </p>
  )
}

function wordsOf({ kind, before, after }: MenuChange): string {
  if (kind === 'version') return `v${before?.version} → v${after?.version}`
  if (kind === 'moved') return `moves from ${before?.chapter} to ${after?.chapter}`
  return KIND_WORDS[kind]
}
