/** What an event says, in words: for whoever looks who did what, and for a table of it. */

import { type HouseClock, momentText } from '@conch/core/calendar'
import type { AuditEntry, EventKind, EventVerb } from './events.ts'

export const KIND_WORDS: Record<EventKind, string> = {
  house: 'the house',
  settings: 'the settings',
  well: 'a well',
  glass: 'a glass',
  ingredient: 'a bottle or mix',
  slot: 'a slot',
  bottles: 'many bottles',
  drink: 'a drink',
  plan: 'the next edition',
  decision: 'a decision',
  tasting: 'a tasting',
  note: 'a note',
  edition: 'an edition',
  lot: 'a lot',
  flight: 'a flight',
  batch: 'a sealed batch',
  trial: 'a trial',
  station: 'a station',
  person: 'a person',
  session: 'a sign-in',
  device: 'a device',
  out: 'a shortage',
  tonight: 'a choice for tonight',
  round: 'a round',
  practice: 'a practice',
}

const VERB_WORDS: Record<EventVerb, string> = {
  began: 'began the history of',
  setUp: 'set up',
  imported: 'brought in',
  made: 'made',
  changed: 'changed',
  versioned: 'saved a version of',
  hidden: 'put aside',
  shown: 'took back',
  deleted: 'threw away',
  published: 'published',
  measured: 'measured',
  labelled: 'printed labels of',
  usedUp: 'used up',
  discarded: 'discarded',
  reopened: 'reopened',
  tasted: 'tasted',
  dealt: 'dealt',
  excluded: 'left out',
  included: 'took in again',
  calibrated: 'calibrated',
  retaken: 'took over with new figures',
  found: 'wrote down a source of',
  decided: 'decided about',
  closed: 'closed',
  abandoned: 'gave up',
  answered: 'answered',
  signedIn: 'signed in',
  signedOut: 'signed out',
  locked: 'locked the screen',
  lifted: 'lifted the lock of',
  coded: 'made a code for',
  enrolled: 'enrolled',
  removed: 'took out of the house',
  ranOut: 'reported',
  ranLow: 'foresaw',
  ended: 'ended',
  chosen: 'took',
  parked: 'put aside half made',
  takenUp: 'took up again',
}

const has = <T extends object>(words: T, key: string): key is keyof T & string => Object.hasOwn(words, key)

export const kindWords = (kind: string): string => (has(KIND_WORDS, kind) ? KIND_WORDS[kind] : kind)
export const verbWords = (verb: string): string => (has(VERB_WORDS, verb) ? VERB_WORDS[verb] : verb)

/** Units stand at the end of names: as one writes them behind a comma. */
const UNITS: readonly [RegExp, string][] = [
  [/GPer100Ml$/, 'g/100 ml'],
  [/GPerMl$/, 'g/ml'],
  [/WPerK$/, 'W/K'],
  [/JPerK$/, 'J/K'],
  [/Pct$/, '%'],
  [/Ml$/, 'ml'],
  [/Mm$/, 'mm'],
  [/G$/, 'g'],
  [/C$/, '°C'],
  [/S$/, 's'],
  [/W$/, 'W'],
]

/** `sugarGPer100Ml` as one reads it aloud. */
function fieldWords(key: string): string {
  const [unit, short] = UNITS.find(([pattern]) => pattern.test(key)) ?? []
  const plain = (unit ? key.replace(unit, '') : key)
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .replace(/[-_]/g, ' ')
    .toLowerCase()
  return short && plain ? `${plain}, ${short}` : plain || key
}

type Json = unknown
const isObject = (value: Json): value is Record<string, Json> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** What an entry of a list goes by, so that one that moved is not said to have changed. */
const nameIn = (value: Json): string | undefined => {
  if (!isObject(value)) return undefined
  for (const key of ['name', 'slug', 'ingredient', 'drink', 'asWritten']) {
    const name = value[key]
    if (typeof name === 'string') return name
  }
  return undefined
}

const MOST_VALUE = 80
function valueWords(value: Json): string {
  if (value === undefined || value === null || value === '') return 'nothing'
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (typeof value === 'number') return String(Number(value.toPrecision(6)))
  if (typeof value === 'string') return value.length > MOST_VALUE ? `${value.slice(0, MOST_VALUE)}…` : value
  if (Array.isArray(value)) {
    const all = value.map((v) => nameIn(v) ?? (isObject(v) ? '…' : valueWords(v))).join(', ')
    return all.length > MOST_VALUE ? `${all.slice(0, MOST_VALUE)}…` : all || 'none'
  }
  return nameIn(value) ?? valueWords(JSON.stringify(value))
}

/** Only that something else was saved; the reader wants to know what. */
const SILENT = new Set(['revision', 'id', 'slug', 'position', 'sealedAs'])

function* changesIn(was: Json, is: Json, path: readonly string[]): Generator<string> {
  if (JSON.stringify(was) === JSON.stringify(is)) return
  if (Array.isArray(was) && Array.isArray(is)) {
    const named = [...was, ...is].every((v) => nameIn(v) !== undefined)
    if (named) {
      const [before, after] = [was, is].map((list) => new Map(list.map((v) => [nameIn(v) ?? '', v])))
      for (const name of new Set([...(before?.keys() ?? []), ...(after?.keys() ?? [])])) {
        const [a, b] = [before?.get(name), after?.get(name)]
        if (a === undefined) yield `${[...path, name].join(' · ')}: new`
        else if (b === undefined) yield `${[...path, name].join(' · ')}: gone`
        else yield* changesIn(a, b, [...path, name])
      }
      return
    }
  } else if (isObject(was) && isObject(is)) {
    for (const key of new Set([...Object.keys(was), ...Object.keys(is)]))
      if (!SILENT.has(key)) yield* changesIn(was[key], is[key], [...path, fieldWords(key)])
    return
  }
  yield `${path.join(' · ') || 'it'}: ${valueWords(was)} → ${valueWords(is)}`
}

/**
 * The fields that were changed, before and after, each in a line; and what else was said with it.
 * @param clock with it also when it was said, where it came later than that
 */
export function changesOf({ detail }: Pick<AuditEntry, 'detail'>, clock?: HouseClock): string[] {
  const { was, is, saidAt, ...others } = detail
  const late = clock && typeof saidAt === 'string' ? [`said ${momentText(saidAt, clock)}, and sent later`] : []
  const said = Object.entries(others)
    .filter(([, value]) => value !== null && value !== undefined && !isObject(value))
    .map(([key, value]) => `${fieldWords(key)}: ${valueWords(value)}`)
  return [...(was === undefined ? [] : changesIn(was, is, [])), ...said, ...late]
}

/** What was done, in a sentence without its subject. @param names people by their numbers, as they are called now */
export function sayEvent(
  { kind, verb, subject, detail, by }: Pick<AuditEntry, 'kind' | 'verb' | 'subject' | 'detail'> & { by?: string },
  names: ReadonlyMap<string, string>,
): string {
  // Whose it is goes without saying, unless it is somebody else's.
  if (kind === 'session' && (by === undefined || by === names.get(subject))) return verbWords(verb)
  const isOfPerson = kind === 'person' || kind === 'session'
  const named = [detail, detail.is, detail.was].map(nameIn).find((name) => name !== undefined)
  const what = isOfPerson ? (names.get(subject) ?? named ?? `person ${subject}`) : (named ?? subject)
  const kindOf = kind === '' || isOfPerson ? '' : `${kindWords(kind)}, `
  return `${verbWords(verb)} ${kindOf}${what}`
}
