/** What is to be known of what is poured: stand-ins in slots, lots, mixes and juices. */

import { dayText } from '../calendar/index.ts'
import { type HouseBook, type MixFacts, nameApart } from '../house/index.ts'
import type { Consequence, Say } from './consequence.ts'
import type { ResolvedDrink } from './resolve.ts'

/** What stands in a slot when its pick is not there. */
export function sayOfSlots(drink: ResolvedDrink, say: Say): void {
  for (const { slot, name } of drink.pours) {
    if (slot?.insteadOf) say('mind', 'slot', `${slot.name}: ${slot.insteadOf.name} is out, ${name} is poured`)
    if (slot?.isOut) say('mind', 'slot', `${slot.name}: nothing that may fill it is in stock`)
  }
}

/** Acid of a juice above which it is a sour one, g in 100 ml. */
const SOUR_G_PER_100ML = 4

/** Hours that a pressed juice is poured for where the house has not said. */
export const JUICE_HOURS = 8
const hoursBetween = (from: string, to: string) => (Date.parse(to) - Date.parse(from)) / 3_600_000
const lotWords = ({ lot }: MixFacts) => (lot ? 'was' : 'would be')

/** A word about a juice that was pressed longer ago than the house pours it; none before. @param at ISO moment */
export function juiceHoursOf(
  name: string,
  madeAt: string,
  { juiceHours = JUICE_HOURS }: Pick<HouseBook['settings'], 'juiceHours'>,
  at: string,
): Consequence[] {
  const hours = hoursBetween(madeAt, at)
  if (!(hours > juiceHours)) return []
  const text = `${name} was pressed ${Math.floor(hours)} h ago; the house pours it for ${juiceHours} h`
  return [{ weight: 'mind', code: 'juiceAge', text, isSafety: false }]
}

/** What is made or pressed in the house, and what has run out. */
export function sayOfMixes(drink: ResolvedDrink, book: HouseBook, say: Say): void {
  const ingredients = [...new Set(drink.pours.flatMap((p) => p.ingredient ?? []))].map((i) => ({
    ...i,
    name: nameApart(i, book.ingredients),
  }))
  const factsOf = (slug: string) => book.mixes?.[slug]
  for (const { slug, name, stock, kind } of ingredients) {
    const facts = factsOf(slug)
    if (stock === 'out' || stock === 'discontinued')
      say('mind', 'outOfStock', stock === 'out' ? `${name} is out` : `${name} is no longer made`)
    for (const problem of facts?.problems ?? [])
      say('mind', 'mixProblem', `${name} ${problem}: its typed figures stand in`)
    if (facts?.isClosedStale)
      say(
        facts.isClosedStale === 'expired' ? 'stop' : 'mind',
        facts.isClosedStale,
        `${name} ${lotWords(facts)} made with something that ${facts.isClosedStale === 'expired' ? 'is past its day' : 'should not wait'}; ask a manager`,
        true,
      )
    if (facts?.isAllergenUnsure)
      say(
        'mind',
        'allergenUnsure',
        `${name}: an allergen on the shelf was changed since; ask a manager what is in it`,
        true,
      )
    const lot = facts?.lot
    if (lot?.standing === 'expired')
      say(
        'stop',
        'expired',
        `${name}: lot ${lot.id} of ${dayText(lot.madeOn)} was to be used by ${byDayText(lot.useBy)}`,
        true,
      )
    for (const s of facts?.stale ?? []) {
      if (s.standing === 'expired')
        say(
          'stop',
          'expired',
          `${name} ${s.isInIt ? 'was' : 'would be'} made with ${s.name}: lot ${s.id} was to be used by ${byDayText(s.useBy)}`,
          true,
        )
      else say('mind', 'due', `${name} would be made with ${s.name}: use lot ${s.id} by ${byDayText(s.useBy)}`, true)
    }
    if (kind === 'juice' && lot?.madeAt && book.at)
      for (const c of juiceHoursOf(name, lot.madeAt, book.settings, book.at)) say(c.weight, c.code, c.text)
    if (lot?.standing === 'due') say('mind', 'due', `${name}: use lot ${lot.id} by ${byDayText(lot.useBy)}`, true)
  }
  const stirs = [...new Set(ingredients.flatMap((i) => factsOf(i.slug)?.stirs ?? []))]
  if (stirs.length > 0) say('note', 'stir', `stir before every pour: ${stirs.join(', ')}`)
  const adjusted = ingredients.filter((i) => factsOf(i.slug)?.isAcidAdjusted)
  const sour = ingredients.filter((i) => i.kind === 'juice' && i.figures.acidGPer100Ml.value >= SOUR_G_PER_100ML)
  if (adjusted.length > 0 && sour.length > 0) {
    const both = `${adjusted.map((i) => i.name).join(', ')} beside ${sour.map((i) => i.name).join(', ')}`
    say('mind', 'doubleAcid', `${both}: sharpened juice replaces the sour one, or the acid is there twice`)
  }
}

/** A lot without a use-by is never due: then this is not asked. */
const byDayText = (useBy: string | null) => (useBy === null ? 'no day' : dayText(useBy))
