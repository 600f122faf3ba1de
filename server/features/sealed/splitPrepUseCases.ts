import type { SplitPrep, SplitPrepRequest } from '@conch/contract'
import { clockOf, nightOf } from '@conch/core/calendar'
import { dealSheets, lettersOf, mixerOfToday } from '@conch/core/formula'
import type { Ingredient } from '@conch/core/house'
import { liquidFromFigures, massGOf } from '@conch/core/liquid'
import { type Actor, stampOf } from '../../access/actor.ts'
import { mayOpen } from '../../access/seal.ts'
import type { Database } from '../../database/index.ts'
import { invalid } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { type HeldHouse, heldHouse, partFor } from '../../held/index.ts'
import { insertSplitPrep, loadSplitPreps, type StoredSplitPrep } from '../../stores/sealed.ts'

const MOST_SHOWN = 100
/** Whoever weighed one half long ago still knows it. */
const MOST_REMEMBERED = 10_000

/**
 * Deals a batch to two people, each with a half of the components.
 * @throws Refusal when one of them would know all of it
 */
export async function dealSplitPrep(
  request: SplitPrepRequest,
  actor: Actor,
  { db: tx, now, record }: Write,
): Promise<SplitPrep> {
  const held = await heldHouse(tx)
  const ingredient = held.ingredient(request.ingredient)
  if (!ingredient?.recipe) throw invalid('ingredient', `there is no mix “${request.ingredient}”`)
  const house = partFor(held, [ingredient.slug])
  const today = nightOf(now(), clockOf(house.settings))
  const mixed = mixerOfToday(house, today).freshMixOf(ingredient.slug)
  if (!mixed.ok) throw invalid('ingredient', `${ingredient.name} ${mixed.problems[0]?.message}`)
  const earlier = await loadSplitPreps(tx, MOST_REMEMBERED, ingredient.slug)
  const dealt = dealSheets(
    mixed.mix,
    request.factor,
    request.hands,
    earlier.map((e) => e.document),
  )
  if (!dealt.ok) throw invalid('hands', dealt.reason)
  const stamp = stampOf(actor, now())
  const id = await insertSplitPrep(tx, { ingredient: ingredient.slug, document: dealt.document, ...stamp })
  const detail = { factor: request.factor, hands: request.hands }
  record({ kind: 'batch', subject: ingredient.slug, verb: 'dealt', detail, kept: [['split_preps', id]] })
  const [made] = await loadSplitPreps(tx, 1, ingredient.slug)
  if (made?.id !== id) throw new Error('bug: the batch that was dealt is not the newest')
  return shown(made, actor, held, now())
}

/** The newest batches: a manager's with both sheets, anybody else's with their own, if they have one. */
export async function listSplitPreps(db: Database, actor: Actor, now: Date): Promise<SplitPrep[]> {
  const held = await heldHouse(db)
  return (await loadSplitPreps(db, MOST_SHOWN)).map((p) => shown(p, actor, held, now))
}

function shown({ document, ...prep }: StoredSplitPrep, actor: Actor, held: HeldHouse, now: Date): SplitPrep {
  const ingredient = held.ingredient(prep.ingredient)
  return {
    ...prep,
    factor: document.factor,
    hands: document.sheets.map((s) => s.hand),
    sheets: mayOpen(actor.role)
      ? document.sheets
      : document.sheets.flatMap((s) =>
          s.hand === actor.name && ingredient && isTonight(prep.savedAt, held, now)
            ? [underLetters(s, ingredient, document.factor)]
            : [],
        ),
  }
}

const isTonight = (at: string, held: HeldHouse, now: Date): boolean => {
  const clock = clockOf(held.base?.settings ?? {})
  return nightOf(new Date(at), clock) === nightOf(now, clock)
}

type Sheet = StoredSplitPrep['document']['sheets'][number]

/**
 * What one weighs, under letters and to one per cent, always to the same one per cent: finer, or another way each time,
 * the weights would be densities, and those are names.
 */
function underLetters(sheet: Sheet, { recipe, sealedAs, figures }: Ingredient, factor: number): Sheet {
  const letters = recipe ? lettersOf(recipe) : new Map<string, { slug: string; name: string }>()
  const volumeMl = (sealedAs?.volumeMl ?? 0) * factor
  const whole = sealedAs && liquidFromFigures(volumeMl, sealedAs.figures)
  const massG = whole?.ok ? massGOf(whole.liquid) : volumeMl * (1 - figures.abvPct.value / 500)
  const lines = sheet.lines.flatMap(({ ingredient }) => {
    const letter = letters.get(ingredient)
    const share = letter && sealedAs?.shares[letter.name]
    return letter && share ? [{ ingredient: letter.slug, name: letter.name, massG: Math.round(share * massG) }] : []
  })
  return { ...sheet, lines: lines.sort((a, b) => (a.name < b.name ? -1 : 1)) }
}
