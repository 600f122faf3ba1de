import {
  type DrinkDocument,
  glassFor,
  type PourLine,
  type Predictions,
  type SecondsFor,
  secondsAt,
  secondsFor,
} from '../drink/index.ts'
import { bySlug, type HouseBook } from '../house/index.ts'
import { amountLike } from '../measure/index.ts'
import type { StandInAnswer } from './grid.ts'

/** What a stand-in does to a drink at a well. */
export interface StandInEffect {
  /** The spec with the stand-in in place of the missing line. */
  document: DrinkDocument
  /** With the bottle that is missing, and with the stand-in, nothing else changed. */
  before: Predictions
  after: Predictions
  /** The first stage's seconds as written, and those that bring the strength back. */
  durationS: number | undefined
  corrected: SecondsFor
}

export type StandInEffectResult = { ok: true; effect: StandInEffect } | { ok: false; reason: string }

/** The lines of a stand-in in place of one line, in the unit that it was written in. */
export function standInLines(line: PourLine, answer: Pick<StandInAnswer, 'parts'>, ounceMl: number): PourLine[] {
  const { ingredient: _, slot: __, figures: ___, amount, volumeMl: ____, ...rest } = line
  return answer.parts.map(({ slug, volumeMl }) => ({
    ...rest,
    ingredient: slug,
    amount: amountLike(amount, volumeMl, ounceMl),
  }))
}

/**
 * Pours a stand-in in a drink: the glass before and after, and the seconds that hold its strength.
 * @param index of the line that is missing; a slot's line is held against its house pick
 */
export function standInEffect(
  document: DrinkDocument,
  index: number,
  answer: Pick<StandInAnswer, 'parts'>,
  book: HouseBook,
  well: string,
): StandInEffectResult {
  const line = document.pours[index]
  if (!line) return { ok: false, reason: `there is no line ${index + 1}` }
  const slot = bySlug(book.slots ?? [], line.slot)
  const was: PourLine = slot ? { ...line, slot: undefined, ingredient: slot.pick } : line
  const put = (lines: PourLine[]): DrinkDocument => ({
    ...document,
    pours: [...document.pours.slice(0, index), ...lines, ...document.pours.slice(index + 1)],
  })
  const replaced = put(standInLines(line, answer, book.settings.kit.ounceMl))
  const before = glassFor(put([was]), book, well)
  const after = glassFor(replaced, book, well)
  if (!before.ok || !after.ok) {
    const [problem] = before.ok ? (after.ok ? [] : after.problems) : before.problems
    return { ok: false, reason: `${problem?.path.join(' ')}: ${problem?.message}` }
  }
  const strength = before.result.predictions.strengthPct?.value
  return {
    ok: true,
    effect: {
      document: replaced,
      before: before.result.predictions,
      after: after.result.predictions,
      durationS: secondsAt(replaced, well),
      corrected:
        strength === undefined ? { outcome: 'noStage' } : secondsFor(replaced, book, well, 'strengthPct', strength),
    },
  }
}
