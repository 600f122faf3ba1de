import { describe, expect, it } from 'vitest'
import { z } from 'zod'
import { describeIssues } from './describeIssues.ts'

const schema = z
  .object({
    name: z.string().min(1, 'give it a name').max(5),
    iceG: z.number().min(0).max(2000),
    shareFraction: z.number().positive().lt(1),
    ice: z.enum(['cubes', 'crushed']),
    pours: z.array(z.object({ volumeMl: z.number() })).max(2),
  })
  .strict()

const good = { name: 'Bell', iceG: 10, shareFraction: 0.5, ice: 'cubes', pours: [] }

/** The one problem of what was sent. */
function problemOf(sent: unknown) {
  const parsed = schema.safeParse(sent)
  if (parsed.success) throw new Error('it was accepted')
  const problems = describeIssues(parsed.error, sent)
  expect(problems).toHaveLength(1)
  return problems[0]
}

describe('a problem of what was sent', () => {
  it.each<[string, unknown, string, string]>([
    ['too large', { ...good, iceG: 2500 }, 'iceG', '2500 is too large; at most 2000'],
    ['too small', { ...good, iceG: -1 }, 'iceG', '-1 is too small; at least 0'],
    ['an open end below', { ...good, shareFraction: 0 }, 'shareFraction', '0 is too small; more than 0'],
    ['an open end above', { ...good, shareFraction: 1 }, 'shareFraction', '1 is too large; less than 1'],
    ['too long', { ...good, name: 'Bellwether' }, 'name', '“Bellwether” is too long; at most 5 characters'],
    ['empty', { ...good, name: '' }, 'name', 'give it a name'],
    ['missing', { ...good, iceG: undefined }, 'iceG', 'is missing; a number is needed'],
    ['of another type', { ...good, iceG: 'much' }, 'iceG', '“much” must be a number'],
    ['not among the words', { ...good, ice: 'slush' }, 'ice', '“slush” is not one of cubes, crushed'],
    ['unknown', { ...good, colour: 'red' }, '', 'has fields nobody knows: colour'],
    ['deep inside', { ...good, pours: [{ volumeMl: 'all' }] }, 'pours.0.volumeMl', '“all” must be a number'],
    [
      'too many',
      { ...good, pours: [{ volumeMl: 1 }, { volumeMl: 1 }, { volumeMl: 1 }] },
      'pours',
      'has too many entries; at most 2',
    ],
  ])('%s: names the field, the value and what is allowed', (_what, sent, field, message) => {
    expect(problemOf(sent)).toEqual({ field, message })
  })

  it('cuts a long value short', () => {
    expect(problemOf({ ...good, ice: 'x'.repeat(500) })?.message).toMatch(/^“x{56}… is not one of/)
  })
})
