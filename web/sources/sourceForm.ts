/** A source as somebody writes it down. Plain functions. */

import {
  CERTAINTIES,
  CLAIM_SUBJECTS,
  readWhen,
  SOURCE_KINDS,
  type VersionSource,
  type Years,
} from '@conch/core/lineage'
import { z } from 'zod'

const year = z
  .string()
  .trim()
  .refine((y) => y === '' || /^(1[5-9]|2[01])\d\d$/.test(y), 'A year from 1500 to 2199, or nothing.')

/** The fields of a source. */
export const sourceFields = {
  sourceKind: z.enum(SOURCE_KINDS),
  title: z.string().trim().min(1, 'A source needs a title, if only “told by the old barman”.').max(200),
  page: z.string().trim().max(40),
  year: z.string().trim().max(40),
  saidBy: z.string().trim().max(120),
  claims: z
    .array(
      z.object({
        about: z.enum(CLAIM_SUBJECTS),
        says: z.string().trim().min(1, 'Say what it claims, or take the line away.').max(200),
        certainty: z.enum(CERTAINTIES),
      }),
    )
    .max(20),
}

/** When a version was poured: in words, and in years where the words do not say them. */
export const whenFields = {
  when: z.string().trim().max(60),
  fromYear: year,
  toYear: year,
}

export const sourceForm = z.object(sourceFields)
export type SourceForm = z.infer<typeof sourceForm>
export const NO_SOURCE: SourceForm = { sourceKind: 'book', title: '', page: '', year: '', saidBy: '', claims: [] }
export const NO_WHEN = { when: '', fromYear: '', toYear: '' }

/** A source as it is kept: what is empty is left out. */
export function toSource({ sourceKind: kind, title, claims, ...rest }: SourceForm): VersionSource {
  const { page, year, saidBy } = rest
  return {
    kind,
    title,
    ...(page ? { page } : {}),
    ...(year ? { year } : {}),
    ...(saidBy ? { saidBy } : {}),
    claims,
  }
}

/** The years that were typed, where the words alone say none. */
export function toYears({
  when,
  fromYear,
  toYear,
}: {
  when: string
  fromYear: string
  toYear: string
}): Years | undefined {
  if (readWhen(when)) return undefined
  const years = {
    ...(fromYear ? { fromYear: Number(fromYear) } : {}),
    ...(toYear ? { toYear: Number(toYear) } : {}),
  }
  return fromYear || toYear ? years : undefined
}

/** What is wrong with the years together; undefined: nothing. */
export const yearsProblem = ({ fromYear, toYear }: { fromYear: string; toYear: string }): string | undefined =>
  fromYear && toYear && Number(fromYear) > Number(toYear) ? 'The first year comes after the last.' : undefined
