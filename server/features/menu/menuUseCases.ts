import type { FieldProblem, Menu } from '@conch/contract'
import { isSame } from '@conch/core/lineage'
import type { MenuPlan, PlannedChapter } from '@conch/core/menu'
import { type Actor, stampOf } from '../../access/actor.ts'
import type { Database } from '../../database/index.ts'
import { Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { loadVersionsOf } from '../../stores/drinks.ts'
import { findPlan, writePlan } from '../../stores/menu.ts'

const NOTHING_PLANNED: Menu = { plan: { chapters: [] }, revision: 0, savedBy: '', savedAt: '' }

/** The plan of the next edition; revision 0 and empty before anybody planned. */
export async function getMenu(db: Database): Promise<Menu> {
  return (await findPlan(db)) ?? NOTHING_PLANNED
}

/** The plan with every version's document. @throws Refusal `invalid` naming each that is not there */
export async function loadPlanned(db: Database, plan: MenuPlan): Promise<PlannedChapter[]> {
  const fields: FieldProblem[] = []
  const chapters: PlannedChapter[] = []
  const versions = await loadVersionsOf(
    db,
    plan.chapters.flatMap((c) => c.entries),
  )
  for (const [c, chapter] of plan.chapters.entries()) {
    const drinks: PlannedChapter['drinks'] = []
    for (const [e, { drink, version }] of chapter.entries.entries()) {
      const found = versions.get(`${drink} ${version}`)
      if (found) {
        const { document, label } = found
        drinks.push({ drink, name: document.name, version, versionLabel: label, document })
      } else {
        fields.push({
          field: `plan.chapters.${c}.entries.${e}`,
          message: `there is no version ${version} of “${drink}”`,
        })
      }
    }
    chapters.push({ name: chapter.name, drinks })
  }
  const [first] = fields
  if (first) throw new Refusal('invalid', `${first.field}: ${first.message}`, { fields })
  return chapters
}

/** @throws Refusal `invalid` naming each version that is not there; those of a plan of before are */
async function assertThere(db: Database, plan: MenuPlan, before: MenuPlan | undefined): Promise<void> {
  const entries = (p: MenuPlan | undefined) => p?.chapters.flatMap((c) => c.entries) ?? []
  const known = new Set(entries(before).map((e) => `${e.drink} ${e.version}`))
  if (entries(plan).every((e) => known.has(`${e.drink} ${e.version}`))) return
  await loadPlanned(db, plan)
}

export async function changeMenu(
  request: { plan: MenuPlan; revision: number },
  actor: Actor,
  { db: tx, now, record }: Write,
): Promise<Menu> {
  const was = await findPlan(tx)
  // What was planned before is there.
  await assertThere(tx, request.plan, was?.plan)
  if (was && isSame(was.plan, request.plan)) {
    // Nothing to say; and sent twice it is there.
    if (was.revision >= request.revision) return was
  }
  if (!(await writePlan(tx, request.plan, request.revision, stampOf(actor, now())))) {
    const current = await getMenu(tx)
    throw new Refusal('conflict', `${current.savedBy} changed the plan in between; look at it again`, { current })
  }
  record({ kind: 'plan', subject: 'next', verb: 'changed', detail: { was: was?.plan ?? null, is: request.plan } })
  return getMenu(tx)
}
