import type { Decide, Decision } from '@conch/contract'
import { changedMost, comparableOf } from '@conch/core/compare'
import { type DrinkDocument, glassFor, pouredIn } from '@conch/core/drink'
import type { DecisionDocument, VersionKey } from '@conch/core/lineage'
import { planWith } from '@conch/core/menu'
import { type Actor, stampOf } from '../../access/actor.ts'
import { closeHouse } from '../../access/seal.ts'
import type { Database } from '../../database/index.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { baseOf, type HeldHouse, heldHouse, partFor, toBook } from '../../held/index.ts'
import type { Services } from '../../http/route.ts'
import { insertDecision } from '../../stores/decisions.ts'
import { findDrink, loadVersionsOf } from '../../stores/drinks.ts'
import { findPlan, writePlan } from '../../stores/menu.ts'
import { findTasting } from '../../stores/tastings.ts'

/** How things stand before a decision, computed while nobody waits for it. */
export interface AsItStands {
  instead: number | null
  figures: Pick<DecisionDocument, 'changed' | 'byWell'>
}

/** What is planned of a drink; else what is poured. */
const nowOf = ({ listed }: HeldHouse, slug: string): number | null =>
  listed.planned.get(slug) ?? listed.poured.get(slug) ?? null

/** The figures of a version and of the one that it would replace, as they stand now and as everybody may see them. */
export async function lookBeforeDeciding(
  slug: string,
  version: number,
  { database: { db }, held: holder, now }: Pick<Services, 'database' | 'held' | 'now'>,
): Promise<AsItStands> {
  const held = await holder.now()
  const instead = nowOf(held, slug)
  return { instead, figures: await figuresOf(db, { drink: slug, version, instead }, held, now()) }
}

async function figuresOf(
  db: Database,
  { drink, version, instead }: { drink: string; version: number; instead: number | null },
  held: HeldHouse,
  now: Date,
): Promise<AsItStands['figures']> {
  const keys = [version, ...(instead === null || instead === version ? [] : [instead])]
  const found = await loadVersionsOf(
    db,
    keys.map((number) => ({ drink, version: number })),
  )
  const document = found.get(`${drink} ${version}`)?.document
  const before = instead === version ? undefined : found.get(`${drink} ${instead}`)?.document
  if (!document) return { changed: '', byWell: {} }
  const part = partFor(held, pouredIn([document, ...(before ? [before] : [])], baseOf(held).slots))
  // A sealed formula is not to be worked out from a decision.
  const book = toBook(closeHouse(part, held.onShelf()), now)
  const at = (d: DrinkDocument | undefined, well: string) => {
    const glass = d && glassFor(d, book, well)
    return glass?.ok ? glass.result.predictions : undefined
  }
  const byWell: DecisionDocument['byWell'] = {}
  for (const { slug } of book.wells) {
    const here = at(document, slug)
    const was = at(before, slug)
    if (here) byWell[slug] = { now: here, ...(was ? { before: was } : {}) }
  }
  const first = book.wells[0]?.slug ?? ''
  const to = comparableOf('', document, book, first)
  const from = before && comparableOf('', before, book, first)
  const glasses = { from: valuesOf(byWell[first]?.before), to: valuesOf(byWell[first]?.now) }
  return { changed: from?.ok && to.ok ? changedMost(from.side, to.side, glasses).slice(0, 1000) : '', byWell }
}

type Predictions = DecisionDocument['byWell'][string]['now']

const valuesOf = (p: Predictions | undefined) =>
  p && {
    strengthPct: p.strengthPct?.value,
    sweetGPer100Ml: p.sweetGPer100Ml?.value,
    sourGPer100Ml: p.sourGPer100Ml?.value,
  }

/**
 * Decides which version of a drink is poured, with a reason: it goes onto the next edition, and how things stood is kept.
 * @param looked what was computed before; made anew where the plan has changed since
 * @throws Refusal `notFound`; `invalid` where there is no such version
 */
export async function decide(
  slug: string,
  { version, reason, tasting }: Decide,
  looked: AsItStands,
  actor: Actor,
  { db: tx, now, record }: Write,
): Promise<Decision> {
  if (!(await findDrink(tx, slug))) throw new Refusal('notFound', `there is no drink “${slug}”`)
  if ((await loadVersionsOf(tx, [{ drink: slug, version }])).size === 0)
    throw invalid('version', `there is no version ${version} of “${slug}”`)
  if (tasting !== undefined) await assertTasted(tx, tasting, { drink: slug, version })
  const held = await heldHouse(tx)
  const instead = nowOf(held, slug)
  const figures =
    instead === looked.instead ? looked.figures : await figuresOf(tx, { drink: slug, version, instead }, held, now())
  const stamp = stampOf(actor, now())
  const was = await findPlan(tx)
  const plan = planWith(was?.plan ?? { chapters: [] }, slug, version)
  if (!(await writePlan(tx, plan, was?.revision ?? 0, stamp))) throw new Error('bug: the plan changed within a write')
  const document: DecisionDocument = { instead, reason, ...figures, ...(tasting === undefined ? {} : { tasting }) }
  const id = await insertDecision(tx, { drink: slug, number: version, document, ...stamp })
  const detail = { number: version, instead, reason, was: was?.plan ?? null, is: plan }
  record({ kind: 'decision', subject: slug, verb: 'decided', detail, kept: [['decisions', id]] })
  const { savedBy, savedAt } = stamp
  return { id, drink: slug, number: version, document, savedBy, savedAt: savedAt.toISOString() }
}

/** @throws Refusal where the tasting is not closed, or was of other versions */
async function assertTasted(db: Database, id: number, { drink, version }: VersionKey): Promise<void> {
  const tasting = await findTasting(db, id)
  if (tasting?.end?.event.kind !== 'closed') throw invalid('tasting', `tasting ${id} is not closed; close it first`)
  if (!tasting.document.subjects.some((s) => s.drink === drink && s.version === version))
    throw invalid('tasting', `version ${version} of “${drink}” was not tasted in tasting ${id}`)
}
