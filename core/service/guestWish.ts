/** What a guest wishes for one serve: the question to the tuner. Its answer is poured once and never saved as the spec. */

import { allergensOf, computeDrink, type DrinkDocument, resolveDrink, standardFrom } from '../drink/index.ts'
import { type Allergen, bySlug, type HouseBook, isThereAt } from '../house/index.ts'
import { askedFor, type Target, type TuneAsked } from '../tune/index.ts'

export const GUEST_WISHES = {
  weaker: 'less strong',
  lessSweet: 'less sweet',
  sweeter: 'sweeter',
  lessSour: 'less sour',
  withoutNuts: 'no nuts',
  withoutDairy: 'no dairy',
  withoutEgg: 'no egg',
} as const
export type GuestWish = keyof typeof GUEST_WISHES

const WITHOUT: Partial<Record<GuestWish, readonly Allergen[]>> = {
  withoutNuts: ['tree nuts', 'peanuts'],
  withoutDairy: ['dairy'],
  withoutEgg: ['egg'],
}

export type WishAsked =
  | { ok: true; asked: TuneAsked; words: string }
  /** It is what is wished for as it is. */
  | { ok: true; asked: undefined; words: string }
  | { ok: false; words: string }

/**
 * What the tuner is asked for. Without an allergen: a slot pours its first candidate that is without it, any other line that
 * has it is left out, and the rest is tuned to the glass as it was, as near as it comes. Where nobody knows for sure what is
 * in something, nothing is proposed.
 */
export function wishAsked(document: DrinkDocument, book: HouseBook, well: string, wish: GuestWish): WishAsked {
  const resolution = resolveDrink(document, book, well)
  const computed = resolution.ok ? computeDrink(resolution.drink) : undefined
  if (!resolution.ok || !computed?.ok) return { ok: false, words: 'it cannot be reckoned here' }
  const { predictions, serve } = computed.result
  const now = { predictions, alcoholG: serve.alcoholG, standardDrinkG: book.settings.standardDrinkG, cost: undefined }
  const free = WITHOUT[wish]
  if (!free) {
    // An allergen wish has been dealt with: what is left are the tuner's own words.
    const target = wish as Target
    return {
      ok: true,
      asked: { document, book, wells: [well], ...askedFor(target, document, now) },
      words: GUEST_WISHES[wish],
    }
  }
  // Of what brings its own figures nobody has said what is in it.
  const unsure = resolution.drink.pours.find((p) => !p.ingredient || book.mixes?.[p.ingredient.slug]?.isAllergenUnsure)
  if (unsure) return { ok: false, words: `nobody knows for sure what is in ${unsure.name}: ask a manager first` }
  const has = (allergens: readonly Allergen[]) => allergens.some((a) => free.includes(a))
  if (!has(allergensOf(resolution.drink)))
    return { ok: true, asked: undefined, words: 'of what is poured none has it; look at the garnish' }
  const said: string[] = []
  const pours = document.pours.flatMap((line, i): DrinkDocument['pours'] => {
    const pour = resolution.drink.pours[i]
    if (!pour?.ingredient || !has(pour.ingredient.allergens)) return [line]
    const slot = bySlug(book.slots ?? [], line.slot)
    const other = slot?.candidates
      .map((c) => bySlug(book.ingredients, c.ingredient))
      .find((x) => x && isThereAt(x, book, well) && !has(x.allergens) && !book.mixes?.[x.slug]?.isAllergenUnsure)
    if (!other) {
      said.push(`without ${pour.name}`)
      return []
    }
    said.push(`${other.name} for ${pour.name}`)
    const { slot: _, ...rest } = line
    return [{ ...rest, ingredient: other.slug }]
  })
  if (pours.length === 0) return { ok: false, words: 'nothing would be left of it' }
  const standard = Object.keys(document.standard).length > 0 ? document.standard : standardFrom(predictions)
  const changed = { ...document, pours }
  return { ok: true, asked: { document: changed, book, wells: [well], standard }, words: said.join(', ') }
}
