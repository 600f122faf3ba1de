/** What can be poured now at a well, of the menu or of the whole book, that is what somebody wishes for. */

import type { DrinkAtWell, Pourable, pourableQuery } from '@conch/contract'
import { clockOf, nightOf } from '@conch/core/calendar'
import { bySlug, INGREDIENT_KINDS, isThereAt } from '@conch/core/house'
import type { KeptGlass } from '@conch/core/menu'
import { resolveSlot } from '@conch/core/palate'
import { standsAt } from '@conch/core/tonight'
import { fitsWish, readWish, sayWish, type Wished } from '@conch/core/wish'
import type { z } from 'zod'
import type { Actor } from '../../access/actor.ts'
import { mayOpen } from '../../access/seal.ts'
import { othersTurn } from '../../database/othersTurn.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { baseOf, type HeldHouse, outsIn } from '../../held/index.ts'
import type { Services } from '../../http/route.ts'
import { keyOf } from '../../kept/index.ts'
import { eveningOf } from './showTonight.ts'
import { glassesTonight } from './tonightGlass.ts'

const AT_ONCE = 400
const MOST_SHOWN = 200

/** @throws Refusal `notFound` for a well that the house does not have */
export async function getPourable(
  { well, of, wish: text = '', dark }: z.output<typeof pourableQuery>,
  { role }: Actor,
  { database: { db }, held: holder, glasses, now }: Services,
): Promise<Pourable> {
  const held = await holder.now()
  const { wells, settings } = baseOf(held)
  if (!wells.some((w) => w.slug === well)) throw new Refusal('notFound', `there is no well “${well}”`)
  const wish = readWish(text)
  const shown = await glasses.shownVersions()
  const { poured } = glasses.listings()
  const onMenu = await menuTonight(held, well, nightOf(now(), clockOf(settings)), db)
  const keys = [...shown]
    .filter(([drink]) => (of === 'menu' ? poured.has(drink) : !held.drinks.get(drink)?.isHidden))
    .map(([drink, version]) => ({ drink, version }))
  const there = whatIsThere(held, well)
  const tonight = await glassesTonight(db, held, { well, isOpen: mayOpen(role), now: now() })
  const fitting: Pourable['drinks'] = []
  let unsure = 0
  let isComputing = false
  for (let i = 0; i < keys.length; i += AT_ONCE) {
    const some = keys.slice(i, i + AT_ONCE)
    const kept = await glasses.read(some, { isOpen: mayOpen(role), well })
    for (const key of some) {
      const instead = tonight.get(key.drink)?.glass
      const { glass, isOld } = instead ? { glass: instead, isOld: false } : (kept.get(keyOf(key))?.[well] ?? {})
      if (!glass || isOld) isComputing = true
      if (!glass) {
        unsure += wish.withoutAllergens.length > 0 ? 1 : 0
        continue
      }
      const known = wishedOf(glass, held, key.drink)
      // What was in it a moment ago need not be what is in it now.
      const wished = { ...known, isAllergenUnsure: known.isAllergenUnsure || isOld === true }
      if (!fitsWish(wish, wished)) {
        // All else is as it is wished: but nobody knows what is in it.
        if (wished.isAllergenUnsure && fitsWish(wish, { ...wished, isAllergenUnsure: false })) unsure += 1
        continue
      }
      const stands = onMenu.get(key.drink) ?? there(glass)
      fitting.push({
        ...key,
        name: held.drinks.get(key.drink)?.name ?? glass.name,
        isPoured: poured.has(key.drink),
        state: stands.state,
        words: stands.words,
        ...(glass.predictions.strengthPct ? { strengthPct: round1(glass.predictions.strengthPct.value) } : {}),
        ...nameOfGlass(glass, held),
        serves: glass.serves,
        allergens: glass.allergens,
      })
    }
    await othersTurn()
  }
  const canBe = (d: { state: DrinkAtWell['state'] }) => d.state === 'made' || d.state === 'instead'
  const pourable = fitting.filter(canBe)
  const listed = dark === 'with' ? fitting : pourable
  const rank = (d: Pourable['drinks'][number]) => (canBe(d) ? 0 : 2) + (d.isPoured ? 0 : 1)
  return {
    understood: sayWish(wish),
    total: keys.length,
    fitting: fitting.length,
    pourable: pourable.length,
    unsure,
    isComputing,
    drinks: listed.sort((a, b) => rank(a) - rank(b) || (a.name < b.name ? -1 : 1)).slice(0, MOST_SHOWN),
  }
}

