import { INGREDIENT_KINDS, type Ingredient, type IngredientKind } from '../house/index.ts'
import type { Slot } from '../palate/index.ts'
import { plainText } from '../text/index.ts'

/** Something on the shelf that a line may mean, best first. */
export interface Match {
  slug: string
  /** Share of the line's words that it has, 0 to 1. */
  score: number
}

/** Words that say how, not what. */
const IDLE = new Set(
  'fresh freshly squeezed pressed strained chilled cold good quality of the a an and with or your favourite house homemade some large small'.split(
    ' ',
  ),
)

/** Lower case, no accents, no idle words, no plural s. */
export function wordsOf(text: string): string[] {
  return plainText(text)
    .split(/[^a-z0-9]+/)
    .filter((w) => w.length > 1 && !IDLE.has(w))
    .map((w) => (w.length > 3 && w.endsWith('s') && !w.endsWith('ss') ? w.slice(0, -1) : w))
}

/** Words that say what kind of thing is meant: the purée of a fruit is not its syrup. */
const KIND_WORDS: readonly (readonly [RegExp, readonly IngredientKind[]])[] = [
  [/\b(syrup|cordial)\b/, ['syrup', 'houseMix']],
  [/\bpurees?\b/, ['puree']],
  [/\bjuice\b/, ['juice']],
  [/\b(liqueur|cream de|creme)\b/, ['liqueur']],
  [/\bbitters?\b/, ['bitters']],
  [/\b(rum|gin|whiskey|whisky|brandy|vodka)\b/, ['spirit', 'blend']],
  [/\b(soda|tonic|beer|cola)\b/, ['soda']],
]
/** Of something of another kind than was written: a person is asked. */
const OTHER_KIND_SCORE = 0.6

/** Whether the words name a kind that this thing neither is nor says it is. */
function isOfAnotherKind(words: string, { kind, names }: { kind?: IngredientKind; names: string }): boolean {
  if (kind === undefined) return false
  const [wanted, named] = [plainText(words), plainText(names)]
  return KIND_WORDS.some(([word, kinds]) => word.test(wanted) && !word.test(named) && !kinds.includes(kind))
}

/** Longer words name more: "orgeat" says what it is, "syrup" hardly. */
const COMMON = new Set(['syrup', 'juice', 'rum', 'liqueur', 'puree', 'mix', 'white', 'gold', 'dark'])
const weightOf = (word: string) => (COMMON.has(word) ? 1 : 2)

interface Named {
  slug: string
  kind?: IngredientKind
  name: string
  /** Every name that it has or had. */
  names: string
  /** What else is said of it. */
  about: string
}

/**
 * What of the shelf a line's words mean: by name, any earlier name, style or note; best first, at
 * most six. Nothing when no word is known.
 */
export function matchIngredient(words: string, ingredients: readonly Ingredient[]): Match[] {
  return matchNamed(
    words,
    ingredients.map((i) => ({
      slug: i.slug,
      name: i.name,
      kind: i.kind,
      names: [i.name, ...i.formerNames].join(' '),
      about: [i.note ?? '', i.style ?? '', INGREDIENT_KINDS[i.kind]].join(' '),
    })),
  )
}

/** The slots that a line's words mean: newer specs name a style, not a bottle. Best first, at most six. */
export function matchSlot(words: string, slots: readonly Slot[]): Match[] {
  const named = slots.map((s) => ({ slug: s.slug, name: s.name, names: s.name, about: s.note ?? '' }))
  // A rum is a rum: a common word alone names no slot.
  if (wordsOf(words).every((w) => COMMON.has(w))) return []
  return matchNamed(words, named).filter((m) => m.score > 0.5)
}

function matchNamed(words: string, things: readonly Named[]): Match[] {
  const wanted = wordsOf(words)
  if (wanted.length === 0) return []
  const all = wanted.reduce((sum, w) => sum + weightOf(w), 0)
  return things
    .map((i) => {
      const names = wordsOf(i.names)
      const about = wordsOf(i.about)
      const has = (list: string[], w: string) => list.some((n) => n === w || (w.length > 3 && n.startsWith(w)))
      const score = wanted.reduce((sum, w) => sum + weightOf(w) * (has(names, w) ? 1 : has(about, w) ? 0.6 : 0), 0)
      // Of two that have every word, the one with fewer others.
      const spare = wordsOf(i.name).filter((n) => !wanted.some((w) => n.startsWith(w))).length
      const share = score / all
      return { slug: i.slug, score: isOfAnotherKind(words, i) ? Math.min(share, OTHER_KIND_SCORE) : share, spare }
    })
    .filter((m) => m.score > 0.3)
    .sort((a, b) => b.score - a.score || a.spare - b.spare || a.slug.localeCompare(b.slug))
    .slice(0, 6)
    .map(({ slug, score }) => ({ slug, score }))
}

/** The one that a line surely means: it has every word, and no other has as many. */
export function sureMatch(matches: readonly Match[]): string | undefined {
  const [first, second] = matches
  if (!first || first.score < 0.75) return undefined
  return second && second.score > first.score - 0.15
    ? first.score > 0.99 && second.score < 0.99
      ? first.slug
      : undefined
    : first.slug
}
