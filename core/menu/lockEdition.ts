import { MODEL_VERSION } from '../cold/index.ts'
import { type DrinkDocument, glassFor, type Problem } from '../drink/index.ts'
import { partsOf } from '../formula/index.ts'
import type { HouseBook } from '../house/index.ts'
import type { EditionLock, LockedDrink } from './schema.ts'

/** A version as the menu wants it. */
export interface PlannedDrink {
  drink: string
  name: string
  version: number
  versionLabel: string
  document: DrinkDocument
}

export interface PlannedChapter {
  name: string
  drinks: PlannedDrink[]
}

export type LockResult =
  | { ok: true; lock: EditionLock }
  | { ok: false; problems: { drink: string; well: string; problems: Problem[] }[] }

/**
 * Freezes a menu: every version with every figure on every well, and a copy of every bottle,
 * glass, well and setting that was used. A drink that cannot be computed somewhere stops it all.
 */
export function lockEdition(chapters: readonly PlannedChapter[], book: HouseBook): LockResult {
  const failed: { drink: string; well: string; problems: Problem[] }[] = []
  const lockDrink = (planned: PlannedDrink): LockedDrink => {
    const byWell: LockedDrink['byWell'] = {}
    for (const { slug } of book.wells) {
      const glass = glassFor(planned.document, book, slug)
      if (glass.ok) byWell[slug] = { result: glass.result, consequences: glass.consequences }
      else failed.push({ drink: planned.drink, well: slug, problems: glass.problems })
    }
    return { ...planned, byWell }
  }
  const locked = chapters.map((c) => ({ name: c.name, drinks: c.drinks.map(lockDrink) }))
  if (failed.length > 0) return { ok: false, problems: failed }

  const documents = chapters.flatMap((c) => c.drinks.map((d) => d.document))
  // What is poured, and everything that it is made of.
  const pours = documents.flatMap((d) => d.pours)
  const slots = (book.slots ?? []).filter((s) => pours.some((p) => p.slot === s.slug))
  // All that a slot names: why it was this bottle can be read later.
  const inSlots = slots.flatMap((s) => [...s.candidates, ...s.refused].map((c) => c.ingredient))
  const poured = [...pours.flatMap((p) => p.ingredient ?? []), ...inSlots]
  const ingredients = new Set(poured.flatMap((slug) => [slug, ...partsOf(slug, book.ingredients).map((p) => p.slug)]))
  const glasses = new Set(documents.flatMap((d) => [d.glass, ...Object.values(d.glassByWell ?? {})]))
  return {
    ok: true,
    lock: {
      format: 'lazy-conch/edition-lock',
      formatVersion: 2,
      model: MODEL_VERSION,
      book: {
        settings: book.settings,
        wells: book.wells,
        ingredients: book.ingredients.filter((i) => ingredients.has(i.slug)),
        glasses: book.glasses.filter((g) => glasses.has(g.slug)),
        ...(slots.length > 0 ? { slots } : {}),
        ...(book.calibrations?.length ? { calibrations: book.calibrations } : {}),
        profiles: Object.fromEntries(Object.entries(book.profiles ?? {}).filter(([slug]) => ingredients.has(slug))),
      },
      chapters: locked,
    },
  }
}
