/** What becomes of a drink for one night: something instead, or off. */

import type { ChooseTonight, TonightChoice } from '@conch/contract'
import { clockOf, nightOf } from '@conch/core/calendar'
import { resolveDrink } from '@conch/core/drink'
import { drinkTonight, missingKey, stillCounts } from '@conch/core/tonight'
import { type Actor, stampOf } from '../../access/actor.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { baseOf, bookFor, heldHouse, outsIn } from '../../held/index.ts'
import { insertChoice, insertChoiceEnd } from '../../stores/tonight.ts'
import { bookTonight, choicesOf, pouredDrinks, saidChoice } from './showTonight.ts'

/**
 * Chooses for tonight. It ends when the bar's day turns, or when what was missing is back.
 * @throws Refusal `notFound` for what is not poured; `conflict` where somebody chose otherwise meanwhile; `invalid` for a
 *   drink that cannot be made either
 */
export async function chooseTonight(
  drink: string,
  request: ChooseTonight,
  actor: Actor,
  { db, now, record }: Write,
): Promise<TonightChoice> {
  const held = await heldHouse(db)
  const { wells, settings } = baseOf(held)
  const { well, kind, words, sees } = request
  if (well !== null && !wells.some((w) => w.slug === well)) throw invalid('well', `there is no well “${well}”`)
  const poured = (await pouredDrinks(db, held)).find((p) => p.drink === drink)
  if (!poured) throw new Refusal('notFound', `“${drink}” is not on the menu tonight`)
  const night = nightOf(now(), clockOf(settings))
  const before = choicesOf(held, night)
    .filter((c) => c.drink === drink && c.well === well)
    .at(-1)
  if ((before?.id ?? null) !== sees) {
    const detail = before
      ? `${before.savedBy} chose meanwhile: ${before.document.words || before.document.kind}; look at it again`
      : 'what was chosen has ended meanwhile; look at it again'
    throw new Refusal('conflict', detail, { current: before ? saidChoice(before) : null })
  }
  const at = wells.filter((w) => well === null || w.slug === well)
  const { document } = request
  if (document) {
    const book = bookFor(held, [document], now())
    const outAt = outsIn(held, book.ingredients)
    for (const { slug, name } of at) {
      const made = resolveDrink(document, { ...book, outAt }, slug)
      const [problem] = made.ok ? [] : made.problems
      if (problem) throw invalid(`document.${problem.path.join('.')}`, `at the ${name}: ${problem.message}`)
      const [missing] = drinkTonight(document, { ...book, outAt }, slug).missing
      if (missing) throw invalid('document', `${missing.name} is not there either, at the ${name}`)
    }
  }
  const asWritten = bookTonight(held, [poured.document], night)
  const because = [
    ...new Set(at.flatMap(({ slug }) => drinkTonight(poured.document, asWritten, slug).missing.map(missingKey))),
  ]
  const kept: [string, number][] = []
  if (before) {
    const end = {
      choice: before.id,
      at: now(),
      by: actor.name,
      byId: actor.id ?? null,
      event: { why: 'newer' as const },
    }
    const ended = await insertChoiceEnd(db, end)
    if (ended !== undefined) kept.push(['tonight_choice_ends', ended])
  }
  const stamp = stampOf(actor, now())
  const row = {
    drink,
    number: poured.version,
    well,
    night,
    document: { kind, words, because, ...(document ? { document } : {}) },
  }
  const id = await insertChoice(db, { ...row, ...stamp })
  const name = poured.name
  const where = well ?? 'the whole house'
  record({
    kind: 'tonight',
    subject: drink,
    verb: 'chosen',
    detail: { name, well: where, what: kind, words },
    kept: [...kept, ['tonight_choices', id]],
  })
  return saidChoice({ id, ...row, savedBy: stamp.savedBy, savedAt: stamp.savedAt.toISOString() })
}

/** What was chosen because something was missing ends when none of it is missing any more. @param ended marks of outs */
export async function endChoicesWithout(
  ended: ReadonlySet<number>,
  actor: Actor,
  { db, now, record }: Write,
): Promise<void> {
  if (ended.size === 0) return
  const held = await heldHouse(db)
  const { settings, wells } = baseOf(held)
  const night = nightOf(now(), clockOf(settings))
  const choices = choicesOf(held, night).filter((c) => c.document.because.length > 0)
  if (choices.length === 0) return
  const poured = await pouredDrinks(db, held)
  const left = held.tonight.outs.filter((o) => !ended.has(o.id))
  const documents = poured.map((p) => p.document)
  const book = bookTonight(held, documents, night, left)
  for (const choice of choices) {
    const { id, drink, well, document } = choice
    const written = poured.find((p) => p.drink === drink)
    const at = wells.filter((w) => well === null || w.slug === well)
    if (written && at.some((w) => stillCounts(choice.document, drinkTonight(written.document, book, w.slug)))) continue
    const row = await insertChoiceEnd(db, {
      choice: id,
      at: now(),
      by: actor.name,
      byId: actor.id ?? null,
      event: { why: 'ended' },
    })
    if (row === undefined) continue
    const detail = { name: written?.name ?? drink, well: well ?? 'the whole house', words: document.words }
    record({ kind: 'tonight', subject: drink, verb: 'ended', detail, kept: [['tonight_choice_ends', row]] })
  }
}

/** Ends a choice before its night does. @throws Refusal `notFound` where it has ended, or is of another night */
export async function endChoice(id: number, actor: Actor, { db, now, record }: Write): Promise<{ ended: number }> {
  const held = await heldHouse(db)
  const choice = held.tonight.choices.find((c) => c.id === id)
  const row =
    choice &&
    (await insertChoiceEnd(db, {
      choice: id,
      at: now(),
      by: actor.name,
      byId: actor.id ?? null,
      event: { why: 'ended' },
    }))
  if (!choice || row === undefined)
    throw new Refusal('notFound', `there is no choice ${id} any more that could be ended`)
  const name = choice.document.document?.name ?? held.drinks.get(choice.drink)?.name ?? choice.drink
  const detail = { name, well: choice.well ?? 'the whole house', words: choice.document.words }
  record({ kind: 'tonight', subject: choice.drink, verb: 'ended', detail, kept: [['tonight_choice_ends', row]] })
  return { ended: id }
}
