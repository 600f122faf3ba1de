import type { AddFoundVersion, Lineage, SaidFinding, Version } from '@conch/contract'
import { circleIn, type Finding, openQuestions, standingFindings, type VersionKey } from '@conch/core/lineage'
import { type Actor, stampOf } from '../../access/actor.ts'
import type { Database } from '../../database/index.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import type { Services } from '../../http/route.ts'
import { loadDecisions } from '../../stores/decisions.ts'
import {
  findDrink,
  findVersion,
  loadLinked,
  loadParentsOf,
  loadVersions,
  loadWholeVersions,
} from '../../stores/drinks.ts'
import { loadPouredIn } from '../../stores/editions.ts'
import { insertFinding, loadFindings, loadFoundLinks, loadQuestions } from '../../stores/findings.ts'
import { writeVersion } from './writeVersion.ts'

/** How a drink came to be, one step beyond its own versions. @throws Refusal `notFound` */
export async function showLineage(
  slug: string,
  { database: { db }, held: holder }: Pick<Services, 'database' | 'held'>,
): Promise<Lineage> {
  const held = await holder.now()
  const drink = held.drinks.get(slug)
  if (!drink) throw new Refusal('notFound', `there is no drink “${slug}”`)
  const { poured, planned, edition } = held.listed
  const [own, linked, findings, found, decisions, published] = await Promise.all([
    loadVersions(db, slug),
    loadLinked(db, slug),
    loadFindings(db, slug),
    loadFoundLinks(db),
    loadDecisions(db, slug),
    loadPouredIn(db, slug),
  ])
  const links = standingLinks(found)
  const steps = links.flatMap(({ child, from }) => (child.drink === slug ? [from] : from.drink === slug ? [child] : []))
  const keys = new Map([...linked, ...steps].filter((k) => k.drink !== slug).map((k) => [keyOf(k), k]))
  const relatives = withLinks(await loadWholeVersions(db, [...keys.values()]), links)
  const versions = withLinks(own, links)
  const version = poured.get(slug)
  return {
    drink: slug,
    name: drink.name,
    versions,
    relatives: relatives.map((v) => ({
      ...v,
      name: held.drinks.get(v.drink)?.name ?? v.document.name,
      isPoured: poured.get(v.drink) === v.number,
      isPlanned: planned.get(v.drink) === v.number,
    })),
    findings,
    decisions,
    editions: published.filter((e, i) => e.version !== (published[i - 1]?.version ?? null)),
    poured: version === undefined ? null : { version, edition },
    planned: planned.get(slug) ?? null,
    hasDraft: held.drafts.drinks.has(slug),
  }
}

interface FoundLink {
  child: VersionKey
  from: VersionKey
}

const keyOf = ({ drink, version }: VersionKey) => `${drink} ${version}`

/** What was found to come from what, without what was taken back. @param findings of any drinks, each with what withdrew it */
function standingLinks(findings: readonly SaidFinding[]): FoundLink[] {
  return standingFindings(findings).flatMap(({ drink, number, document }) =>
    document.kind === 'from' ? [{ child: { drink, version: number }, from: document.from }] : [],
  )
}

/** Versions with what they were found to come from after those that they were saved with. */
function withLinks(versions: Version[], links: readonly FoundLink[]): Version[] {
  return versions.map((v) => {
    const here = keyOf({ drink: v.drink, version: v.number })
    const known = new Set(v.parents.map(keyOf))
    const found = links.filter((l) => keyOf(l.child) === here && !known.has(keyOf(l.from))).map((l) => l.from)
    return found.length === 0 ? v : { ...v, parents: [...v.parents, ...found] }
  })
}

