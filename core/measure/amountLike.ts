import { toFraction } from './readAmount.ts'
import type { Amount } from './units.ts'

/**
 * A volume written as another amount was: in ounces where that was not metric and the house's ounce
 * makes a fraction of it that people pour, else in ml.
 * @param was undefined for a line that says a volume outright
 */
export function amountLike(was: Amount | undefined, volumeMl: number, ounceMl: number): Amount {
  const ounces = volumeMl / ounceMl
  const isOunces = was?.unit !== 'ml' && was?.unit !== 'cl' && toFraction(ounces) !== undefined
  return isOunces
    ? { value: Number(ounces.toFixed(4)), unit: 'oz' }
    : { value: Number(volumeMl.toFixed(2)), unit: 'ml' }
}
