import { keysOf } from '../schema/keysOf.ts'
import { permutationTest, type SignTest, signTest } from './statistics.ts'
import { TASTE_LINES, type TasteLine, type TastingSheet } from './tastingSchema.ts'

/** What was said of one subject. */
export interface SubjectResult {
  /** Of those who scored a line. */
  means: Partial<Record<TasteLine, { mean: number; count: number }>>
  words: { taster: string; words: string }[]
}

/** Two subjects against each other on a line, over the tasters who scored both. */
export interface PairResult {
  first: number
  second: number
  line: TasteLine
  tasters: number
  /** Second less first. */
  meanDifference: number
  sign: SignTest
  /** By every way in which scores may have been swapped. */
  p: number
}

export interface TastingResult {
  /** Who handed in a sheet. */
  tasters: string[]
  subjects: SubjectResult[]
  pairs: PairResult[]
}

/** The newest sheet of each taster for each code, in the order in which they were written. */
export function standingSheets<S extends Pick<TastingSheet, 'taster' | 'code'>>(sheets: readonly S[]): S[] {
  const newest = new Map<string, S>()
  for (const s of sheets) newest.set(`${s.taster}\n${s.code}`, s)
  return [...newest.values()]
}

/**
 * What a tasting says once it is known which code is which.
 * @param codes of the subjects, in their order
 */
export function resultsOf(codes: readonly string[], all: readonly TastingSheet[]): TastingResult {
  const sheets = standingSheets(all)
  const tasters = [...new Set(sheets.map((s) => s.taster))]
  const scoreOf = (taster: string, subject: number, line: TasteLine) =>
    sheets.find((s) => s.taster === taster && s.code === codes[subject])?.scores[line]
  const lines = keysOf(TASTE_LINES)
  const subjects = codes.map((code): SubjectResult => {
    const own = sheets.filter((s) => s.code === code)
    const means: SubjectResult['means'] = {}
    for (const line of lines) {
      const scores = own.flatMap((s) => s.scores[line] ?? [])
      if (scores.length > 0)
        means[line] = { mean: scores.reduce((a, b) => a + b, 0) / scores.length, count: scores.length }
    }
    return { means, words: own.flatMap((s) => (s.words ? [{ taster: s.taster, words: s.words }] : [])) }
  })
  const pairs = codes.flatMap((_, first) =>
    codes.slice(first + 1).flatMap((__, i): PairResult[] => {
      const second = first + 1 + i
      return lines.flatMap((line): PairResult[] => {
        const differences = tasters.flatMap((t) => {
          const [a, b] = [scoreOf(t, first, line), scoreOf(t, second, line)]
          return a === undefined || b === undefined ? [] : [b - a]
        })
        if (differences.length === 0) return []
        const meanDifference = differences.reduce((a, b) => a + b, 0) / differences.length
        return [
          {
            first,
            second,
            line,
            tasters: differences.length,
            meanDifference,
            sign: signTest(differences),
            p: permutationTest(differences),
          },
        ]
      })
    }),
  )
  return { tasters, subjects, pairs }
}
