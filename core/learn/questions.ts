/** What there is to know of an edition at a well: each thing a question with one answer, from the drinks as they are poured. */

import { ICE_KINDS } from '../cold/index.ts'
import { allergensOf, type DrinkDocument, resolveDrink } from '../drink/index.ts'
import { type Allergen, bySlug, type HouseBook } from '../house/index.ts'
import { goesOf, isWorked, stepsOf } from '../service/index.ts'
import { drinkTonight } from '../tonight/index.ts'

export const QUESTION_KINDS = {
  amount: 'amounts',
  order: 'order of making',
  chill: 'seconds',
  ice: 'ice',
  glass: 'glass',
  garnish: 'garnish',
  allergens: 'what to say about allergens',
  dark: 'what goes dark when something is out',
  picture: 'the glass by its picture',
} as const
export type QuestionKind = keyof typeof QUESTION_KINDS

interface Common {
  /** Names the thing and its answer. */
  id: string
  /** The thing without its answer: the same in an edition where it was otherwise. */
  base: string
  drink: string
  name: string
}

export type Question =
  | (Common & { kind: 'amount'; bottle: string; volumeMl: number; text: string })
  | (Common & { kind: 'order'; bottles: string[] })
  | (Common & { kind: 'chill'; station: string; durationS: number })
  | (Common & { kind: 'ice'; iceName: string; massG: number })
  | (Common & { kind: 'glass'; glass: string })
  | (Common & { kind: 'garnish'; texts: string[] })
  | (Common & { kind: 'allergens'; allergens: Allergen[] })
  | (Common & { kind: 'dark'; bottle: string; drinks: string[] })
  | (Common & { kind: 'picture' })

export interface DrinkToLearn {
  drink: string
  name: string
  document: DrinkDocument
}

/** So many pours are an order that one can get wrong. */
const LEAST_ORDER = 3
const MOST_ID = 140
const slugged = (text: string) =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60) || 'x'

/**
 * Every question about these drinks at a well, drink by drink; then what goes dark. The answer is part of a question's name, so
 * that one that changed is asked anew, whatever somebody knew of it before.
 */
export function questionsOf(drinks: readonly DrinkToLearn[], book: HouseBook, well: string): Question[] {
  return [...drinks.flatMap((d) => questionsOfDrink(d, book, well)), ...darkQuestions(drinks, book, well)]
}

function questionsOfDrink({ drink, name, document }: DrinkToLearn, book: HouseBook, well: string): Question[] {
  // What is out tonight is not what one learns.
  const { outAt: _, ...whole } = book
  const resolution = resolveDrink(document, whole, well)
  if (!resolution.ok) return []
  const resolved = resolution.drink
  const steps = stepsOf([{ id: 'a', name, document, glasses: 1, made: undefined, goes: 1 }], whole, well)
  const poured = steps.filter((s) => s.kind === 'pour' || s.kind === 'soda' || s.kind === 'after' || s.kind === 'float')
  const found: Question[] = []
  const add = <Q extends Question>(
    kind: Q['kind'],
    of: string | undefined,
    answer: string,
    rest: Omit<Q, keyof Common | 'kind'>,
  ) => {
    const base = of === undefined ? `${kind}:${drink}` : `${kind}:${drink}:${slugged(of)}`
    found.push({ id: `${base}=${answer.slice(0, MOST_ID)}`, base, kind, drink, name, ...rest } as unknown as Q)
  }
  for (const s of poured) {
    const ml = s.volumeMl ?? 0
    add<Extract<Question, { kind: 'amount' }>>('amount', s.name, String(Number(ml.toFixed(2))), {
      bottle: s.name,
      volumeMl: ml,
      text: s.amount ?? '',
    })
  }
  const order = steps.filter((s) => s.kind === 'pour').map((s) => s.name)
  if (order.length >= LEAST_ORDER && new Set(order).size === order.length)
    add<Extract<Question, { kind: 'order' }>>('order', undefined, order.map(slugged).join(','), { bottles: order })
  const [stage] = resolved.stages
  // The spec's seconds are for all of it: a bowl that is made in goes has others, that are counted and not learned.
  if (stage && isWorked(resolved) && goesOf(resolved) === 1) {
    const durationS = stage.parameters.durationS
    add<Extract<Question, { kind: 'chill' }>>('chill', undefined, String(durationS), { station: stage.name, durationS })
  }
  const portion = stage?.ice.find((p) => p.massG > 0)
  if (portion)
    add<Extract<Question, { kind: 'ice' }>>('ice', undefined, `${portion.kind} ${portion.massG}`, {
      iceName: ICE_KINDS[portion.kind].label,
      massG: portion.massG,
    })
  const glass = bySlug(book.glasses, document.glassByWell?.[well] ?? document.glass)
  if (glass) {
    add<Extract<Question, { kind: 'glass' }>>('glass', undefined, glass.slug, { glass: glass.slug })
    add<Extract<Question, { kind: 'picture' }>>('picture', undefined, glass.slug, {})
  }
  const garnish = document.garnish.filter((g) => g.isFood).map((g) => g.text)
  if (garnish.length > 0)
    add<Extract<Question, { kind: 'garnish' }>>('garnish', undefined, garnish.map(slugged).join(','), {
      texts: garnish,
    })
  // Where nobody knows for sure nothing is taught.
  const isUnsure = resolved.pours.some((p) => !p.ingredient || book.mixes?.[p.ingredient.slug]?.isAllergenUnsure)
  const allergens = allergensOf(resolved)
  if (!isUnsure)
    add<Extract<Question, { kind: 'allergens' }>>(
      'allergens',
      undefined,
      [...allergens].sort().map(slugged).join(','),
      {
        allergens,
      },
    )
  return found
}

/** Of every bottle that at least one drink cannot do without: which go dark. */
function darkQuestions(drinks: readonly DrinkToLearn[], book: HouseBook, well: string): Question[] {
  const named = new Map<string, string>()
  for (const { document } of drinks)
    for (const { ingredient } of document.pours) {
      const known = bySlug(book.ingredients, ingredient)
      if (known) named.set(known.slug, known.name)
    }
  return [...named].flatMap(([slug, bottle]): Question[] => {
    const without = { ...book, outAt: { [well]: { ingredients: [slug], glasses: [], fruits: [] } } }
    const { outAt: _, ...whole } = book
    const goes = drinks.filter(
      (d) =>
        drinkTonight(d.document, without, well).missing.length > 0 &&
        drinkTonight(d.document, whole, well).missing.length === 0,
    )
    // One drink of one bottle is in its name already.
    if (goes.length < 2) return []
    const base = `dark:${slug}`
    const dark = goes.map((d) => d.drink).sort()
    return [
      {
        id: `${base}=${dark.join(',').slice(0, MOST_ID)}`,
        base,
        kind: 'dark',
        drink: slug,
        name: bottle,
        bottle,
        drinks: dark,
      },
    ]
  })
}

/** What changed against an older edition: there, and answered otherwise; or not there at all. */
export function changedSince(now: readonly Question[], before: readonly Question[]): Set<string> {
  const same = new Set(before.map((q) => q.id))
  return new Set(now.filter((q) => !same.has(q.id)).map((q) => q.id))
}
