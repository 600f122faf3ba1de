/** Anything that a document can hold, in words. What has no word of its own gets one from its key. */

import { ICE_KINDS, METHODS, POURS } from '../cold/index.ts'
import { RECIPE_MEASURES } from '../formula/index.ts'
import { INGREDIENT_KINDS, PLACES, STOCK_STATES } from '../house/index.ts'
import { type Amount, amountText, UNITS } from '../measure/index.ts'
import { STYLE_AXES } from '../palate/index.ts'
import { isRecord, isSame } from '../schema/sameness.ts'

/** Turns a slug into the name of what it stands for. */
export type NameOf = (slug: string) => string

/** What a field is called where its key does not say it. '' for what needs no name beside its subject. */
const LABELS: Readonly<Record<string, string>> = {
  amount: '',
  volumeMl: '',
  massG: '',
  into: '',
  version: '',
  garnish: 'garnish',
  pours: 'pours',
  by: 'written',
  durationS: 'seconds',
  waitS: 'waits on the ice',
  restS: 'rest between bursts',
  pour: 'poured',
  fill: 'filled',
  serveIce: 'ice in the glass',
  serveIceByWell: 'ice in the glass',
  glassByWell: 'glass',
  glassProfile: 'glass of its own',
  partMl: 'a part',
  startTemperatureC: 'before ice',
  hasFlame: 'flame',
  isFood: 'to be eaten',
  storedIn: 'kept',
  aimsAt: 'aims at',
  abvPct: 'strength',
  sugarGPer100Ml: 'sugar',
  acidGPer100Ml: 'acid',
  fatGPer100Ml: 'fat',
  otherGPer100Ml: 'other dissolved',
  staysFraction: 'stays',
  lossFraction: 'lost in pan and sieve',
  reduceToG: 'boiled down',
  keepsDays: 'keeps',
  keepsDecision: 'keeps by decision',
  pickByWell: 'pick',
  mlPerFruit: 'juice of one',
  withoutAllergens: 'said to be without',
  strengthPct: 'strength',
  sweetGPer100Ml: 'sweet',
  sourGPer100Ml: 'sour',
  dilutionPct: 'dilution',
  washLinePct: 'wash line',
}

const ENDINGS: readonly (readonly [RegExp, (value: number) => string])[] = [
  [/^version$/, (n) => `v${n}`],
  [/GPer100Ml$/, (n) => `${n} g/100 ml`],
  [/GPerMl$/, (n) => `${n} g/ml`],
  [/JPerK$/, (n) => `${n} J/K`],
  [/WPerK$/, (n) => `${n} W/K`],
  [/MlPerMl$/, (n) => `${n} ml/ml`],
  [/Fraction$/, (n) => `${Number((100 * n).toPrecision(12))} %`],
  [/Pct$/, (n) => `${n} %`],
  [/Ml$|^mlPer/, (n) => `${n} ml`],
  [/Mm$/, (n) => `${n} mm`],
  [/Days$|^days$/, (n) => (n === 1 ? '1 day' : `${n} days`)],
  [/minutes$/, (n) => `${n} min`],
  [/[a-z]G$/, (n) => `${n} g`],
  [/[a-z]C$/, (n) => `${n} °C`],
  [/[a-z]S$/, (n) => `${n} s`],
  [/[a-z]W$/, (n) => `${n} W`],
]

/** Words of the closed lists, by the key that holds one. */
const LISTS: Readonly<Record<string, Readonly<Record<string, string | { label: string }>>>> = {
  method: METHODS,
  pour: POURS,
  storedIn: PLACES,
  stock: STOCK_STATES,
  kind: { ...ICE_KINDS, ...INGREDIENT_KINDS },
  by: RECIPE_MEASURES,
  fill: { toLine: 'to the line', halfGlass: 'half the glass' },
  into: { tin: 'in the tin', glass: 'in the glass', float: 'floated' },
  basis: { measured: 'measured', label: 'from the label', assumed: 'assumed' },
}

/** Keys whose value is a slug of something that has a name. */
const NAMED = /^(ingredient|slot|pick|glass|well|drink|aimsAt|station)$/

