/** What is out with the words that this device has kept: the same figures as the house would give, from what is known here. */

import type { OutMarkSaid, Tonight } from '@conch/contract'
import { pouredIn } from '@conch/core/drink'
import type { OutDocument } from '@conch/core/schema/tonight'
import { eveningAfter, outsAfter, type SaidHere } from '@conch/core/tonight'
import { knownShelf } from '../app/shelf.ts'
import { pouredHere } from './pouredHere.ts'
import { readTaps, type WaitingTap } from './taps.ts'

/** A word about what is out, as it is listed. */
function wordOf({ kind, path, body, name, by, at, place }: WaitingTap): SaidHere<OutMarkSaid>[] {
  if (kind === 'outEnd') {
    const id = Number(/\/outs\/(\d+)\/end$/.exec(path)?.[1])
    return Number.isNaN(id) ? [] : [{ ended: id }]
  }
  if (kind !== 'out') return []
  const said = new Date(at).toISOString()
  // What was only said here is told apart by a number that is less than none.
  return [{ is: { ...(body as OutDocument), id: -place, name, savedBy: by.name, savedAt: said } }]
}

/** What was said here stands in the list at least; how the drinks stand is reckoned for those that are known here. */
export async function tonightWith(tonight: Tonight): Promise<Tonight> {
  const said = (await readTaps().catch(() => [])).filter((t) => !t.refused).flatMap(wordOf)
  if (said.length === 0) return tonight
  const here = await pouredHere(tonight.choices).catch(() => undefined)
  if (!here) return { ...tonight, outs: outsAfter(tonight.outs, said) }
  const { house, menu, drinks: known } = here
  const { ingredients, lots } = knownShelf()
  const { wells, glasses, slots } = house
  const isKnown = (slug: string) => ingredients.some((i) => i.slug === slug)
  const poured = menu.flatMap(({ drink, version, name }) => {
    const document = known.get(drink)?.versions.find((v) => v.number === version)?.document
    const instead = tonight.choices.flatMap((c) => (c.drink === drink && c.document ? [c.document] : []))
    // Of what is not known here nobody could say whether it is there.
    if (!document || ![...pouredIn([document, ...instead], slots)].every(isKnown)) return []
    return [{ drink, version, name, document }]
  })
  const { outs, outAt, drinks } = eveningAfter(tonight, said, { wells, ingredients, glasses, slots, lots, poured })
  // A drink that is not known here stands as the house said.
  const unknown = tonight.drinks.filter((d) => !poured.some((p) => p.drink === d.drink))
  return { ...tonight, outs, outAt, drinks: [...drinks, ...unknown] }
}
