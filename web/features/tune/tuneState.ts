/** What a person asks the tuner for, as it stands on its page. Plain functions. */

import type { DrinkDocument, Standard } from '@conch/core/drink'
import { type LineLimits, TARGETS, type Target, type TuneAsked } from '@conch/core/tune'

/** A target, another glass, or the glass of another version. */
export type Wish = Target | `glass:${string}` | `like:${number}`

export interface TuneState {
  wish: Wish
  lines: Readonly<Record<number, LineLimits>>
  mayAdd: NonNullable<TuneAsked['mayAdd']>
  keepRatio: readonly [number, number] | undefined
  mostCost: number | undefined
  /** At every well, or only at the one that one stands at. */
  isEverywhere: boolean
}

export const NOTHING_ASKED: TuneState = {
  wish: 'standard',
  lines: {},
  mayAdd: [],
  keepRatio: undefined,
  mostCost: undefined,
  isEverywhere: true,
}

/** A wish as it stands in an address; anything else is the drink's own standard. */
export function readWish(text: string | null): Wish {
  if (text && text in TARGETS) return text as Target
  if (text && /^glass:[a-z0-9-]+$|^like:[1-9]\d*$/.test(text)) return text as Wish
  return 'standard'
}

/** The document with another glass at a well; its wash line and volume are what that glass makes of them. */
export function inGlass(document: DrinkDocument, well: string, glass: string): DrinkDocument {
  return { ...document, glassByWell: { ...document.glassByWell, [well]: glass } }
}

/** What has to be kept where the glass is another one: what is tasted. */
export function tasted({ volumeMl: _, washLinePct: __, ...standard }: Standard): Standard {
  return standard
}

/** A limit set or taken away; a line without any is not in the list. */
export function withLimit(
  lines: TuneState['lines'],
  index: number,
  change: LineLimits,
): Readonly<Record<number, LineLimits>> {
  const next = { ...lines[index], ...change }
  const said = Object.fromEntries(Object.entries(next).filter(([, v]) => v !== undefined && v !== false))
  const { [index]: _, ...others } = lines
  return Object.keys(said).length > 0 ? { ...others, [index]: said } : others
}
