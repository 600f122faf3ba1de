import type { LiquidFigures } from '../liquid/index.ts'
import type { Ingredient, Settings } from './schema.ts'

/** The plain figures of something on the shelf; what nobody says is 0. */
export function valuesOf({ figures: f }: Pick<Ingredient, 'figures'>): Required<LiquidFigures> {
  return {
    abvPct: f.abvPct.value,
    sugarGPer100Ml: f.sugarGPer100Ml.value,
    acidGPer100Ml: f.acidGPer100Ml.value,
    fatGPer100Ml: f.fatGPer100Ml?.value ?? 0,
    otherGPer100Ml: f.otherGPer100Ml?.value ?? 0,
  }
}

/** Price of a litre, or of a kilo of what is weighed; undefined when price or size is not known. */
export const pricePerThousand = ({ price, size }: Pick<Ingredient, 'price' | 'size'>): number | undefined =>
  price !== undefined && size !== undefined && size > 0 ? (1000 * price) / size : undefined

/** What a house counts in until it says otherwise. */
const DEFAULT_CURRENCY = 'EUR'

/** The currency of the house's prices, as its three letters. */
export const currencyOf = ({ currency = DEFAULT_CURRENCY }: Pick<Settings, 'currency'>): string => currency
