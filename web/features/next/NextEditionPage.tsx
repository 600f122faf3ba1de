import { type EditionSummary, type Menu, mayDo, type NextMenu } from '@conch/contract'
import { type MenuPlan, menuChanges } from '@conch/core/menu'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { useCommands } from '../../app/commands.tsx'
import { useHouse } from '../../app/house.tsx'
import { editionsQuery, menuQuery, nextMenuQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { ConflictPanel } from '../../drafts/ConflictPanel.tsx'
import { DraftStatusWords } from '../../drafts/DraftStatusWords.tsx'
import { UndoRedo } from '../../drafts/UndoRedo.tsx'
import { DrinkPicker } from '../../shelf/DrinkPicker.tsx'
import { Failure, Loading } from '../../ui/States.tsx'
import { Changes } from './Changes.tsx'
import { ModelMoved } from './ModelMoved.tsx'
import { listingsOf, planMoved, planToChapter, planWith, planWithout } from './plan.ts'
import { usePlanDraft } from './usePlanDraft.ts'

/** The next edition in the making: its chapters, and what publishing it would change. */
export function NextEditionPage() {
  const menu = useQuery(menuQuery)
  const editions = useQuery(editionsQuery)
  const { well } = useHouse()
  const next = useQuery(nextMenuQuery(well.slug))
  const failed = menu.error ?? editions.error ?? next.error
  if (menu.data && editions.data && next.data)
    return <NextEdition menu={menu.data} next={next.data} before={editions.data[0]} />
  if (failed) return <Failure error={failed} onRetry={() => Promise.all([menu.refetch(), next.refetch()])} />
  return <Loading what="the next edition" />
}

interface NextEditionProps {
  menu: Menu
  next: NextMenu
  /** The newest edition, if there is one. */
  before: EditionSummary | undefined
}

function NextEdition({ menu, next, before }: NextEditionProps) {
  const who = useWho()
  /** Names of what was added a moment ago, before the house has answered. */
  const [added, setAdded] = useState<Record<string, string>>({})
  const names = new Map([...next.poured, ...next.planned].map((d) => [d.drink, d.name]))
  const nameOf = (slug: string) => names.get(slug) ?? added[slug] ?? slug
  const mayPlan = mayDo(who.role, 'planMenu')
  const control = usePlanDraft(menu)
  const plan = control.draft?.document ?? menu.plan
  const changes = menuChanges(next.poured, listingsOf(plan))
  const change = (how: (plan: MenuPlan) => MenuPlan) => control.edit(how(plan), null)
  useCommands(
    () =>
      mayPlan
        ? [
            { id: 'undo-plan', label: 'Undo', group: 'do', keys: 'mod+z', perform: control.undo },
            { id: 'redo-plan', label: 'Redo', group: 'do', keys: 'mod+shift+z', perform: control.redo },
          ]
        : [],
    [mayPlan, control],
  )
  const planned = new Set(listingsOf(plan).map((l) => l.drink))
  const { chapters } = plan
  const patchChapter = (index: number, name: string) =>
    change((plan) => ({ chapters: plan.chapters.map((c, i) => (i === index ? { ...c, name } : c)) }))
  return (
    <div className="grid gap-x-8 px-4 pt-4 pb-10 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.100fr)]">
      <ModelMoved control={control} planned={planned} />
      <section aria-label="The plan">
        <header className="mb-3 flex flex-wrap items-center gap-1">
          <h1 className="mr-auto text-3xl">Next edition</h1>
          {mayPlan && control.draft && (
            <>
              <DraftStatusWords status={control.draft.status} noun="plan" />
              <UndoRedo control={control} />
            </>
          )}
        </header>
        <ConflictPanel kind="plan" noun="plan" control={control} nameOf={nameOf} />
        {chapters.map((chapter, c) => (
          <div key={c} className="mb-4">
            <h2 className="flex items-center gap-2 border-b border-ink text-lg">
              {mayPlan ? (
                <input
                  key={chapter.name}
                  className="inplace min-w-0 flex-1 font-display"
                  aria-label={`Name of chapter ${c + 1}`}
                  maxLength={120}
                  defaultValue={chapter.name}
                  onBlur={(e) =>
                    e.target.value.trim() && e.target.value !== chapter.name && patchChapter(c, e.target.value.trim())
                  }
                />
              ) : (
                chapter.name
              )}
              {mayPlan && chapter.entries.length === 0 && (
                <button
                  type="button"
                  className="act act-quiet text-sm"
                  onClick={() => change((plan) => ({ chapters: plan.chapters.filter((_, i) => i !== c) }))}
                >
                  Leave it out
                </button>
              )}
            </h2>
            <ul>
              {chapter.entries.map((entry) => (
                <PlanLine
                  key={entry.drink}
                  name={nameOf(entry.drink)}
                  versions={next.planned.find((p) => p.drink === entry.drink)?.versions ?? []}
                  {...{ entry, mayPlan, chapters, chapterIndex: c }}
                  onMove={(by) => change((plan) => planMoved(plan, entry.drink, by))}
                  onChapter={(to) => change((plan) => planToChapter(plan, entry.drink, to))}
                  onVersion={(version) => change((plan) => planWith(plan, entry.drink, version))}
                  onRemove={() => change((plan) => planWithout(plan, entry.drink))}
                />
              ))}
            </ul>
          </div>
        ))}
        {mayPlan && (
          <div className="flex flex-wrap gap-2">
            <button
              type="button"
              className="act"
              onClick={() =>
                change((plan) => ({
                  chapters: [...plan.chapters, { name: `Chapter ${plan.chapters.length + 1}`, entries: [] }],
                }))
              }
            >
              Add a chapter
            </button>
            <DrinkPicker
              label="Find a drink to add"
              without={planned}
              onPick={({ slug, name, latestVersion }) => {
                if (latestVersion === null) return
                setAdded({ ...added, [slug]: name })
                change((plan) => planWith(plan, slug, latestVersion))
              }}
            >
              <button type="button" className="act">
                Add a drink …
              </button>
            </DrinkPicker>
          </div>
        )}
      </section>
      <Changes {...{ plan, control, next, before, changes, nameOf }} />
    </div>
  )
}

function PlanLine({
  name,
  entry,
  versions,
  mayPlan,
  chapters,
  chapterIndex,
  onMove,
  onChapter,
  onVersion,
  onRemove,
}: {
  name: string
  entry: { drink: string; version: number }
  /** All that the drink has. */
  versions: number[]
  mayPlan: boolean
  chapters: Menu['plan']['chapters']
  chapterIndex: number
  onMove: (by: 1 | -1) => void
  onChapter: (index: number) => void
  onVersion: (version: number) => void
  onRemove: () => void
}) {
  const small = 'min-h-8 px-1.5 text-soft hover:bg-shallow max-sm:min-h-11 max-sm:min-w-11'
  return (
    <li className="flex flex-wrap items-center gap-x-2 border-b border-hair/60 py-0.5">
      <Link
        to={`/drinks/${entry.drink}?v=${entry.version}`}
        className="min-w-0 flex-1 truncate hover:underline max-sm:basis-full"
      >
        {name}
      </Link>
      {mayPlan ? (
        <>
          <select
            aria-label={`Version of ${name}`}
            className="inplace"
            value={entry.version}
            onChange={(e) => onVersion(Number(e.target.value))}
          >
            {(versions.length > 0 ? versions : [entry.version]).map((n) => (
              <option key={n} value={n}>
                v{n}
              </option>
            ))}
          </select>
          {chapters.length > 1 && (
            <select
              aria-label={`Chapter of ${name}`}
              className="inplace text-soft"
              value=""
              onChange={(e) => onChapter(Number(e.target.value))}
            >
              <option value="">move to</option>
              {chapters.map((c, i) =>
                i === chapterIndex ? null : (
                  <option key={`${i} ${c.name}`} value={i}>
                    {c.name}
                  </option>
                ),
              )}
            </select>
          )}
          <span className="flex">
            <button type="button" className={small} aria-label={`${name} up`} onClick={() => onMove(-1)}>
              ↑
            </button>
            <button type="button" className={small} aria-label={`${name} down`} onClick={() => onMove(1)}>
              ↓
            </button>
            <button type="button" className={small} aria-label={`Take ${name} off`} onClick={onRemove}>
              ×
            </button>
          </span>
        </>
      ) : (
        <span>v{entry.version}</span>
      )}
    </li>
  )
}
