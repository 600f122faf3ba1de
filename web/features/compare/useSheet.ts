import type { ListedVersion } from '@conch/contract'
import {
  type AlignedRow,
  alignPours,
  type Comparable,
  changedMost,
  comparableOf,
  comparedRemarks,
  type Done,
  type InGlass,
  normalise,
} from '@conch/core/compare'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { useHouse } from '../../app/house.tsx'
import { drinkPageQuery, versionsQuery } from '../../app/queries.ts'
import { useShelfFor } from '../../app/shelf.ts'
import { type GlassAnswer, useGlasses } from '../../workers/compute.ts'
import type { OnSheet } from './sheetAddress.ts'

/** One column of the sheet. */
export interface SheetColumn {
  key: string
  version: ListedVersion
  /** What the house calls the drink. */
  name: string
  isPoured: boolean
  isPlanned: boolean
  /** undefined: being computed. */
  answer: GlassAnswer | undefined
}

export interface Sheet {
  columns: SheetColumn[]
  rows: AlignedRow[]
  done: Done[]
  remarks: string[]
  /** Of each column after the first: what is most different from it. */
  changed: ReadonlyMap<string, string>
  /** Versions that cannot be counted, and why. */
  problems: string[]
}

const inGlassOf = (answer: GlassAnswer | undefined): InGlass | undefined => {
  if (!answer?.ok) return undefined
  const { strengthPct, sweetGPer100Ml, sourGPer100Ml } = answer.result.predictions
  return {
    strengthPct: strengthPct?.value,
    sweetGPer100Ml: sweetGPer100Ml?.value,
    sourGPer100Ml: sourGPer100Ml?.value,
  }
}

/** Everything that stands on the sheet; undefined: still fetched. */
export function useSheet({ keys, steps }: OnSheet): { sheet: Sheet | undefined; error: unknown } {
  const { book, well } = useHouse()
  const query = useQuery({ ...versionsQuery(keys), enabled: keys.length > 0 })
  const versions = useMemo(
    () => keys.flatMap((k) => query.data?.find((v) => `${v.drink}@${v.number}` === k) ?? []),
    [query.data, keys],
  )
  const slugs = [...new Set(versions.map((v) => v.drink))]
  const listed = useQuery({
    ...drinkPageQuery({ of: slugs.join(','), limit: slugs.length || 1 }),
    enabled: slugs.length > 0,
  }).data
  const documents = versions.map((v) => v.document)
  const { isReady } = useShelfFor(documents)
  const answers = useGlasses(documents, book, well.slug, isReady)
  const counted = useMemo(() => {
    if (!isReady) return undefined
    const made = versions.map((v) => comparableOf(`${v.drink}@${v.number}`, v.document, book, well.slug))
    const sides = made.flatMap((m): Comparable[] => (m.ok ? [m.side] : []))
    const problems = made.flatMap((m) => (m.ok ? [] : m.problems.map((p) => p.message)))
    return { ...normalise(sides, steps, book), problems }
  }, [versions, book, well.slug, steps, isReady])
  if (!counted || !listed || query.isPlaceholderData) return { sheet: undefined, error: query.error }
  const columns = versions.map((version, i): SheetColumn => {
    const drink = listed.rows.find((d) => d.slug === version.drink)
    return {
      key: `${version.drink}@${version.number}`,
      version,
      name: drink?.name ?? version.document.name,
      isPoured: drink?.pouredVersion === version.number,
      isPlanned: drink?.plannedVersion === version.number,
      answer: answers[i],
    }
  })
  const [first, ...others] = counted.sides
  const glassOf = (key: string) => inGlassOf(columns.find((c) => c.key === key)?.answer)
  const changed = new Map(
    others.map((side) => [
      side.key,
      first ? changedMost(first, side, { from: glassOf(first.key), to: glassOf(side.key) }) : '',
    ]),
  )
  return {
    error: undefined,
    sheet: {
      // What cannot be counted has no column.
      columns: columns.filter((c) => counted.sides.some((s) => s.key === c.key)),
      rows: alignPours(counted.sides),
      done: counted.done,
      remarks: comparedRemarks(counted.sides),
      problems: counted.problems,
      changed,
    },
  }
}
