import { mayAgree, readWhen } from './readWhen.ts'
import { CERTAINTIES, type Certainty, CLAIM_SUBJECTS, type Claim, type VersionSource } from './sourceSchema.ts'

/** One thing that is claimed, and every source that claims it. */
export interface Position {
  says: string
  claims: { says: string; certainty: Certainty; source: VersionSource }[]
  /** The surest of them. */
  certainty: Certainty
}

/** What is claimed about one thing; more than one position: they contradict each other. */
export interface ClaimedAbout {
  about: Claim['about']
  positions: Position[]
  isDisputed: boolean
}

const surest = (a: Certainty, b: Certainty) => CERTAINTIES.indexOf(a) - CERTAINTIES.indexOf(b)
const plain = (words: string) =>
  words
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()

/** Whether two claims about the same thing say the same: years that can be the same year do. */
function saysSame(about: Claim['about'], a: string, b: string): boolean {
  if (plain(a) === plain(b)) return true
  if (about !== 'year') return false
  const [one, other] = [readWhen(a), readWhen(b)]
  return one !== undefined && other !== undefined && mayAgree(one, other)
}

/**
 * What all sources of a drink claim, thing by thing, those that contradict each other side by side, the surest first.
 * None is left out.
 */
export function claimedBy(sources: readonly VersionSource[]): ClaimedAbout[] {
  return CLAIM_SUBJECTS.flatMap((about) => {
    const positions: Position[] = []
    for (const source of sources)
      for (const { says, certainty } of source.claims.filter((c) => c.about === about)) {
        // As all of those say that it joins, or "1950" and "1958" were the same by way of "the 1950s".
        const same = positions.find((p) => p.claims.every((c) => saysSame(about, c.says, says)))
        if (same) same.claims.push({ says, certainty, source })
        else positions.push({ says, certainty, claims: [{ says, certainty, source }] })
      }
    for (const p of positions) p.certainty = p.claims.map((c) => c.certainty).sort(surest)[0] ?? p.certainty
    positions.sort((a, b) => surest(a.certainty, b.certainty))
    return positions.length === 0 ? [] : [{ about, positions, isDisputed: positions.length > 1 }]
  })
}
