/** When something is asked again: the spacing of FSRS, replayed from everything that was ever answered; the same answers, the same plan. */

import { type Card, createEmptyCard, fsrs, Rating } from 'ts-fsrs'
import type { Grade, LearnAnswer } from './practiceSchema.ts'
import type { Question, QuestionKind } from './questions.ts'

const RATING = { again: Rating.Again, hard: Rating.Hard, good: Rating.Good } as const satisfies Record<Grade, Rating>
/** Whole days: a shift is no place for steps of minutes; and no dice. */
const scheduler = fsrs({ enable_fuzz: false, enable_short_term: false })

/** What is remembered of one thing. */
export interface Remembered {
  /** Unix time, ms. */
  dueAt: number
  /** In which it would be half forgotten or so, days. */
  stabilityDays: number
  /** How often it was answered, and how often wrongly. */
  times: number
  wrong: number
  /** Unix time, ms. */
  lastAt: number
}

/** What somebody remembers, by question, after all of their answers in whatever order they came. */
export function rememberedBy(answers: readonly LearnAnswer[]): Map<string, Remembered> {
  const cards = new Map<string, { card: Card; wrong: number; times: number }>()
  // Sent twice it was answered once.
  const once = [...new Map(answers.map((a) => [`${a.item} ${a.at}`, a])).values()]
  const sorted = once.sort((a, b) => Date.parse(a.at) - Date.parse(b.at) || (a.item < b.item ? -1 : 1))
  for (const { item, grade, at } of sorted) {
    const when = new Date(at)
    const before = cards.get(item)
    const { card } = scheduler.next(before?.card ?? createEmptyCard(when), when, RATING[grade])
    cards.set(item, {
      card,
      times: (before?.times ?? 0) + 1,
      wrong: (before?.wrong ?? 0) + (grade === 'again' ? 1 : 0),
    })
  }
  return new Map(
    [...cards].map(([item, { card, wrong, times }]) => [
      item,
      {
        dueAt: card.due.getTime(),
        stabilityDays: card.stability,
        times,
        wrong,
        lastAt: card.last_review?.getTime() ?? 0,
      },
    ]),
  )
}

/**
 * What is asked now, in order: what changed and is not known yet, then what is due, longest overdue first, then what was never
 * asked; within each the kinds take turns, so that nobody says twelve amounts in a row.
 */
export function toAsk(
  questions: readonly Question[],
  remembered: ReadonlyMap<string, Remembered>,
  changed: ReadonlySet<string>,
  nowMs: number,
): Question[] {
  const isNew = (q: Question) => !remembered.has(q.id)
  const first = questions.filter((q) => changed.has(q.id) && isNew(q))
  const due = questions
    .filter((q) => (remembered.get(q.id)?.dueAt ?? Number.POSITIVE_INFINITY) <= nowMs)
    .sort((a, b) => (remembered.get(a.id)?.dueAt ?? 0) - (remembered.get(b.id)?.dueAt ?? 0))
  const never = questions.filter((q) => isNew(q) && !changed.has(q.id))
  return [...inTurns(first), ...due, ...inTurns(never)]
}

/** Drinks as they come; within a drink and between them the kinds take turns. */
function inTurns(questions: readonly Question[]): Question[] {
  const byKind = new Map<QuestionKind, Question[]>()
  for (const q of questions) byKind.set(q.kind, [...(byKind.get(q.kind) ?? []), q])
  const lists = [...byKind.values()]
  const most = Math.max(0, ...lists.map((l) => l.length))
  return Array.from({ length: most }, (_, i) => lists.flatMap((l) => l[i] ?? [])).flat()
}

/** Kept for a week or more it is known; asked and not kept it is shaky. */
const KNOWN_DAYS = 7

export interface Progress {
  total: number
  known: number
  shaky: number
  never: number
  due: number
  byKind: { kind: QuestionKind; total: number; known: number }[]
}

/** How far somebody is with what there is to know now. */
export function progressOf(
  questions: readonly Question[],
  remembered: ReadonlyMap<string, Pick<Remembered, 'dueAt' | 'stabilityDays'>>,
  nowMs: number,
): Progress {
  const isKnown = (q: Question) => (remembered.get(q.id)?.stabilityDays ?? 0) >= KNOWN_DAYS
  const kinds = [...new Set(questions.map((q) => q.kind))]
  const known = questions.filter(isKnown).length
  const never = questions.filter((q) => !remembered.has(q.id)).length
  return {
    total: questions.length,
    known,
    never,
    shaky: questions.length - known - never,
    due: questions.filter((q) => (remembered.get(q.id)?.dueAt ?? Number.POSITIVE_INFINITY) <= nowMs).length,
    byKind: kinds.map((kind) => {
      const own = questions.filter((q) => q.kind === kind)
      return { kind, total: own.length, known: own.filter(isKnown).length }
    }),
  }
}
