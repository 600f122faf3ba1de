import type { Years } from './sourceSchema.ts'

/** How far off "about 1952" may be. */
const ABOUT_YEARS = 5

const YEAR = '(1[5-9]\\d\\d|20\\d\\d|21\\d\\d)'
const RANGE = new RegExp(`^(?:between |from )?${YEAR}\\s*(?:-|–|—|/|to|and|until)\\s*(?:${YEAR}|(\\d\\d))$`)
const DECADE = /^(early|mid|late)?[ -]*(?:the )?(1[5-9]\d0|20\d0)['’]?s$/
const CENTURY = /^(early|mid|late)?[ -]*(?:the )?(1[6-9]|2[01])(?:th|st) century$/
const ONE = new RegExp(`^${YEAR}$`)
const ABOUT = new RegExp(`^(?:about|around|circa|ca\\.?|c\\.?|roughly|perhaps|probably)\\s*${YEAR}$`)
const BEFORE = new RegExp(`^(?:before|no later than|by)\\s*${YEAR}$`)
const AFTER = new RegExp(`^(?:after|since|not before)\\s*${YEAR}$`)
const MONTHS =
  'jan(?:uary)?|feb(?:ruary)?|mar(?:ch)?|apr(?:il)?|may|june?|july?|aug(?:ust)?|sept?(?:ember)?|oct(?:ober)?|nov(?:ember)?|dec(?:ember)?'
/** A day, month or season says no more about the year. */
const WITHIN_YEAR = new RegExp(
  `^(?:(?:early|mid|late) )?(?:(?:the )?(?:spring|summer|autumn|fall|winter)(?: of)?|(?:\\d{1,2}\\.? )?(?:${MONTHS})\\.?)(?: \\d{1,2},?)? (?=\\d{4}$)`,
)

const PARTS = { early: [0, 1 / 3], mid: [1 / 3, 2 / 3], late: [2 / 3, 1] } as const

function partOf(firstYear: number, years: number, part: string | undefined): Years {
  const [low, high] = PARTS[part as keyof typeof PARTS] ?? [0, 1]
  return { fromYear: firstYear + Math.round(years * low), toYear: firstYear + Math.round(years * high) - 1 }
}

/**
 * The years that words about time mean: "about 1952", "1950s", "late 1930s", "1934–38", "between the wars",
 * "before 1940". undefined: they say nothing that can be placed ("undated", "opening year"); nothing is guessed.
 */
export function readWhen(words: string): Years | undefined {
  const said = words
    .trim()
    .toLowerCase()
    .replace(/,?\s*\(?undated\)?$/, '')
    .replace(/\s+/g, ' ')
    .replace(WITHIN_YEAR, '')
  const about = ABOUT.exec(said)
  if (about) return { fromYear: Number(about[1]) - ABOUT_YEARS, toYear: Number(about[1]) + ABOUT_YEARS }
  if (ONE.test(said)) return { fromYear: Number(said), toYear: Number(said) }
  const range = RANGE.exec(said)
  if (range) {
    const fromYear = Number(range[1])
    // "1934–38": the same century.
    const toYear = range[2] ? Number(range[2]) : Math.floor(fromYear / 100) * 100 + Number(range[3])
    return toYear < fromYear ? undefined : { fromYear, toYear }
  }
  const decade = DECADE.exec(said)
  // "1900s" may be ten years or a hundred.
  if (decade?.[2]?.endsWith('00')) return partOf(Number(decade[2]), 100, decade[1])
  if (decade) return partOf(Number(decade[2]), 10, decade[1])
  const century = CENTURY.exec(said)
  if (century) return partOf((Number(century[2]) - 1) * 100, 100, century[1])
  if (/^(?:in )?between the (?:two )?(?:world )?wars$|^inter-?war(?: years)?$/.test(said))
    return { fromYear: 1919, toYear: 1938 }
  const before = BEFORE.exec(said)
  if (before) return { toYear: said.startsWith('before') ? Number(before[1]) - 1 : Number(before[1]) }
  const after = AFTER.exec(said)
  if (after) return { fromYear: said.startsWith('after') ? Number(after[1]) + 1 : Number(after[1]) }
  return undefined
}

/** Where a span stands among others: its middle, or the end that is known. */
export const middleOf = ({ fromYear, toYear }: Years): number =>
  ((fromYear ?? (toYear as number)) + (toYear ?? (fromYear as number))) / 2

/** A span in words: "1947 to 1957", "1974", "until 1939". */
export function yearsText({ fromYear, toYear }: Years): string {
  if (fromYear === undefined) return `until ${toYear}`
  if (toYear === undefined) return `from ${fromYear} on`
  return fromYear === toYear ? String(fromYear) : `${fromYear} to ${toYear}`
}

/** Whether two spans can mean the same year. */
export const mayAgree = (a: Years, b: Years): boolean =>
  (a.fromYear ?? -Infinity) <= (b.toYear ?? Infinity) && (b.fromYear ?? -Infinity) <= (a.toYear ?? Infinity)
