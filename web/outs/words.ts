/** What is out tonight, in words. Plain functions. */

import type { DrinkAtWell, OutMarkSaid, Tonight, TonightChoice } from '@conch/contract'
import { clockText, dayText, type HouseClock, nightOf } from '@conch/core/calendar'

const list = (names: readonly string[]) =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`

/** Why a drink is dark: "no falernum and no tall glass". */
export const missingWords = ({ missing }: Pick<DrinkAtWell, 'missing'>): string =>
  list(missing.map((m) => (m.kind === 'slot' ? `nothing for ${m.name}` : `no ${m.name}`)))

/** What is otherwise about a drink that can be made: "Slackwater White for Orlop White; without lime wheel". */
export const otherwiseWords = ({ swapped, without }: Pick<DrinkAtWell, 'swapped' | 'without'>): string =>
  [
    ...swapped.map((s) => `${s.is} for ${s.insteadOf}`),
    ...(without.length > 0 ? [`without ${list(without)}`] : []),
  ].join('; ')

/** How a drink stands at a well, in one line; undefined where nothing is to be said. */
export function standsWords(at: DrinkAtWell | undefined, choice: TonightChoice | undefined): string | undefined {
  if (!at) return undefined
  if (at.state === 'off') return choice?.words ? `off tonight: ${choice.words}` : 'off tonight'
  if (at.state === 'dark') return missingWords(at)
  const otherwise = otherwiseWords(at)
  if (at.state === 'instead')
    return [`tonight ${choice?.words || 'made otherwise'}`, otherwise].filter(Boolean).join('; ')
  return otherwise || undefined
}

/** Where something is out: a well by its name, or everywhere. */
export const whereWords = (well: string | null, wells: readonly { slug: string; name: string }[]): string =>
  well === null ? 'in the house' : `at the ${wells.find((w) => w.slug === well)?.name ?? well}`

/** Who said it, and when: the clock of this night, the day of an earlier one. */
export function saidWords(
  { savedBy, savedAt, saidAt }: Pick<OutMarkSaid, 'savedBy' | 'savedAt' | 'saidAt'>,
  clock: HouseClock,
  night: string,
) {
  const at = saidAt ?? savedAt
  const on = nightOf(new Date(at), clock)
  return `${savedBy}, ${on === night ? clockText(at, clock) : dayText(on)}`
}

/** Whether it was said before this bar's day began: somebody should look again. */
export const isFromBefore = (
  { savedAt, saidAt }: Pick<OutMarkSaid, 'savedAt' | 'saidAt'>,
  clock: HouseClock,
  night: string,
): boolean => nightOf(new Date(saidAt ?? savedAt), clock) !== night

/** Drinks of the menu that cannot be served at a well. */
export const darkAt = ({ drinks }: Pick<Tonight, 'drinks'>, well: string) =>
  drinks.filter((d) => ['dark', 'off'].includes(d.at[well]?.state ?? 'made'))
