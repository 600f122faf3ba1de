import type { AnswerModel, ModelMoved } from '@conch/contract'
import { MODEL_VERSION } from '@conch/core/cold'
import type { DrinkDocument } from '@conch/core/drink'
import { retakenStandard } from '@conch/core/menu'
import { type Actor, stampOf } from '../../access/actor.ts'
import type { Database } from '../../database/index.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { hasHappened } from '../../events/index.ts'
import { baseOf, bookFor, heldHouse } from '../../held/index.ts'
import type { Services } from '../../http/route.ts'
import { findVersion, insertParents, insertVersion, latestVersionNumber } from '../../stores/drinks.ts'
import { findEdition, newestEditionNumber } from '../../stores/editions.ts'
import { writePlan } from '../../stores/menu.ts'
import { getMenu } from '../menu/index.ts'
import { MOVED } from './computeMoved.ts'

const SUBJECT = `model ${MODEL_VERSION}`
const NOTHING: ModelMoved = { model: MODEL_VERSION, edition: null, isAnswered: true, drinks: [] }

/** Whether somebody has said already what becomes of the standards under today's model. */
const isAnswered = (db: Database): Promise<boolean> => hasHappened(db, 'house', SUBJECT)

/** The newest edition where another model computed it; undefined where there is nothing to say. */
async function editionOfBefore(db: Database) {
  const edition = await findEdition(db, await newestEditionNumber(db))
  return edition && edition.lock.model !== MODEL_VERSION ? edition : undefined
}

/**
 * What today's model of the ice alone changed of what is poured, computed in a thread; nothing when the newest edition was
 * locked with it, and no more once somebody has said what becomes of it.
 */
export async function getModelMoved(actor: Actor, { database: { db }, work }: Services): Promise<ModelMoved> {
  const edition = await editionOfBefore(db)
  if (!edition) return NOTHING
  const { number, name, lock } = edition
  const said = { model: MODEL_VERSION, edition: { number, name, model: lock.model } }
  if (await isAnswered(db)) return { ...said, isAnswered: true, drinks: [] }
  const { wells, calibrations } = baseOf(await heldHouse(db))
  const drinks = await work.run(actor.name, MOVED, { lock, wells, calibrations })
  return { ...said, isAnswered: false, drinks }
}

/**
 * Says what becomes of the standards under today's model, once: those of the drinks named are taken again from the glass as
 * it comes out now, each as a new version that the plan pours; the others stay.
 * @throws Refusal `conflict` when the plan is not the one that was looked at, or somebody has said so already
 */
export async function answerModel(
  { reason, drinks, planRevision }: AnswerModel,
  actor: Actor,
  { db: tx, now, record }: Write,
): Promise<ModelMoved> {
  const menu = await getMenu(tx)
  const edition = await editionOfBefore(tx)
  if (!edition)
    throw new Refusal(
      'invalid',
      'the newest edition was computed with today’s model of the ice; there is nothing to say',
    )
  if (await isAnswered(tx))
    throw new Refusal('conflict', 'somebody has said already what becomes of the standards', { current: menu })
  if (menu.revision !== planRevision)
    throw new Refusal('conflict', `${menu.savedBy} changed the plan in between; look at it again`, { current: menu })
  const held = await heldHouse(tx)
  const made: { drink: string; number: number; from: number }[] = []
  for (const [i, drink] of [...new Set(drinks)].entries()) {
    const planned = menu.plan.chapters.flatMap((c) => c.entries).find((e) => e.drink === drink)
    const version = planned && (await findVersion(tx, drink, planned.version))
    if (!version) throw invalid(`drinks.${i}`, `“${drink}” is not planned`)
    const standard = retakenStandard(version.document, bookFor(held, [version.document], now()))
    if (!standard) continue
    made.push({ drink, number: await insertRetaken(drink, version, standard), from: version.number })
  }
  const numberOf = new Map(made.map((m) => [m.drink, m.number]))
  const plan = {
    chapters: menu.plan.chapters.map((c) => ({
      ...c,
      entries: c.entries.map((e) => ({ ...e, version: numberOf.get(e.drink) ?? e.version })),
    })),
  }
  if (made.length > 0 && !(await writePlan(tx, plan, planRevision, stampOf(actor, now()))))
    throw new Refusal('conflict', 'the plan was changed in between; look at it again', { current: await getMenu(tx) })
  record({
    kind: 'house',
    subject: SUBJECT,
    verb: 'retaken',
    detail: { reason, made, ...(made.length > 0 ? { was: menu.plan, is: plan } : {}) },
    kept: made.flatMap(({ drink, number, from }): [string, ...(string | number)[]][] => [
      ['versions', drink, number],
      ['version_parents', drink, number, drink, from],
    ]),
  })
  const { number, name, lock } = edition
  return { model: MODEL_VERSION, edition: { number, name, model: lock.model }, isAnswered: true, drinks: [] }

  async function insertRetaken(
    drink: string,
    from: { number: number; document: DrinkDocument },
    standard: DrinkDocument['standard'],
  ): Promise<number> {
    const number = (await latestVersionNumber(tx, drink)) + 1
    await insertVersion(tx, {
      drink,
      number,
      parent: from.number,
      label: 'standard retaken',
      reason,
      document: { ...from.document, standard },
      era: '',
      source: '',
      ...stampOf(actor, now()),
    })
    await insertParents(tx, { drink, number }, [{ drink, version: from.number }])
    return number
  }
}