const round1 = (value: number) => Number(value.toFixed(1))

function nameOfGlass({ glass }: KeptGlass, held: HeldHouse): { glass?: string } {
  const found = bySlug(baseOf(held).glasses, glass)
  return found ? { glass: found.name } : {}
}

interface Stands {
  state: DrinkAtWell['state']
  words: string
}

/** How each drink of the menu stands, what was chosen for tonight counted in. */
async function menuTonight(
  held: HeldHouse,
  well: string,
  night: string,
  db: Services['database']['db'],
): Promise<Map<string, Stands>> {
  const { poured, choices, book } = await eveningOf(db, held, night)
  return new Map(
    poured.map((p) => {
      const at = standsAt(p, choices, book, well)
      const choice = choices.find((c) => c.id === at.choice)
      const words =
        at.state === 'dark'
          ? at.missing.map((m) => `no ${m.name}`).join(', ')
          : [choice?.words, ...at.swapped.map((s) => `${s.is} for ${s.insteadOf}`)].filter(Boolean).join('; ')
      return [p.drink, { state: at.state, words }]
    }),
  )
}

/** What a kept glass pours is there, or it is said what is not. */
function whatIsThere(held: HeldHouse, well: string): (glass: KeptGlass) => Stands {
  const { slots } = baseOf(held)
  const outAt = outsIn(held, held.allIngredients())
  const book = { ingredients: [], outAt }
  return ({ pours, glass, problems }) => {
    const missing: string[] = []
    const swapped: string[] = []
    for (const { slug, slot, name } of pours) {
      const inSlot = bySlug(slots, slot)
      if (inSlot) {
        const candidates = [inSlot.pick, ...inSlot.candidates.map((c) => c.ingredient)]
        const ingredients = candidates.flatMap((c) => held.ingredient(c) ?? [])
        const poured = resolveSlot(inSlot, { ingredients, outAt }, well)
        if (!poured || poured.isOut) missing.push(`nothing for ${inSlot.name}`)
        else if (poured.insteadOf) swapped.push(`${poured.ingredient.name} for ${poured.insteadOf.name}`)
      } else if (slug !== undefined) {
        const ingredient = held.ingredient(slug)
        if (!ingredient || !isThereAt(ingredient, book, well)) missing.push(`no ${name}`)
      }
    }
    if (glass !== undefined && outAt[well]?.glasses.includes(glass))
      missing.push(`no ${nameOfGlass({ glass } as KeptGlass, held).glass ?? glass}`)
    if (problems[0]) missing.push(problems[0].message)
    const isDark = missing.length > 0
    return { state: isDark ? 'dark' : 'made', words: (isDark ? missing : swapped).join(', ') }
  }
}

/** Every word by which it may be wished for; of what is sealed nothing but its name. */
function wishedOf(glass: KeptGlass, held: HeldHouse, drink: string): Wished {
  const words = glass.pours.flatMap(({ slug, name }) => {
    const i = slug === undefined ? undefined : held.ingredient(slug)
    return [name, ...(i && !i.isSealed ? [INGREDIENT_KINDS[i.kind], i.style ?? '', i.base ?? '', i.origin ?? ''] : [])]
  })
  const vessel = bySlug(baseOf(held).glasses, glass.glass)
  return {
    predictions: glass.predictions,
    serves: glass.serves,
    allergens: glass.allergens,
    isAllergenUnsure: glass.cautions.some((c) => c.code === 'allergenUnsure') || glass.problems.length > 0,
    stemMm: vessel?.stemMm ?? 0,
    text: [held.drinks.get(drink)?.name ?? '', vessel?.name ?? '', ...words].join(', '),
  }
}
