import { type ClosedMix, type Ingredient, valuesOf } from '../house/index.ts'
import { liquidFromFigures, massGOf } from '../liquid/index.ts'
import { brixOf } from '../lots/index.ts'
import type { Mix } from './resolveMix.ts'

/** What is to be weighed and what comes out, for the recipe as written: of an open mix or a sealed one. */
export interface Batch {
  massG: number
  volumeMl: number
  brix: number
  abvPct: number
  parts: { slug: string; name: string; massG: number }[]
}

export function batchOf(mix: Mix): Batch {
  const { massG, volumeMl, brix, figures } = mix
  const parts = mix.parts.map((p) => ({ slug: p.ingredient.slug, name: p.name, massG: p.massG }))
  return { massG, volumeMl, brix, abvPct: figures.abvPct, parts }
}

/** A sealed one, for whoever may not open it: how much it makes, and nothing of its parts. */
export function batchOfClosed({ volumeMl }: ClosedMix, ingredient: Ingredient): Batch {
  const made = liquidFromFigures(volumeMl, valuesOf(ingredient))
  const massG = made.ok ? massGOf(made.liquid) : 0
  return {
    massG,
    volumeMl,
    brix: made.ok ? brixOf(made.liquid) : 0,
    abvPct: ingredient.figures.abvPct.value,
    parts: [],
  }
}

/** How large a batch is wanted. */
export type BatchSize =
  | { to: 'yieldMl'; volumeMl: number }
  | { to: 'yieldG'; massG: number }
  | { to: 'drinks'; count: number; pourMl: number }
  /** So many bottles to fill. */
  | { to: 'bottles'; count: number; bottleMl: number }
  /** Tonight’s drinks that pour it, each so often. */
  | { to: 'tonight'; drinks: { name: string; count: number; pourMl: number }[] }
  /** All that is left of one component. */
  | { to: 'left'; ingredient: string; massG: number }

export type ScaleResult = { ok: true; factor: number } | { ok: false; reason: string }

/** The factor on the recipe as written that makes a batch of this size. */
export function factorFor(batch: Pick<Batch, 'massG' | 'volumeMl' | 'parts'>, size: BatchSize): ScaleResult {
  const ratio = (wanted: number, written: number, what: string): ScaleResult => {
    if (!(wanted > 0)) return { ok: false, reason: `${what} must be more than 0` }
    if (!(written > 0)) return { ok: false, reason: `the recipe has no ${what}` }
    return { ok: true, factor: wanted / written }
  }
  switch (size.to) {
    case 'yieldMl':
      return ratio(size.volumeMl, batch.volumeMl, 'yield')
    case 'yieldG':
      return ratio(size.massG, batch.massG, 'yield')
    case 'drinks':
      return ratio(size.count * size.pourMl, batch.volumeMl, 'yield')
    case 'bottles':
      return ratio(size.count * size.bottleMl, batch.volumeMl, 'yield')
    case 'tonight':
      return ratio(
        size.drinks.reduce((sum, d) => sum + d.count * d.pourMl, 0),
        batch.volumeMl,
        'yield',
      )
    case 'left': {
      const part = batch.parts.find((p) => p.slug === size.ingredient)
      return ratio(size.massG, part?.massG ?? 0, 'weight of that component')
    }
  }
}
