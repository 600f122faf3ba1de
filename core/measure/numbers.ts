/** Numbers as people write them in recipes: digits, fractions, words and mixtures of these. */

const VULGAR: Record<string, number> = {
  '¼': 1 / 4,
  '½': 1 / 2,
  '¾': 3 / 4,
  '⅓': 1 / 3,
  '⅔': 2 / 3,
  '⅛': 1 / 8,
  '⅜': 3 / 8,
  '⅝': 5 / 8,
  '⅞': 7 / 8,
  '⅕': 1 / 5,
  '⅖': 2 / 5,
  '⅗': 3 / 5,
  '⅘': 4 / 5,
  '⅙': 1 / 6,
  '⅚': 5 / 6,
}
const V = `[${Object.keys(VULGAR).join('')}]`

const WORDS: Record<string, number> = {
  one: 1,
  two: 2,
  three: 3,
  four: 4,
  five: 5,
  six: 6,
  seven: 7,
  eight: 8,
  nine: 9,
  ten: 10,
  eleven: 11,
  twelve: 12,
}
const WORD = `(?:${Object.keys(WORDS).join('|')})`
const HALVES: Record<string, number> = { half: 2, third: 3, quarter: 4, eighth: 8, fifth: 5 }
const SHARE = '(?:half|halves|thirds?|quarters?|eighths?|fifths?)'
const DECIMAL = String.raw`\d*[.,]\d+|\d+`
const SIMPLE = String.raw`\d+\s*[\/⁄]\s*\d+`
const AND = String.raw`(?:\s*(?:and|&|\+)\s*|\s+|-)`
/** "a half", "half a", "half of an", "three-quarters of an", "one quarter". */
const SHARE_WORDS = String.raw`(?:(?:an?|${WORD}|\d)[\s-]+)?${SHARE}(?:\s+of)?(?:\s+an?)?`

/**
 * A number somewhere in a text, as a source for a pattern, without groups: "1", ".5", "2,5", "1½", "1 1/2", "1 and 1/2",
 * "one and a half", "three quarters of an", "half a", "two", "a".
 */
export const NUMBER_PATTERN = `(?:(?:(?:${DECIMAL})(?![.,]?\\d)|${WORD}\\b)(?:${AND}(?:${V}|${SIMPLE}|(?:a |one )${SHARE}\\b))|(?:${SIMPLE})|(?:(?:${DECIMAL})\\s*${V}|${V})|(?:${SHARE_WORDS})\\b|(?:${DECIMAL})|${WORD}\\b|an?\\b)`

/** "three quarters of an" → 0.75, "half a" → 0.5. */
function readShare(text: string): number | undefined {
  const match = new RegExp(String.raw`^(?:(an?|${WORD}|\d)[\s-]+)?(${SHARE})(?:\s+of)?(?:\s+an?)?$`, 'i').exec(text)
  if (!match) return undefined
  const [, above = 'a', share = ''] = match
  const below = HALVES[share.toLowerCase().replace('halves', 'half').replace(/s$/, '')]
  const many = /^an?$/i.test(above) ? 1 : (WORDS[above.toLowerCase()] ?? Number(above))
  return below === undefined ? undefined : many / below
}

/** A whole text as a number; undefined where it is none, and where it divides by zero. */
export function readNumber(text: string): number | undefined {
  const plain = text.trim().toLowerCase().replace(/⁄/g, '/').replace(/\s+/g, ' ')
  if (plain === 'a' || plain === 'an') return 1
  if (WORDS[plain] !== undefined) return WORDS[plain]
  if (/^(?:\d+(?:[.,]\d+)?|[.,]\d+)$/.test(plain)) return Number(plain.replace(',', '.'))
  if (VULGAR[plain] !== undefined) return VULGAR[plain]
  const fraction = /^(\d+) ?\/ ?(\d+)$/.exec(plain)
  if (fraction) return Number(fraction[2]) === 0 ? undefined : Number(fraction[1]) / Number(fraction[2])
  const share = readShare(plain)
  if (share !== undefined) return share
  // A whole and a part: "1½", "1 1/2", "1 and 1/2", "one and a half", "1-1/2".
  const mixed = new RegExp(
    String.raw`^(\d+|${WORD})(?:\s*(?:and|&|\+)\s*|\s+|-|)((?:${V})|\d+ ?\/ ?\d+|(?:a |one )?${SHARE})$`,
    'i',
  ).exec(plain)
  if (!mixed) return undefined
  const whole = WORDS[mixed[1] as string] ?? Number(mixed[1])
  const part = readNumber(mixed[2] as string)
  return part === undefined || part >= 1 ? undefined : whole + part
}
