/** What a guest, or whoever stands behind the bar, wishes for, in plain words: "no nuts, under 15 %, long, pineapple". */

import { ALLERGENS, type Allergen } from '../schema/lists.ts'
import { plainText } from '../text/index.ts'

/** What a drink is like, beyond what it is made of. */
export const TASTES = ['sweet', 'dry', 'sour', 'strong', 'light', 'long', 'short', 'up', 'shared'] as const
export type Taste = (typeof TASTES)[number]

export interface Wish {
  /** None of these may be in it. */
  withoutAllergens: Allergen[]
  /** Strength in the glass, % by volume; both ends left out: any. */
  mostPct?: number
  leastPct?: number
  is: Taste[]
  isNot: Taste[]
  /** Words that have to be found in its name or in what it pours. */
  words: string[]
  /** Words that must not be. */
  notWords: string[]
}

/** Plain words for what the lists call otherwise. */
const ALLERGEN_WORDS: Record<string, readonly Allergen[]> = {
  nut: ['tree nuts', 'peanuts'],
  nuts: ['tree nuts', 'peanuts'],
  almond: ['tree nuts'],
  almonds: ['tree nuts'],
  hazelnut: ['tree nuts'],
  peanut: ['peanuts'],
  milk: ['dairy'],
  cream: ['dairy'],
  butter: ['dairy'],
  lactose: ['dairy'],
  eggs: ['egg'],
  sulphite: ['sulphites'],
  sulfite: ['sulphites'],
  sulfites: ['sulphites'],
  coconuts: ['coconut'],
  wheat: ['gluten'],
  soy: ['soya'],
}
const allergensOf = (word: string): readonly Allergen[] =>
  ALLERGEN_WORDS[word] ?? ALLERGENS.filter((a) => a === word || a === `${word}s`)

const TASTE_WORDS: Record<string, Taste> = {
  sweet: 'sweet',
  dry: 'dry',
  sour: 'sour',
  tart: 'sour',
  sharp: 'sour',
  strong: 'strong',
  boozy: 'strong',
  light: 'light',
  weak: 'light',
  mild: 'light',
  long: 'long',
  tall: 'long',
  short: 'short',
  small: 'short',
  up: 'up',
  stemmed: 'up',
  shared: 'shared',
  bowl: 'shared',
  share: 'shared',
  sharing: 'shared',
}
const NOT = new Set(['no', 'not', 'without', 'free', 'non', 'less', 'nothing'])
const MOST = new Set(['under', 'below', 'most', 'max', 'maximum', 'upto', '<'])
const LEAST = new Set(['over', 'above', 'least', 'min', 'minimum', 'more', '>'])
/** Said in passing: they ask for nothing. */
const PASSING = new Set(
  'a an the and or with of in it at is be something that for please drink drinks one too very any than per cent percent % to some glass but only from made'.split(
    ' ',
  ),
)

/** Below this it is without alcohol, as a guest means it, % by volume. */
const NO_ALCOHOL_PCT = 0.5

/** @returns what is wished for; words that mean nothing else are looked for in names and pours */
export function readWish(text: string): Wish {
  const wish: Wish = { withoutAllergens: [], is: [], isNot: [], words: [], notWords: [] }
  const add = <T>(list: T[], ...items: readonly T[]) => {
    for (const item of items) if (!list.includes(item)) list.push(item)
  }
  const plain = plainText(text)
    .replace(/\btree nuts?\b/g, 'treenuts')
    .replace(/\bup to\b/g, 'upto')
    .replace(/([a-z]+)-free\b/g, 'no $1')
    .replace(/\b([a-z]+) free\b/g, 'no $1')
    .replace(/(\d)\s*(?:-|–|to)\s*(\d)/g, '$1..$2')
    .replace(/(\d),(\d)/g, '$1.$2')
    .replace(/([<>])/g, ' $1 ')
  let isNot = false
  let bound: 'most' | 'least' | undefined
  for (const token of plain.match(/[,;]|\d+(?:\.\d+)?(?:\.\.\d+(?:\.\d+)?)?|[a-z']+|[<>]/g) ?? []) {
    if (token === ',' || token === ';' || token === 'but' || token === 'and') {
      // "no nuts or egg": what follows an "or" is still not wanted.
      isNot = false
      continue
    }
    if (NOT.has(token)) {
      isNot = true
      continue
    }
    if (MOST.has(token)) {
      bound = 'most'
      isNot = false
      continue
    }
    if (LEAST.has(token)) {
      bound = isNot ? 'most' : 'least'
      isNot = false
      continue
    }
    const range = /^(\d+(?:\.\d+)?)\.\.(\d+(?:\.\d+)?)$/.exec(token)
    if (range) {
      const ends = [Number(range[1]), Number(range[2])]
      wish.leastPct = Math.min(...ends)
      wish.mostPct = Math.max(...ends)
      continue
    }
    if (/^\d/.test(token)) {
      if (bound === 'least') wish.leastPct = Number(token)
      else wish.mostPct = Number(token)
      bound = undefined
      continue
    }
    if (PASSING.has(token)) continue
    const word = token === 'treenuts' ? 'tree nuts' : token
    if (isNot && (word === 'alcohol' || word === 'alcoholic')) wish.mostPct = NO_ALCOHOL_PCT
    else if (isNot && allergensOf(word).length > 0) add(wish.withoutAllergens, ...allergensOf(word))
    else if (Object.hasOwn(TASTE_WORDS, word)) {
      const taste = TASTE_WORDS[word] as Taste
      if (isNot) add(wish.isNot, taste)
      else add(wish.is, taste)
    } else if (isNot) add(wish.notWords, word)
    else add(wish.words, word)
  }
  return wish
}
