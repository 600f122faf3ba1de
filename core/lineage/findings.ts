import type { Finding } from './sourceSchema.ts'

/** A finding under its number, oldest first among others. */
export interface SaidFinding {
  id: number
  document: Finding
}

export interface OpenQuestion<F extends SaidFinding = SaidFinding> {
  finding: F
  asks: string
  /** The newest answer that was not withdrawn; undefined: still to research. */
  answer: { finding: F; says: string } | undefined
}

/** What stands among findings: without what was withdrawn, and the answers to a question that was. */
export function standingFindings<F extends SaidFinding>(findings: readonly F[]): F[] {
  const withdrawn = new Set<number>()
  // What withdraws another can be withdrawn itself: from the newest back, each counts unless a newer one took it away.
  for (const { id, document } of [...findings].sort((a, b) => b.id - a.id))
    if (document.kind === 'withdrawn' && !withdrawn.has(id)) withdrawn.add(document.finding)
  return findings.filter(({ id, document }) => {
    if (withdrawn.has(id) || document.kind === 'withdrawn') return false
    return document.kind !== 'answer' || !withdrawn.has(document.question)
  })
}

/** Every question that stands, with its answer if it has one. */
export function openQuestions<F extends SaidFinding>(findings: readonly F[]): OpenQuestion<F>[] {
  const standing = standingFindings(findings)
  return standing.flatMap((finding) => {
    if (finding.document.kind !== 'question') return []
    const answers = standing.flatMap((f) =>
      f.document.kind === 'answer' && f.document.question === finding.id ? [{ finding: f, says: f.document.says }] : [],
    )
    return [{ finding, asks: finding.document.asks, answer: answers[answers.length - 1] }]
  })
}
