import { type DrinkDocument, pourName } from '../drink/index.ts'
import { createMixer } from '../formula/index.ts'
import { bySlug, type HouseBook, type Ingredient, pricePerThousand } from '../house/index.ts'
import { volumeMlOfAmount } from '../measure/index.ts'
import { resolveSlot } from '../palate/index.ts'

/** What a ml of every line costs, in the house's currency; undefined where a price is not known. */
export function costsPerMl(document: DrinkDocument, book: HouseBook, well: string): (number | undefined)[] {
  const mixer = createMixer(book.ingredients)
  const costOf = (ingredient: Ingredient): number | undefined => {
    if (!ingredient.recipe) {
      const perThousand = pricePerThousand(ingredient)
      return perThousand === undefined ? undefined : perThousand / 1000
    }
    const made = mixer.mixOf(ingredient.slug)
    if (!made.ok || made.mix.cost.unknown.length > 0 || !(made.mix.volumeMl > 0)) return undefined
    return made.mix.cost.value / made.mix.volumeMl
  }
  return document.pours.map((line) => {
    const slot = bySlug(book.slots ?? [], line.slot)
    const ingredient = slot ? resolveSlot(slot, book, well)?.ingredient : bySlug(book.ingredients, line.ingredient)
    return ingredient && costOf(ingredient)
  })
}

/** What one serve costs with these pours, in the house's currency; undefined where a price is not known. */
export function costOfServe(document: DrinkDocument, book: HouseBook, well: string): number | undefined {
  const costs = costsPerMl(document, book, well)
  let sum = 0
  for (const [i, line] of document.pours.entries()) {
    const each = costs[i]
    const volumeMl = line.volumeMl ?? (line.amount && volumeMlOfAmount(line.amount, book.settings.kit, document.partMl))
    if (each === undefined || volumeMl === undefined) return undefined
    sum += each * volumeMl
  }
  return sum / document.serves
}

/** The names of the lines whose price is not known: why a serve has no cost. */
export function unpricedLines(document: DrinkDocument, book: HouseBook, well: string): string[] {
  const costs = costsPerMl(document, book, well)
  return document.pours.filter((_, i) => costs[i] === undefined).map((line) => pourName(line, book))
}
