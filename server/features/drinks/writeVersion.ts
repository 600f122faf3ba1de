import type { FieldProblem, FoundVersion, Version } from '@conch/contract'
import { type DrinkDocument, glassFor } from '@conch/core/drink'
import type { VersionKey } from '@conch/core/lineage'
import { type Actor, stampOf } from '../../access/actor.ts'
import type { Database } from '../../database/index.ts'
import { Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { bookFor, heldHouse } from '../../held/index.ts'
import * as store from '../../stores/drinks.ts'
import { insertFinding } from '../../stores/findings.ts'

type Kept = [table: string, ...key: (string | number)[]]

/** A version as it shall be written. */
export interface NewVersion extends FoundVersion {
  drink: string
  document: DrinkDocument
  /** The version of the same drink that it was begun from; its nearest parent. */
  begunFrom: number | null
}

/**
 * Writes a version, for ever, with what it was made from and what is still to be found out about it. It must be computable at
 * every well.
 * @throws Refusal `invalid` naming a parent that is not there; `cannotCompute` with every place, for every well
 */
export async function writeVersion(
  { drink, document, begunFrom, questions, parents: also, ...said }: NewVersion,
  actor: Actor,
  { db: tx, now, record }: Write,
): Promise<Version> {
  const parents = distinctParents([...(begunFrom === null ? [] : [{ drink, version: begunFrom }]), ...also])
  await assertThere(tx, begunFrom === null ? [] : [{ drink, version: begunFrom }], 'begunFrom')
  await assertThere(tx, also, 'parents')
  await assertComputable(tx, document, now())
  const number = (await store.latestVersionNumber(tx, drink)) + 1
  const stamp = stampOf(actor, now())
  const { label, reason, era, sources, origin = null } = said
  const row = { drink, number, parent: begunFrom, label, reason, document, era, source: '', sources, origin, ...stamp }
  await store.insertVersion(tx, row)
  await store.insertParents(tx, { drink, number }, parents)
  const kept: Kept[] = [
    ['versions', drink, number],
    ...parents.map((p): Kept => ['version_parents', drink, number, p.drink, p.version]),
  ]
  for (const asks of questions) {
    const id = await insertFinding(tx, { drink, number, document: { kind: 'question', asks }, ...stamp })
    kept.push(['findings', id])
  }
  const kind = origin?.kind
  record({ kind: 'drink', subject: drink, verb: 'versioned', detail: { number, label, reason, kind }, kept })
  return (await store.findVersion(tx, drink, number)) as Version
}

function distinctParents(parents: readonly VersionKey[]): VersionKey[] {
  const keys = new Map(parents.map((p) => [`${p.drink} ${p.version}`, p]))
  return [...keys.values()]
}

async function assertThere(db: Database, parents: readonly VersionKey[], field: string): Promise<void> {
  if (parents.length === 0) return
  const found = await store.loadVersionsOf(db, parents)
  const fields = parents.flatMap(({ drink, version }, i): FieldProblem[] =>
    found.has(`${drink} ${version}`)
      ? []
      : [
          {
            field: field === 'parents' ? `parents.${i}` : field,
            message: `there is no version ${version} of “${drink}”; a parent is saved before`,
          },
        ],
  )
  const [first] = fields
  if (first) throw new Refusal('invalid', `${first.field}: ${first.message}`, { fields })
}

async function assertComputable(db: Database, document: DrinkDocument, now: Date): Promise<void> {
  const book = bookFor(await heldHouse(db), [document], now)
  const fields = book.wells.flatMap((well) => {
    const glass = glassFor(document, book, well.slug)
    if (glass.ok) return []
    return glass.problems.map((p) => ({
      field: `document.${p.path.join('.')}`,
      message: `${p.message} (at the ${well.name})`,
    }))
  })
  const [first] = fields
  if (first) throw new Refusal('cannotCompute', `${first.field}: ${first.message}`, { fields })
}
