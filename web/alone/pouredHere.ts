/** The poured edition as far as this device knows it: asked of the house, or read from what is kept. */

import type { Drink, House, Tonight } from '@conch/contract'
import { pouredIn } from '@conch/core/drink'
import { drinkQuery, houseQuery, pouredMenuQuery, queryClient } from '../app/queries.ts'
import { asksOf, shelfQuery } from '../app/shelf.ts'

/** Asked for where it was not yet, or where something changed since. */
export const HAVE = {
  staleTime: Number.POSITIVE_INFINITY,
  gcTime: Number.POSITIVE_INFINITY,
  retry: false,
}

export interface PouredHere {
  house: House
  /** What the menu pours: which drink, by which version. */
  menu: { drink: string; version: number; name: string }[]
  /** Those that are known, by slug. */
  drinks: Map<string, Drink>
  /** Some of their glasses are being computed anew: asked again in a moment, more is known. */
  isComputing: boolean
}

/**
 * The menu at every well, its drinks, and everything that any version of them or a choice for tonight pours.
 * @param breath what is done between one question and the next
 * @throws where the house is not known at all
 */
export async function pouredHere(
  choices: Tonight['choices'],
  breath: () => Promise<unknown> = async () => {},
): Promise<PouredHere> {
  const house = await queryClient.fetchQuery({ ...houseQuery, ...HAVE })
  const menu = new Map<string, PouredHere['menu'][number]>()
  let isComputing = false
  for (const { slug } of house.wells) {
    const { chapters } = await queryClient.fetchQuery({ ...pouredMenuQuery(slug), ...HAVE })
    for (const { drink, version, name, now } of chapters.flatMap((c) => c.drinks)) {
      menu.set(drink, { drink, version, name })
      isComputing ||= !now || now.isOld
    }
    await breath()
  }
  const drinks = new Map<string, Drink>()
  for (const slug of menu.keys()) {
    const drink = await queryClient.fetchQuery({ ...drinkQuery(slug), ...HAVE }).catch(() => undefined)
    if (drink) drinks.set(slug, drink)
    await breath()
  }
  const documents = [
    ...[...drinks.values()].flatMap(({ versions, draft }) => [
      ...versions.map((v) => v.document),
      ...(draft ? [draft.document] : []),
    ]),
    ...choices.flatMap((c) => c.document ?? []),
  ]
  for (const asked of asksOf(pouredIn(documents, house.slots))) {
    await queryClient.fetchQuery({ ...shelfQuery(asked), ...HAVE }).catch(() => undefined)
    await breath()
  }
  return { house, menu: [...menu.values()], drinks, isComputing }
}
