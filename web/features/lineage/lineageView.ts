/** A lineage as it is drawn and read. Plain functions. */

import type { Lineage, SaidFinding, Version } from '@conch/contract'
import {
  standingFindings,
  type TreeNode,
  VERSION_KINDS,
  type VersionKey,
  type VersionSource,
  yearsOf,
  yearsText,
} from '@conch/core/lineage'

/** A version in the picture. */
export interface LineageNode extends TreeNode {
  version: Version
  /** Of its drink. */
  name: string
  isPoured: boolean
  isPlanned: boolean
  /** It belongs to another drink. */
  isRelative: boolean
}

export const keyOf = ({ drink, version }: VersionKey): string => `${drink}@${version}`
const keyOfVersion = (v: Version) => keyOf({ drink: v.drink, version: v.number })

/** Every version of the drink and those of others one step away, in the order in which they were saved. */
export function nodesOf(lineage: Lineage): LineageNode[] {
  const own = lineage.versions.map((version) => ({
    version,
    name: lineage.name,
    isPoured: lineage.poured?.version === version.number,
    isPlanned: lineage.planned === version.number,
    isRelative: false,
  }))
  const others = lineage.relatives.map(({ name, isPoured, isPlanned, ...version }) => ({
    version,
    name,
    isPoured,
    isPlanned,
    isRelative: true,
  }))
  return [...own, ...others].map((n) => ({
    ...n,
    key: keyOfVersion(n.version),
    drink: n.version.drink,
    parents: n.version.parents.map(keyOf),
    years: yearsOf(n.version),
  }))
}

/** When it was poured, in few words: as somebody said it, with the years where the words alone do not say them. */
export function whenText({ era, origin, savedAt }: Pick<Version, 'era' | 'origin' | 'savedAt'>): string {
  const years = origin?.years
  if (era.trim() !== '') return years ? `${era} (${yearsText(years)})` : era
  const known = yearsOf({ era, origin, savedAt })
  return known ? yearsText(known) : 'nobody knows when'
}

/** What it is: its label, or its kind. */
export const whatText = ({ label, origin }: Pick<Version, 'label' | 'origin'>): string =>
  label || (origin ? VERSION_KINDS[origin.kind] : '')

/** All that a reader who does not see the picture has to know of a node. */
export function spokenText(node: LineageNode, nameOf: (key: string) => string | undefined): string {
  const { version, name, isRelative, isPoured, isPlanned } = node
  const from = node.parents.flatMap((p) => nameOf(p) ?? [])
  return [
    `${isRelative ? `${name}, ` : ''}version ${version.number}`,
    whatText(version),
    whenText(version),
    from.length > 0 && `from ${from.join(' and ')}`,
    isPoured && 'poured today',
    isPlanned && !isPoured && 'planned for the next edition',
  ]
    .filter(Boolean)
    .join(', ')
}

/** A source of a version, with the finding that brought it where it came later. */
export interface SourceOf {
  source: VersionSource
  finding: SaidFinding | undefined
}

/** The sources of a version: those it was saved with, then those that were added and still stand. */
export function sourcesOf(version: Version, findings: readonly SaidFinding[]): SourceOf[] {
  const later = standingFindings(findings).flatMap((finding): SourceOf[] =>
    finding.document.kind === 'source' && finding.number === version.number
      ? [{ source: finding.document.source, finding }]
      : [],
  )
  return [...version.sources.map((source) => ({ source, finding: undefined })), ...later]
}

/** Measures that a source may have of its own, in words. */
export const MEASURE_WORDS: Readonly<Record<string, string>> = {
  ounceMl: 'ounce',
  barSpoonMl: 'bar spoon',
  dashMl: 'dash',
  dropMl: 'drop',
  sprayMl: 'spray',
  teaspoonMl: 'teaspoon',
  tablespoonMl: 'tablespoon',
  cupMl: 'cup',
  countMl: 'count',
}

/** A source in a line: what it is, its page and year, who says so. */
export function sourceLine({ kind, title, page, year, saidBy }: VersionSource): string {
  return [
    title,
    page && (/^\d/.test(page) ? `p. ${page}` : page),
    year,
    saidBy && `${kind === 'told' ? 'told by' : 'by way of'} ${saidBy}`,
  ]
    .filter(Boolean)
    .join(', ')
}

/** Where an arrow key leads from a node of the picture: the nearest on that side, the same lane first. */
export function nodeTowards(
  nodes: readonly { column: number; lane: number; node: { key: string } }[],
  from: string,
  key: string,
): string | undefined {
  const here = nodes.find((n) => n.node.key === from)
  if (!here) return nodes[0]?.node.key
  if (key === 'Home') return nodes[0]?.node.key
  if (key === 'End') return nodes[nodes.length - 1]?.node.key
  const side = {
    ArrowLeft: (n: typeof here) => n.lane === here.lane && n.column < here.column,
    ArrowRight: (n: typeof here) => n.lane === here.lane && n.column > here.column,
    ArrowUp: (n: typeof here) => n.lane < here.lane,
    ArrowDown: (n: typeof here) => n.lane > here.lane,
  }[key]
  if (!side) return undefined
  const far = (n: typeof here) => Math.abs(n.column - here.column) + 1000 * Math.abs(n.lane - here.lane)
  const inLane = nodes.filter(side).sort((a, b) => far(a) - far(b))[0]
  if (inLane || key === 'ArrowUp' || key === 'ArrowDown') return inLane?.node.key
  // A lane ends: on along time, wherever that is.
  const along = nodes.filter((n) => (key === 'ArrowLeft' ? n.column < here.column : n.column > here.column))
  return (key === 'ArrowLeft' ? along[along.length - 1] : along[0])?.node.key
}

/** Something in the story of a drink. */
export type Happened = { key: string; at: string; by: string } & (
  | { kind: 'decision'; decision: Lineage['decisions'][number] }
  | { kind: 'edition'; edition: Lineage['editions'][number] }
)

/** What was decided and what was poured then, the newest first. */
export function storyOf({ decisions, editions }: Lineage): Happened[] {
  const all: Happened[] = [
    ...decisions.map((decision) => ({
      kind: 'decision' as const,
      key: `decision ${decision.id}`,
      at: decision.savedAt,
      by: decision.savedBy,
      decision,
    })),
    ...editions.map((edition) => ({
      kind: 'edition' as const,
      key: `edition ${edition.edition}`,
      at: edition.publishedAt,
      by: '',
      edition,
    })),
  ]
  return all.sort((a, b) => (a.at < b.at ? 1 : a.at > b.at ? -1 : 0))
}
