import { type EditionSummary, type Menu, mayDo, type NextMenu } from '@conch/contract'
import { type MenuPlan, menuChanges, planWith } from '@conch/core/menu'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useCommands } from '../../app/commands.tsx'
import { useHouse } from '../../app/house.tsx'
import { editionsQuery, menuQuery, nextMenuQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { ConflictPanel } from '../../drafts/ConflictPanel.tsx'
import { DraftStatusWords } from '../../drafts/DraftStatusWords.tsx'
import { UndoRedo } from '../../drafts/UndoRedo.tsx'
import { DrinkPicker } from '../../shelf/DrinkPicker.tsx'
import { MovingArea, putBeside, stepped } from '../../ui/Moving.tsx'
import { Failure, Loading } from '../../ui/States.tsx'
import { Changes } from './Changes.tsx'
import { ModelMoved } from './ModelMoved.tsx'
import { chapterAt, chapterId, isChapter, PlanChapter, PlanLine } from './PlanLines.tsx'
import { listingsOf, planBeside, planMoved, planToChapter, planWithout } from './plan.ts'
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
  const nameMoved = (id: string) => (isChapter(id) ? (chapters[chapterAt(id)]?.name ?? '') : nameOf(id))
  const whereIs = (id: string) => {
    if (isChapter(id)) return `chapter ${chapterAt(id) + 1} of ${chapters.length}`
    const chapter = chapters.find((c) => c.entries.some((e) => e.drink === id))
    const at = chapter?.entries.findIndex((e) => e.drink === id) ?? 0
    return `${chapter?.name}, ${at + 1} of ${chapter?.entries.length}`
  }
  return (
    <div className="grid gap-x-8 px-4 pt-4 pb-10 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.100fr)]">
      <ModelMoved control={control} planned={planned} />
      <section aria-label="The plan" data-first-step="plan">
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
        <MovingArea
          nameOf={nameMoved}
          whereIs={whereIs}
          mayLand={(id, over) => !isChapter(id) || isChapter(over)}
          onStep={(id, by) => {
            change((plan) =>
              isChapter(id) ? { chapters: stepped(plan.chapters, chapterAt(id), by) } : planMoved(plan, id, by),
            )
            const to = chapterAt(id) + by
            return isChapter(id) && to >= 0 && to < chapters.length ? chapterId(to) : undefined
          }}
          onDrop={(id, over, isAfter) =>
            change((plan) => {
              if (isChapter(id)) return { chapters: putBeside(plan.chapters, chapterAt(id), chapterAt(over), isAfter) }
              if (isChapter(over)) return planToChapter(plan, id, chapterAt(over), true)
              return planBeside(plan, id, over, isAfter)
            })
          }
        >
          {chapters.map((chapter, c) => (
            <PlanChapter
              key={c}
              {...{ chapter, mayPlan }}
              index={c}
              onName={(name) => patchChapter(c, name)}
              onLeaveOut={() => change((plan) => ({ chapters: plan.chapters.filter((_, i) => i !== c) }))}
            >
              {chapter.entries.map((entry) => (
                <PlanLine
                  key={entry.drink}
                  name={nameOf(entry.drink)}
                  versions={next.planned.find((p) => p.drink === entry.drink)?.versions ?? []}
                  {...{ entry, mayPlan, chapters, chapterIndex: c }}
                  onChapter={(to) => change((plan) => planToChapter(plan, entry.drink, to))}
                  onVersion={(version) => change((plan) => planWith(plan, entry.drink, version))}
                  onRemove={() => change((plan) => planWithout(plan, entry.drink))}
                />
              ))}
            </PlanChapter>
          ))}
        </MovingArea>
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
              onPick={({ slug, name, ownVersion }) => {
                if (ownVersion === null) return
                setAdded({ ...added, [slug]: name })
                change((plan) => planWith(plan, slug, ownVersion))
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
