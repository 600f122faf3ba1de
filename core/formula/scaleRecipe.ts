import type { Mix } from './resolveMix.ts'

/** How large a batch is wanted. */
export type BatchSize =
  | { to: 'yieldMl'; volumeMl: number }
  | { to: 'yieldG'; massG: number }
  | { to: 'drinks'; count: number; pourMl: number }
  /** All that is left of one component. */
  | { to: 'left'; ingredient: string; massG: number }

export type ScaleResult = { ok: true; factor: number } | { ok: false; reason: string }

/** The factor on the recipe as written that makes a batch of this size. */
export function factorFor(mix: Mix, size: BatchSize): ScaleResult {
  const ratio = (wanted: number, written: number, what: string): ScaleResult => {
    if (!(wanted > 0)) return { ok: false, reason: `${what} must be more than 0` }
    if (!(written > 0)) return { ok: false, reason: `the recipe has no ${what}` }
    return { ok: true, factor: wanted / written }
  }
  switch (size.to) {
    case 'yieldMl':
      return ratio(size.volumeMl, mix.volumeMl, 'yield')
    case 'yieldG':
      return ratio(size.massG, mix.massG, 'yield')
    case 'drinks':
      return ratio(size.count * size.pourMl, mix.volumeMl, 'yield')
    case 'left': {
      const part = mix.parts.find((p) => p.component.ingredient === size.ingredient)
      return ratio(size.massG, part?.massG ?? 0, 'weight of that component')
    }
  }
}
