/** What books count instead of measuring: fruit by its juice, eggs by their whites. */

import { NUMBER_PATTERN, readNumber } from './numbers.ts'

/** Juice of one fruit, ml, until the house has pressed its own (assumed; boxes differ by half as much again). */
export const ASSUMED_FRUIT_ML: Record<string, number> = {
  lime: 25,
  lemon: 40,
  orange: 75,
  grapefruit: 150,
  'passion fruit': 15,
}
/** Of a middling egg, ml (assumed). */
const ASSUMED_EGG_ML: Record<string, number> = { 'egg white': 30, 'egg yolk': 18, 'whole egg': 50 }

export interface CountedThing {
  count: number
  /** Of which one: "lime". */
  name: string
  /** What is poured: "lime juice". */
  words: string
  assumedMl: number
  ofWhat: { what: string; nobody: string }
}

const FRUIT = '(passion ?fruit|grapefruit|lime|lemon|orange)'
const FRUIT_WORDS = { what: 'fruit', nobody: 'assumed: nobody has pressed one here' }
const EGG_WORDS = { what: 'eggs', nobody: 'assumed: nobody has weighed one here' }
const FRESH = '(?:(?:fresh|freshly squeezed|small|large|medium|whole|ripe) )*'
const END = String.raw`(?=$|[,(]|\.$| juiced| squeezed| pressed|, juice)`

/** "juice of 3 lime halves" → 1.5 limes; undefined for what is no count. */
export function readCounted(line: string): CountedThing | undefined {
  return readFruit(line) ?? readEggs(line)
}

function readFruit(line: string): CountedThing | undefined {
  const juice = new RegExp(
    `^(?:the )?(?:fresh )?juice (?:of|from) (${NUMBER_PATTERN})?\\s*(?:an? )?${FRESH}${FRUIT}s?( hal(?:f|ves)| wedges?| quarters?)?\\b`,
    'i',
  ).exec(line)
  const bare = new RegExp(
    `^(${NUMBER_PATTERN})\\s*(?:(?:of )?an? )?${FRESH}${FRUIT}s?( hal(?:f|ves))?${END}`,
    'i',
  ).exec(line)
  const match = juice ?? bare
  if (!match) return undefined
  const pieces = match[1] ? readNumber(match[1]) : 1
  const name = match[2]?.toLowerCase().replace('passionfruit', 'passion fruit')
  if (pieces === undefined || pieces <= 0 || name === undefined) return undefined
  const piece = /hal/i.test(match[3] ?? '')
    ? 0.5
    : /quarter/i.test(match[3] ?? '')
      ? 0.25
      : /wedge/i.test(match[3] ?? '')
        ? 1 / 8
        : 1
  return {
    count: pieces * piece,
    name,
    words: `${name} juice`,
    assumedMl: ASSUMED_FRUIT_ML[name] ?? 30,
    ofWhat: FRUIT_WORDS,
  }
}

function readEggs(line: string): CountedThing | undefined {
  const match = new RegExp(
    `^(?:the )?(${NUMBER_PATTERN})?\\s*${FRESH}(?:(egg white|egg yolk|whole egg|egg)s?|(white|yolk)s? of (${NUMBER_PATTERN})\\s*${FRESH}eggs?)\\s*$`,
    'i',
  ).exec(line)
  if (!match) return undefined
  const [, before, thing, part, after] = match
  const name = part ? `egg ${part.toLowerCase()}` : thing?.toLowerCase() === 'egg' ? 'whole egg' : thing?.toLowerCase()
  const written = part ? after : before
  const count = written ? readNumber(written) : undefined
  if (!name || count === undefined || count <= 0) return undefined
  return { count, name, words: name, assumedMl: ASSUMED_EGG_ML[name] ?? 30, ofWhat: EGG_WORDS }
}
