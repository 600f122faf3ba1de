import type { MeasureName } from '../drink/index.ts'
import { A_TOUCH } from '../tune/index.ts'
import { NOTE_WORDS, type NoteWord, type TasteNote } from './tastingSchema.ts'

/** A note with who said it; oldest first among others. */
export interface SaidNote {
  id: number
  /** Who said it: of one person the newest counts. */
  by: string
  document: TasteNote
}

/** How far a target moves at once, in the measure's unit. */
export type NoteSteps = Readonly<Record<'sweetGPer100Ml' | 'sourGPer100Ml' | 'strengthPct', number>>

export const USUAL_NOTE_STEPS: NoteSteps = A_TOUCH

/** What notes ask for, for a person to take or not. */
export interface Proposal {
  says: NoteWord
  /** How many say so, of how many. */
  count: number
  of: number
  measure: keyof NoteSteps & MeasureName
  /** Where the measure would go from and to. */
  from: number
  to: number
  /** What the tuner is asked for. */
  target: 'lessSweet' | 'lessSour' | 'weaker' | 'stronger'
}

const FEWEST_PEOPLE = 3
/** Fewer of one mind are no majority. */
const LEAST_SHARE = 0.6

const ASKS: Partial<Record<NoteWord, { measure: keyof NoteSteps; sign: 1 | -1; target: Proposal['target'] }>> = {
  tooSweet: { measure: 'sweetGPer100Ml', sign: -1, target: 'lessSweet' },
  tooSour: { measure: 'sourGPer100Ml', sign: -1, target: 'lessSour' },
  tooStrong: { measure: 'strengthPct', sign: -1, target: 'weaker' },
  tooWeak: { measure: 'strengthPct', sign: 1, target: 'stronger' },
  watery: { measure: 'strengthPct', sign: 1, target: 'stronger' },
}

/** Notes since the last answer, of each person the newest. */
export function openNotes<N extends SaidNote>(notes: readonly N[]): N[] {
  const answered = notes.findLast((n) => n.document.kind === 'answer')?.id ?? 0
  const newest = new Map<string, N>()
  for (const n of notes) if (n.id > answered && n.document.kind === 'note') newest.set(n.by, n)
  return [...newest.values()]
}

/**
 * What the notes of at least three people ask for: one step of one measure, where most of them say the same; undefined: too
 * few, or not of one mind, or nothing that a figure can follow.
 * @param now figures of the drink as it is poured
 */
export function proposalOf(
  notes: readonly SaidNote[],
  now: Partial<Record<MeasureName, number>>,
  steps: NoteSteps = USUAL_NOTE_STEPS,
): Proposal | undefined {
  const open = openNotes(notes)
  if (open.length < FEWEST_PEOPLE) return undefined
  const counts = new Map<NoteWord, number>()
  for (const { document } of open)
    if (document.kind === 'note') counts.set(document.says, (counts.get(document.says) ?? 0) + 1)
  const [most] = [...counts].sort((a, b) => b[1] - a[1])
  if (!most || most[1] < FEWEST_PEOPLE || most[1] / open.length < LEAST_SHARE) return undefined
  const [says, count] = most
  const asks = ASKS[says]
  const from = asks && now[asks.measure]
  if (!asks || from === undefined) return undefined
  const { measure, sign, target } = asks
  return { says, count, of: open.length, measure, from, to: Math.max(0, from + sign * steps[measure]), target }
}

/** "four of five say too sharp". */
export function saidText({ says, count, of }: Proposal): string {
  const number = (n: number) =>
    ['none', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine'][n] ?? String(n)
  return `${number(count)} of ${number(of)} say ${NOTE_WORDS[says]}`
}
