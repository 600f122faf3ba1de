import type { MenuPlan } from './schema.ts'

/** The plan with this version of a drink: in its old place, else at the end of the last chapter. */
export function planWith(plan: MenuPlan, drink: string, version: number): MenuPlan {
  const isThere = plan.chapters.some((c) => c.entries.some((e) => e.drink === drink))
  if (isThere) {
    return {
      chapters: plan.chapters.map((c) => ({
        ...c,
        entries: c.entries.map((e) => (e.drink === drink ? { drink, version } : e)),
      })),
    }
  }
  const chapters = plan.chapters.length > 0 ? plan.chapters : [{ name: 'Drinks', entries: [] }]
  return {
    chapters: chapters.map((c, i) =>
      i === chapters.length - 1 ? { ...c, entries: [...c.entries, { drink, version }] } : c,
    ),
  }
}
