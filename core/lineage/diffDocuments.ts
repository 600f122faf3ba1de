import { ICE_KINDS, type IcePortion, METHODS, POURS } from '../cold/index.ts'
import type { DrinkDocument, PourLine, Stage } from '../drink/index.ts'
import { amountText } from '../measure/index.ts'

/** One thing that two specs of a drink say differently, in words. */
export interface Difference {
  /** What it is about: "lime juice", "flash blend", "glass". */
  subject: string
  before: string | undefined
  after: string | undefined
}

const amountWords = (p: PourLine): string => {
  const measured = p.amount ? amountText(p.amount) : `${p.volumeMl} ml`
  return p.into === 'tin' ? measured : `${measured} ${p.into === 'float' ? 'floated' : 'in the glass'}`
}

const iceWords = (ice: readonly IcePortion[]) =>
  ice.map((i) => `${i.massG} g ${ICE_KINDS[i.kind].label}`).join(' + ') || 'none'

/** What a stage says, each thing under a subject of its own. */
function stageLines(s: Stage): [string, string | undefined][] {
  const name = stageName(s)
  return [
    [name, 'yes'],
    [`${name}, ice`, s.ice && iceWords(s.ice)],
    [`${name}, seconds`, s.durationS === undefined ? undefined : `${s.durationS} s`],
    [`${name}, pour`, s.pour && POURS[s.pour].label],
    ...Object.entries(s.byWell ?? {}).flatMap(([well, at]): [string, string | undefined][] => [
      [`${name} at ${well}, ice`, at.ice && iceWords(at.ice)],
      [`${name} at ${well}, seconds`, at.durationS === undefined ? undefined : `${at.durationS} s`],
    ]),
    ...Object.entries(s.parameters ?? {}).map(([key, value]): [string, string | undefined] => [
      `${name}, ${key}`,
      String(value),
    ]),
  ]
}

const stageName = (s: Stage) => s.station ?? (s.method ? METHODS[s.method].label : 'stage')
const recordWords = (r: Record<string, unknown> | undefined) =>
  r && Object.keys(r).length > 0
    ? Object.entries(r)
        .map(([k, v]) => `${k}: ${typeof v === 'string' ? v : JSON.stringify(v)}`)
        .join(', ')
    : undefined

/** Lines with a subject each; a second line about one subject gets a number. */
function linesOf(d: DrinkDocument, nameOf: (slug: string) => string): Map<string, string> {
  const lines = new Map<string, string>()
  const put = (subject: string, words: string | undefined) => {
    if (words === undefined || words === '') return
    let key = subject
    for (let n = 2; lines.has(key); n++) key = `${subject} (${n})`
    lines.set(key, words)
  }
  put('name', d.name)
  for (const p of d.pours) {
    const slug = p.ingredient ?? p.slot
    put(slug ? nameOf(slug) : (p.figures?.name ?? 'own figures'), amountWords(p))
  }
  for (const s of d.stages) for (const [subject, words] of stageLines(s)) put(subject, words)
  put('glass', d.glass ?? (d.glassProfile ? 'own profile' : undefined))
  put('glass elsewhere', recordWords(d.glassByWell))
  put('serving ice', d.serveIce.length > 0 ? iceWords(d.serveIce) : undefined)
  put('serving ice elsewhere', recordWords(d.serveIceByWell))
  put('garnish', d.garnish.map((g) => g.text).join(', '))
  put('serves', String(d.serves))
  put('start', d.startTemperatureC === undefined ? undefined : `${d.startTemperatureC} °C`)
  put('flame', d.hasFlame ? 'yes' : undefined)
  put('note', d.note)
  for (const [measure, band] of Object.entries(d.standard)) put(`standard: ${measure}`, `${band.low} to ${band.high}`)
  return lines
}

/**
 * What two specs say differently, in the order of the newer one.
 * @param nameOf turns the slug of an ingredient or a slot into its name
 */
export function diffDocuments(
  before: DrinkDocument,
  after: DrinkDocument,
  nameOf: (slug: string) => string = (slug) => slug,
): Difference[] {
  const was = linesOf(before, nameOf)
  const is = linesOf(after, nameOf)
  const subjects = [...is.keys(), ...[...was.keys()].filter((s) => !is.has(s))]
  return subjects
    .map((subject) => ({ subject, before: was.get(subject), after: is.get(subject) }))
    .filter((d) => d.before !== d.after)
}
