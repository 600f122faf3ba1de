import type { Ingredient } from './schema.ts'

/** How much something froths: of each ml, worked until it stands, so many ml. */
export interface Frothing {
  mlPerMl: number
  /** Nobody has put a ruler to it here. */
  isAssumed: boolean
}

/** What froths without anybody having measured how much, by a word of its name; then by its kind. */
const BY_WORD: readonly (readonly [RegExp, number])[] = [
  [/\b(egg ?whites?|whites? of (an? )?eggs?|aquafaba|chickpea)\b/i, 2],
  [/\bpineapple\b/i, 0.6],
  [/\b(nut|almond|cashew|macadamia|oat|soya?) (milk|cream)\b/i, 0.3],
  [/\b(milk|cream)\b/i, 0.2],
]
const BY_KIND: Partial<Record<Ingredient['kind'], number>> = { puree: 0.4 }
const FROTHING_KINDS: readonly Ingredient['kind'][] = ['juice', 'puree', 'dairy', 'other', 'houseMix']

/** How much an ingredient froths: as the house has it, else as things like it do; undefined for what does not. */
export function frothingOf(
  ingredient: Pick<Ingredient, 'name' | 'kind' | 'frothMlPerMl' | 'frothBasis'>,
): Frothing | undefined {
  if (ingredient.frothMlPerMl !== undefined)
    return { mlPerMl: ingredient.frothMlPerMl, isAssumed: ingredient.frothBasis !== 'measured' }
  if (!FROTHING_KINDS.includes(ingredient.kind)) return undefined
  const found = BY_WORD.find(([word]) => word.test(ingredient.name))?.[1] ?? BY_KIND[ingredient.kind]
  return found === undefined ? undefined : { mlPerMl: found, isAssumed: true }
}

/** A shaken tin that somebody put a ruler to. */
export interface FrothReading {
  /** Of the ingredient, alone or with water, shaken hard and dry until it stood, ml. */
  volumeMl: number
  heightMm: number
  tinDiameterMm: number
}

/** What the ruler says, ml of froth for each ml: a column as wide as the tin. */
export function frothFromRuler({ volumeMl, heightMm, tinDiameterMm }: FrothReading): number {
  return (Math.PI * (tinDiameterMm / 2) ** 2 * heightMm) / 1000 / volumeMl
}
