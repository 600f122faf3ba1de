import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { type FeedKind, READ_BY, type ReadPlace } from '@conch/contract'
import { describe, expect, it } from 'vitest'
import { askedBy, isTouched } from './asked.ts'

const WEB = join(import.meta.dirname, '..')
const sources = (readdirSync(WEB, { recursive: true }) as string[])
  .filter((f) => /\.tsx?$/.test(f) && !/\.test\./.test(f) && !/^(dist|node_modules)/.test(f))
  .map((f) => ({ file: f, text: readFileSync(join(WEB, f), 'utf8') }))

/** Every key by which a page asks, as it stands in the code: constants resolved, what is only known later as `?`. */
function keysInCode(): { file: string; key: string[] }[] {
  const constants: Record<string, string[]> = {}
  const parts = (text: string): string[] =>
    text.split(',').flatMap((part) => {
      const word = part.trim().replace(/ as const$/, '')
      const spread = /^\.\.\.(\w+)/.exec(word)?.[1]
      if (spread) return constants[spread] ?? ['?']
      const quoted = /^'([^']*)'$/.exec(word)?.[1]
      return quoted === undefined ? (constants[word] ?? (word === '' ? [] : ['?'])) : [quoted]
    })
  for (const { text } of sources)
    for (const [, name = '', value = ''] of text.matchAll(/const (\w+) = '([^']+)'/g)) constants[name] = [value]
  for (const { text } of sources)
    for (const [, name = '', value = ''] of text.matchAll(/const (\w+_KEY) = \[([^\]]+)\]/g))
      constants[name] = parts(value)
  return sources.flatMap(({ file, text }) =>
    [...text.matchAll(/(?:queryKey|\bkey): \[([^\]]+)\]/g)]
      .map(([, key = '']) => parts(key))
      // All that is computed together is no question of its own; of drafts, one of each kind.
      .filter((key) => String(key) !== 'kept')
      .flatMap((key) => (key[0] === 'drafts' ? ['drink', 'ingredient', 'slot'].map((k) => ['drafts', k, '?']) : [key]))
      .map((key) => ({ file, key })),
  )
}

/** They follow whatever anybody does. */
const ANYTHING = ['audit', 'doings', 'foresight']

describe('what pages ask', () => {
  const keys = keysInCode()
  it('is found in the code', () => {
    expect(keys.length).toBeGreaterThan(45)
    expect(keys.filter((k) => k.key[0] === '?' && k.file !== 'list/useRows.ts')).toEqual([])
  })

  it.each(keys.filter((k) => k.key[0] !== '?'))('$key of $file is known to the feed', ({ key }) => {
    if (ANYTHING.includes(key[0] ?? '')) expect(askedBy(key)).toBe('anything')
    else expect(askedBy(key)).not.toBe('anything')
  })

  it('is asked again for every kind that it follows from, and for no other', () => {
    const places = Object.keys(READ_BY) as ReadPlace[]
    const kinds = [...new Set(places.flatMap((p) => READ_BY[p] as readonly FeedKind[]))]
    for (const { key } of keys) {
      const asked = askedBy(key)
      if (typeof asked === 'string') continue
      for (const kind of kinds)
        expect(`${key} ${kind}: ${isTouched(key, [kind])}`).toBe(
          `${key} ${kind}: ${(READ_BY[asked.place] as readonly FeedKind[]).includes(kind)}`,
        )
      expect(isTouched(key, 'everything')).toBe(true)
    }
  })

  it('of one thing is left alone by what happens to another', () => {
    expect(isTouched(['drinks', 'tide-clerk'], ['drink', 'drink/black-buoy'])).toBe(false)
    expect(isTouched(['drinks', 'tide-clerk'], ['drink', 'drink/black-buoy', 'drink/tide-clerk'])).toBe(true)
    // Where nobody says which, it may be this one.
    expect(isTouched(['drinks', 'tide-clerk'], ['drink'])).toBe(true)
    expect(isTouched(['drafts', 'drink', 'tide-clerk'], ['draft', 'draft/drink/black-buoy'])).toBe(false)
    expect(isTouched(['drafts', 'drink', 'tide-clerk'], ['draft', 'draft/drink/tide-clerk'])).toBe(true)
    expect(isTouched(['lots', 14], ['lot', 'lot/15'])).toBe(false)
    // A list of all of them is not.
    expect(isTouched(['drinks', 'page', 'limit=1'], ['drink', 'drink/black-buoy'])).toBe(true)
    expect(isTouched(['ready'], 'everything')).toBe(false)
  })
})
