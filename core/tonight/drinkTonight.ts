/** Whether a drink can be made at a well with what is there, and what is otherwise about it. */

import type { DrinkDocument } from '../drink/index.ts'
import { bySlug, type HouseBook, type Ingredient, isThereAt, nameIn } from '../house/index.ts'
import { resolveSlot } from '../palate/index.ts'
import { plainText } from '../text/index.ts'

/** Something that a drink wants and that is not there. */
export interface Missing {
  kind: 'ingredient' | 'slot' | 'glass' | 'unknown'
  /** Its slug. */
  of: string
  name: string
}

export interface DrinkTonight {
  /** Empty: it can be made. */
  missing: Missing[]
  /** Slots that pour their next candidate. */
  swapped: { slot: string; insteadOf: string; is: string }[]
  /** Garnish that is not there: it is made without. */
  without: string[]
}

type Book = Pick<HouseBook, 'ingredients' | 'slots' | 'glasses' | 'outAt'>

/** @param document as it is poured at the well; @param well its slug */
export function drinkTonight(document: DrinkDocument, book: Book, well: string): DrinkTonight {
  const missing = new Map<string, Missing>()
  const miss = (m: Missing) => missing.set(`${m.kind} ${m.of}`, m)
  const swapped: DrinkTonight['swapped'] = []
  const nameOf = (i: Ingredient) => nameIn(book.ingredients, i.slug)
  for (const line of document.pours) {
    const slot = bySlug(book.slots ?? [], line.slot)
    if (slot) {
      const poured = resolveSlot(slot, book, well)
      if (!poured || poured.isOut) miss({ kind: 'slot', of: slot.slug, name: slot.name })
      else if (poured.insteadOf)
        swapped.push({ slot: slot.name, insteadOf: nameOf(poured.insteadOf), is: nameOf(poured.ingredient) })
    } else if (line.slot !== undefined) miss({ kind: 'unknown', of: line.slot, name: line.slot })
    else if (line.ingredient !== undefined) {
      const ingredient = bySlug(book.ingredients, line.ingredient)
      if (!ingredient) miss({ kind: 'unknown', of: line.ingredient, name: line.ingredient })
      else if (!isThereAt(ingredient, book, well))
        miss({ kind: 'ingredient', of: ingredient.slug, name: nameOf(ingredient) })
    }
  }
  const glass = bySlug(book.glasses, document.glassByWell?.[well] ?? document.glass)
  if (glass && book.outAt?.[well]?.glasses.includes(glass.slug))
    miss({ kind: 'glass', of: glass.slug, name: glass.name })
  return { missing: [...missing.values()], swapped, without: withoutGarnish(document, book, well) }
}

/** A garnish names what it is cut from: "lime wheel" is not there when limes are out. */
function withoutGarnish({ garnish }: DrinkDocument, { ingredients, outAt }: Book, well: string): string[] {
  const here = outAt?.[well]
  if (!here) return []
  const out = [
    ...here.fruits,
    ...ingredients.filter((i) => i.kind === 'garnish' && here.ingredients.includes(i.slug)).map((i) => i.name),
  ].map((name) => plainText(name).replaceAll('-', ' '))
  if (out.length === 0) return []
  return garnish.flatMap(({ text }) => {
    const words = ` ${plainText(text).replace(/[^a-z0-9]+/g, ' ')} `
    return out.some((name) => words.includes(` ${name} `) || words.includes(` ${name}s `)) ? [text] : []
  })
}
