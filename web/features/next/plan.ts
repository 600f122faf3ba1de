/** Changes to the plan of the next edition, as plain functions. */

import type { Listing, MenuPlan } from '@conch/core/menu'

type Entry = MenuPlan['chapters'][number]['entries'][number]

/** Every drink of the plan with its chapter, in the menu's order. */
export function listingsOf(plan: MenuPlan): Listing[] {
  return plan.chapters.flatMap((c) => c.entries.map((e) => ({ ...e, chapter: c.name })))
}

export function planWithout(plan: MenuPlan, drink: string): MenuPlan {
  return mapEntries(plan, (entries) => entries.filter((e) => e.drink !== drink))
}

/** Moves a drink up or down; beyond the end of a chapter it goes into the next. */
export function planMoved(plan: MenuPlan, drink: string, by: 1 | -1): MenuPlan {
  const chapters = plan.chapters.map((c) => ({ ...c, entries: [...c.entries] }))
  const at = chapters.findIndex((c) => c.entries.some((e) => e.drink === drink))
  const chapter = chapters[at]
  if (!chapter) return plan
  const index = chapter.entries.findIndex((e) => e.drink === drink)
  const entry = chapter.entries[index] as Entry
  const to = index + by
  const neighbour = chapters[at + by]
  chapter.entries.splice(index, 1)
  if (to >= 0 && to <= chapter.entries.length) chapter.entries.splice(to, 0, entry)
  else if (neighbour) neighbour.entries.splice(by === 1 ? 0 : neighbour.entries.length, 0, entry)
  else return plan
  return { chapters }
}

/** Puts a drink beside another one, in whichever chapter that is. */
export function planBeside(plan: MenuPlan, drink: string, other: string, isAfter: boolean): MenuPlan {
  const entry = plan.chapters.flatMap((c) => c.entries).find((e) => e.drink === drink)
  if (!entry || drink === other) return plan
  return mapEntries(planWithout(plan, drink), (entries) =>
    entries.flatMap((e) => (e.drink !== other ? [e] : isAfter ? [e, entry] : [entry, e])),
  )
}

/** Puts a drink at the end of a chapter, or at its beginning. */
export function planToChapter(plan: MenuPlan, drink: string, chapterIndex: number, isFirst = false): MenuPlan {
  const entry = plan.chapters.flatMap((c) => c.entries).find((e) => e.drink === drink)
  if (!entry) return plan
  const without = planWithout(plan, drink)
  return {
    chapters: without.chapters.map((c, i) =>
      i === chapterIndex ? { ...c, entries: isFirst ? [entry, ...c.entries] : [...c.entries, entry] } : c,
    ),
  }
}

function mapEntries(plan: MenuPlan, change: (entries: Entry[]) => Entry[]): MenuPlan {
  return { chapters: plan.chapters.map((c) => ({ ...c, entries: change(c.entries) })) }
}