/** A key as words: `surfaceWaterFraction` → "surface water". */
export function labelOf(key: string): string {
  const label = LABELS[key] ?? (key in STYLE_AXES ? STYLE_AXES[key as keyof typeof STYLE_AXES].label : undefined)
  if (label !== undefined) return label
  const bare = key.replace(/(GPer100Ml|GPerMl|JPerK|WPerK|MlPerMl|Fraction|Pct|Ml|Mm|(?<=[a-z])[GCSW])$/, '')
  return (bare || key)
    .replace(/([A-Z])/g, ' $1')
    .toLowerCase()
    .trim()
}

const numberWords = (n: number) => String(n).replace(/^-/, '−')

const isAmount = (value: Record<string, unknown>): value is Record<string, unknown> & Amount =>
  typeof value.value === 'number' && typeof value.unit === 'string' && value.unit in UNITS

const isBand = (value: Record<string, unknown>): value is { low: number; high: number } =>
  typeof value.low === 'number' && typeof value.high === 'number'

function amountWords({ asWritten, ...amount }: Amount): string {
  const words = amountText(amount)
  return asWritten === undefined || asWritten === words ? words : `${words} (“${asWritten}” as written)`
}

/** What stands under a key, in words. */
export function wordsOf(key: string, value: unknown, nameOf: NameOf): string {
  if (value === undefined) return 'not said'
  if (value === null) return 'nothing'
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (typeof value === 'number') {
    const unit = ENDINGS.find(([ending]) => ending.test(key))
    return unit ? unit[1](value).replace(/^-/, '−') : numberWords(value)
  }
  if (typeof value === 'string') {
    const listed = LISTS[key]?.[value]
    if (listed !== undefined) return typeof listed === 'string' ? listed : listed.label
    return NAMED.test(key) ? nameOf(value) : `“${value}”`
  }
  if (Array.isArray(value)) return value.length === 0 ? 'none' : value.map((v) => wordsOf(key, v, nameOf)).join(' + ')
  if (!isRecord(value)) return String(value)
  if (isAmount(value)) return amountWords(value)
  if (isBand(value)) return `${numberWords(value.low)} to ${wordsOf(key, value.high, nameOf)}`
  // A figure: its number first, then how it is known.
  const { value: figure, ...rest } = value
  const first = figure === undefined ? [] : [wordsOf(key, figure, nameOf)]
  const words = Object.entries(rest)
    .filter(([, v]) => v !== undefined && !isPlain(v))
    .map(([k, v]) => [labelOf(k), wordsOf(k, v, nameOf)].filter((w) => w !== '').join(' '))
  return [...first, ...words].join(', ') || 'empty'
}

/** What every line of its kind has unless it says otherwise; not worth a word in a list. */
const isPlain = (value: unknown) => value === 'tin'

/**
 * What two values under one key say differently: only the fields that differ, each with its name. The
 * two texts are never the same when the values are not.
 */
export function pairWords(key: string, before: unknown, after: unknown, nameOf: NameOf): [string, string] {
  // How an amount was written says something only where it is the same amount.
  if (isRecord(before) && isRecord(after) && isAmount(before) && isAmount(after)) {
    const [was, is] = [amountText(before), amountText(after)]
    if (was !== is) return [was, is]
  }
  const words: [string, string] =
    isRecord(before) && isRecord(after) && !isAmount(before) && !isBand(before)
      ? fieldWords(before, after, nameOf, key)
      : [wordsOf(key, before, nameOf), wordsOf(key, after, nameOf)]
  if (words[0] !== words[1]) return words
  // Two values that read alike, 0.3 and 0.30000000000000004: shown as they are stored.
  return [`${words[0]} (${JSON.stringify(before)})`, `${words[1]} (${JSON.stringify(after)})`]
}

function fieldWords(
  before: Record<string, unknown>,
  after: Record<string, unknown>,
  nameOf: NameOf,
  within: string,
): [string, string] {
  const keys = [...new Set([...Object.keys(after), ...Object.keys(before)])]
  const pairs = keys
    .filter((key) => !isSame(before[key], after[key]))
    .map((key): [string, string] => {
      // A figure's number is in the unit of what it is a figure of.
      const name = key === 'value' ? within : key
      const label = key === 'value' ? '' : labelOf(key)
      const [was, is] = pairWords(name, before[key], after[key], nameOf)
      return [`${label} ${was}`.trim(), `${label} ${is}`.trim()]
    })
  return [pairs.map((p) => p[0]).join(', '), pairs.map((p) => p[1]).join(', ')]
}
