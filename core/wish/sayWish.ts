import type { Wish } from './readWish.ts'

/** How a wish was understood, part by part: so that nobody is served by a misunderstanding. */
export function sayWish({ withoutAllergens, mostPct, leastPct, is, isNot, words, notWords }: Wish): string[] {
  return [
    ...withoutAllergens.map((a) => `without ${a}`),
    ...(mostPct === undefined ? [] : [`at most ${mostPct} %`]),
    ...(leastPct === undefined ? [] : [`at least ${leastPct} %`]),
    ...is,
    ...isNot.map((t) => `not ${t}`),
    ...words.map((w) => `“${w}” in it`),
    ...notWords.map((w) => `no “${w}”`),
  ]
}
