/** What stands on a sheet of comparison, as its address has it. Plain functions. */

import { NORMAL_STEP_NAMES, type NormalStep, USUAL_STEPS } from '@conch/core/compare'

/** More columns cannot be read. */
export const MOST_ON_SHEET = 5

export interface OnSheet {
  /** `slug@3`, the first is what the others are held against. */
  keys: string[]
  steps: ReadonlySet<NormalStep>
}

/** What an address asks for: at most five, none twice; steps that nobody named are the usual ones. */
export function readSheet(search: URLSearchParams): OnSheet {
  const keys = (search.get('of') ?? '').split(',').filter((k) => /^[a-z0-9-]+@[1-9]\d*$/.test(k))
  const asked = search.get('steps')
  const steps = asked === null ? USUAL_STEPS : NORMAL_STEP_NAMES.filter((s) => asked.split(',').includes(s))
  return { keys: [...new Set(keys)].slice(0, MOST_ON_SHEET), steps: new Set(steps) }
}

/** What stands in the address for it; the usual steps are not said. */
export function sheetAsked({ keys, steps }: OnSheet): { of: string; steps: string | undefined } {
  const named = NORMAL_STEP_NAMES.filter((s) => steps.has(s))
  const isUsual = named.length === USUAL_STEPS.length && USUAL_STEPS.every((s) => steps.has(s))
  return { of: keys.join(','), steps: isUsual ? undefined : named.join(',') || 'none' }
}

/** The address of a sheet of these. */
export function sheetAddress(keys: readonly string[]): string {
  return `/compare/sheet?${new URLSearchParams({ of: keys.slice(0, MOST_ON_SHEET).join(',') })}`
}
