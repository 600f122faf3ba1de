/** How each kind of document falls into lines. */

import type { MenuPlan } from '../menu/index.ts'
import { isRecord } from '../schema/sameness.ts'
import { bareName, type DocumentShape, distinct } from './documentLines.ts'

const text = (value: unknown): string => (typeof value === 'string' ? value : '')

export const DRINK_SHAPE: DocumentShape = {
  lists: {
    pours: (p) =>
      text(p.ingredient) || text(p.slot) || (isRecord(p.figures) && text(p.figures.name)) || 'its own figures',
    stages: (s) => text(s.station) || text(s.method) || 'stage',
    serveIce: (i) => text(i.kind),
    garnish: (g) => text(g.text),
  },
  open: [],
}

/** A bottle, a mix or a blend. */
export const INGREDIENT_SHAPE: DocumentShape = {
  lists: {
    'recipe.components': (c) => text(c.ingredient),
    'recipe.steps': (s) => text(s.text),
    withoutAllergens: (w) => text(w.allergen),
  },
  open: ['recipe'],
}

export const SLOT_SHAPE: DocumentShape = {
  lists: { candidates: (c) => text(c.ingredient), refused: (r) => text(r.ingredient) },
  open: [],
  whole: ['abvPct'],
}

/**
 * The plan of a menu, each drink a line of its own: which version, and in which chapter. Chapters are
 * known by their names.
 */
export interface FlatPlan {
  chapters: { name: string }[]
  drinks: { drink: string; version: number; chapter: string }[]
}

export const PLAN_SHAPE: DocumentShape = {
  lists: { chapters: (c) => text(c.name), drinks: (d) => text(d.drink) },
  open: [],
}

export function toFlatPlan(plan: MenuPlan): FlatPlan {
  const names = distinct(plan.chapters.map((c) => c.name))
  return {
    chapters: names.map((name) => ({ name })),
    drinks: plan.chapters.flatMap((c, i) =>
      c.entries.map(({ drink, version }) => ({ drink, version, chapter: names[i] ?? c.name })),
    ),
  }
}

/** A drink whose chapter is not there (it went with the other side of a choice) brings it along, at the end. */
export function fromFlatPlan({ chapters, drinks }: FlatPlan): MenuPlan {
  const names = [...new Set([...chapters.map((c) => c.name), ...drinks.map((d) => d.chapter)])]
  return {
    chapters: names.map((name) => ({
      name: bareName(name),
      entries: drinks.filter((d) => d.chapter === name).map(({ drink, version }) => ({ drink, version })),
    })),
  }
}
