/** How far a round is: what is ticked, what is in hand, what was skipped. */

import type { Round } from './roundSchema.ts'
import type { Step } from './step.ts'

export const isTicked = ({ ticks }: Pick<Round, 'ticks'>, { id }: Pick<Step, 'id'>): boolean => ticks.includes(id)

/** Steps before the furthest ticked one that are not ticked: what was passed over. */
export function skippedOf(steps: readonly Step[], round: Pick<Round, 'ticks'>): Step[] {
  const furthest = steps.findLastIndex((s) => isTicked(round, s))
  return steps.slice(0, Math.max(0, furthest)).filter((s) => !isTicked(round, s))
}

/** The step in hand: the one looked at, else the first open one after the furthest ticked, else the first open one at all. */
export function stepInHand(steps: readonly Step[], round: Pick<Round, 'ticks'>, looked?: string): Step | undefined {
  const asked = looked === undefined ? undefined : steps.find((s) => s.id === looked)
  if (asked) return asked
  const furthest = steps.findLastIndex((s) => isTicked(round, s))
  return steps.slice(furthest + 1).find((s) => !isTicked(round, s)) ?? steps.find((s) => !isTicked(round, s))
}

/** The next open step after one, then round to the first open one. */
export function nextAfter(steps: readonly Step[], round: Pick<Round, 'ticks'>, id: string): Step | undefined {
  const at = steps.findIndex((s) => s.id === id)
  return steps.slice(at + 1).find((s) => !isTicked(round, s)) ?? steps.find((s) => !isTicked(round, s))
}

/** Ticked, or unticked again; nothing else is touched. */
export function withTick<T extends Pick<Round, 'ticks'>>(round: T, id: string, isDone: boolean): T {
  const others = round.ticks.filter((t) => t !== id)
  return { ...round, ticks: isDone ? [...others, id] : others }
}

/** Lines of a load, or of one go of it, that should be in before its chill begins, and are not ticked. */
export function missingBefore(steps: readonly Step[], round: Pick<Round, 'ticks'>, chill: Step): Step[] {
  const isSame = (s: Step) => s.load === chill.load && s.go?.number === chill.go?.number
  return steps.filter((s) => isSame(s) && (s.kind === 'pour' || s.kind === 'ice') && !isTicked(round, s))
}

/** Whether what is poured of some lines of a load is in, in all of its goes. */
export function isAllIn(
  steps: readonly Step[],
  round: Pick<Round, 'ticks'>,
  load: string,
  lines: readonly number[],
): boolean {
  const pours = steps.filter((s) => s.load === load && s.line !== undefined && lines.includes(s.line))
  return pours.length > 0 && pours.every((s) => isTicked(round, s))
}
