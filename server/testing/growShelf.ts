/** A back bar that grew for years: bottles by the thousand, and mixes of mixes. */

import type { Ingredient } from '@conch/core/house'
import type { Database } from '../database/index.ts'
import * as t from '../database/schema.ts'
import { type Dice, inBatches, WORDS } from './dice.ts'

export interface ShelfGrowth {
  bottles: number
  /** One in six is a mix of bought things, the next a mix with one of those in it, and so on to the sixth. */
  mixes: number
}

/** How deep the deepest mixes nest. */
export const DEEPEST = 6

/** What grew, by kind; mixes by how deep they nest, from 1. */
export interface GrownShelf {
  byKind: Map<string, string[]>
  mixes: string[][]
}

const VARIED = ['spirit', 'liqueur', 'wine', 'bitters', 'juice', 'syrup', 'puree'] as const

/** @param begun what the house had before: the models of what grows */
export async function growShelf(
  db: Database,
  growth: ShelfGrowth,
  dice: Dice,
  begun: readonly Ingredient[],
): Promise<GrownShelf> {
  const first = begun.length
  const models = begun.filter((i) => (VARIED as readonly string[]).includes(i.kind) && !i.recipe)
  const bottles = Array.from({ length: growth.bottles }, (_, i): Ingredient => {
    const model = models[i % models.length] as Ingredient
    const { fruit: _fruit, densityGPerMl: _density, ...plain } = model
    return {
      ...plain,
      slug: `bottle-${String(i).padStart(4, '0')}`,
      // One in forty is called as another one is.
      name: i % 40 === 7 ? model.name : `${dice.pick(WORDS)} ${dice.pick(WORDS)} ${i}`,
      figures: {
        ...model.figures,
        abvPct: { ...model.figures.abvPct, value: varied(model.figures.abvPct.value, dice) },
        sugarGPer100Ml: { ...model.figures.sugarGPer100Ml, value: varied(model.figures.sugarGPer100Ml.value, dice) },
      },
      ...(i % 60 === 11 ? { stock: 'out' as const } : {}),
    }
  })
  const byKind = new Map<string, string[]>()
  for (const b of bottles) byKind.set(b.kind, [...(byKind.get(b.kind) ?? []), b.slug])
  const sweet = byKind.get('syrup') ?? []
  const sour = byKind.get('juice') ?? []
  const mixes: string[][] = Array.from({ length: DEEPEST }, () => [])
  const made = Array.from({ length: growth.mixes }, (_, i): Ingredient => {
    const level = i % DEEPEST
    const slug = `mix-${String(i).padStart(4, '0')}`
    const inner = level > 0 ? [dice.pick(mixes[level - 1] as string[])] : []
    mixes[level]?.push(slug)
    const components = [...new Set([dice.pick(sweet), dice.pick(sour), ...inner])].map((ingredient) => ({
      ingredient,
      amount: 1 + Math.round(4 * dice.uniform()),
    }))
    return {
      slug,
      name: `${dice.pick(WORDS)} mix ${i}`,
      kind: 'houseMix',
      figures: {
        abvPct: { value: 0, basis: 'assumed' },
        sugarGPer100Ml: { value: 0, basis: 'assumed' },
        acidGPer100Ml: { value: 0, basis: 'assumed' },
      },
      storedIn: 'fridge',
      formerNames: [],
      allergens: [],
      recipe: { by: 'partsByVolume', components, keepsDays: 14 },
    }
  })
  const rows = [...bottles, ...made].map((document, i) => ({ slug: document.slug, position: first + i, document }))
  await inBatches(rows, (batch) => db.insert(t.ingredients).values(batch))
  return { byKind, mixes }
}

/** Up to a tenth more or less, in tenths. */
const varied = (value: number, { uniform }: Dice) => Number((value * (0.9 + 0.2 * uniform())).toFixed(1))