/** @throws Refusal where a version would come from itself, by whatever way, or does so already */
async function assertNoCircle(tx: Database, child: VersionKey, from: VersionKey): Promise<void> {
  if (!(await findVersion(tx, from.drink, from.version)))
    throw invalid('from', `there is no version ${from.version} of “${from.drink}”`)
  const parentsOf = new Map<string, string[]>()
  const found = standingLinks(await loadFoundLinks(tx))
  // What it comes from already, and then everything that the other one comes from, however far back.
  for (let wave = [child, from], seen = new Set<string>(); wave.length > 0; ) {
    for (const k of wave) seen.add(keyOf(k))
    const here = new Set(wave.map(keyOf))
    const links = [...(await loadParentsOf(tx, wave)), ...found.filter((l) => here.has(keyOf(l.child)))]
    for (const l of links) parentsOf.set(keyOf(l.child), [...(parentsOf.get(keyOf(l.child)) ?? []), keyOf(l.from)])
    wave = [...new Map(links.map((l) => [keyOf(l.from), l.from])).values()].filter((k) => !seen.has(keyOf(k)))
  }
  if (parentsOf.get(keyOf(child))?.includes(keyOf(from)))
    throw invalid('from', `it is known already that it comes from version ${from.version} of “${from.drink}”`)
  parentsOf.set(keyOf(child), [...(parentsOf.get(keyOf(child)) ?? []), keyOf(from)])
  const circle = circleIn(parentsOf)
  if (circle)
    throw invalid(
      'from',
      `then it would come from itself: ${circle.map((k) => k.replace(' ', ' v')).join(' comes from ')}`,
    )
}

/** What is still to be found out about the drinks of the house, the oldest question first. */
export async function listToResearch({ database: { db }, held: holder }: Pick<Services, 'database' | 'held'>) {
  const held = await holder.now()
  return openQuestions(await loadQuestions(db)).flatMap(({ finding, answer }) => {
    const { drink, number } = finding
    return answer ? [] : [{ drink, name: held.drinks.get(drink)?.name ?? drink, number, finding }]
  })
}

/**
 * A version as a source has it, or as the tuner made it, kept as it is: the drink's name, its draft and what is planned stay
 * what they are.
 * @throws Refusal as `writeVersion`; `notFound`
 */
export async function addFoundVersion(
  slug: string,
  { document, begunFrom, ...found }: AddFoundVersion,
  actor: Actor,
  write: Write,
): Promise<Version> {
  if (!(await findDrink(write.db, slug))) throw new Refusal('notFound', `there is no drink “${slug}”`)
  return writeVersion({ drink: slug, document, begunFrom: begunFrom ?? null, ...found }, actor, write)
}

/**
 * Says something of a version that was saved before: a source, a question, the answer to one, or that an earlier word was a
 * mistake.
 * @throws Refusal naming the field, where it hangs on what is not there
 */
export async function addFinding(
  { slug, number }: { slug: string; number: number },
  document: Finding,
  actor: Actor,
  { db: tx, now, record }: Write,
): Promise<SaidFinding> {
  if (!(await findVersion(tx, slug, number)))
    throw new Refusal('notFound', `there is no version ${number} of “${slug}”`)
  const standing = standingFindings(await loadFindings(tx, slug))
  if (document.kind === 'from') await assertNoCircle(tx, { drink: slug, version: number }, document.from)
  if (document.kind === 'answer') {
    const { question } = document
    if (!standing.some((f) => f.id === question && f.document.kind === 'question'))
      throw invalid('question', `there is no open question ${question} about this drink`)
  }
  if (document.kind === 'withdrawn' && !standing.some((f) => f.id === document.finding))
    throw invalid('finding', `there is nothing under ${document.finding} about this drink that still stands`)
  const finding = { drink: slug, number, document }
  const stamp = stampOf(actor, now())
  const id = await insertFinding(tx, { ...finding, ...stamp })
  const detail = { number, said: document.kind }
  record({ kind: 'drink', subject: slug, verb: 'found', detail, kept: [['findings', id]] })
  return { id, ...finding, savedBy: stamp.savedBy, savedAt: stamp.savedAt.toISOString() }
}
