/** Finding things by what people remember of their names: beginnings of words, and with a slip of the finger. */

import { plainText } from '@conch/core/text'
import MiniSearch, { type SearchResult } from 'minisearch'

export interface Named {
  slug: string
  name: string
  /** Other words that lead to it: what it was called, what it is. */
  also?: string
}

/** Shorter words have no room for a slip: one letter makes another word of them. */
const LEAST_LETTERS_FOR_A_SLIP = 4
/** Letters that may be wrong, as a share of the word's. */
const SLIP_SHARE = 0.25

export class Finder {
  private readonly index = new MiniSearch<Named & { id: string }>({
    fields: ['name', 'also'],
    processTerm: plainText,
    storeFields: ['name'],
    searchOptions: { prefix: true, combineWith: 'AND' },
  })

  /** What came, or went, since somebody searched: a house that has just begun answers before it is all read in. */
  private readonly waiting = new Map<string, Named | undefined>()

  put(named: Named): void {
    this.waiting.set(named.slug, named)
  }

  drop(slug: string): void {
    this.waiting.set(slug, undefined)
  }

  private catchUp(): void {
    for (const [slug, named] of this.waiting) {
      const isThere = this.index.has(slug)
      if (named) {
        const document = { id: slug, slug, name: named.name, also: named.also ?? '' }
        if (isThere) this.index.replace(document)
        else this.index.add(document)
      } else if (isThere) this.index.discard(slug)
    }
    this.waiting.clear()
  }

  /** What some of the words lead to, best first: for whoever then looks closer. */
  findSome(words: string): string[] {
    this.catchUp()
    const some = ranked(this.index.search(words, { combineWith: 'OR' }))
    return [...new Set([...this.find(words).slugs, ...some])]
  }

  /**
   * The slugs of what words lead to, best first.
   * @returns `isNear`: nothing has these words; these are what was likely meant
   */
  find(words: string): { slugs: string[]; isNear: boolean } {
    this.catchUp()
    const exact = this.index.search(words)
    if (exact.length > 0) return { slugs: ranked(exact), isNear: false }
    const near = this.index.search(words, {
      fuzzy: (term) => (term.length >= LEAST_LETTERS_FOR_A_SLIP ? SLIP_SHARE : false),
    })
    return { slugs: ranked(near), isNear: near.length > 0 }
  }
}

/**
 * Best first, by what was asked and what is called so alone: the index's own marks depend on what else is in it, and on what
 * once was. A whole word before its beginning before a slip, a name before what else is said; then the shorter name.
 */
function ranked(results: readonly SearchResult[]): string[] {
  return results
    .map((r) => ({ slug: r.id as string, name: String(r.name), mark: markOf(r) }))
    .sort((a, b) => b.mark - a.mark || a.name.length - b.name.length || (a.slug < b.slug ? -1 : 1))
    .map((r) => r.slug)
}

function markOf({ match, queryTerms }: SearchResult): number {
  const terms = Object.entries(match)
  return queryTerms.reduce((sum, asked) => {
    const marks = terms.map(([term, fields]) => nearnessOf(asked, term) * (fields.includes('name') ? 2 : 1))
    return sum + Math.max(0, ...marks)
  }, 0)
}

/** 3 for the word itself, 2 for its beginning, else less than 1 by how far the two begin alike. */
function nearnessOf(asked: string, term: string): number {
  if (term === asked) return 3
  if (term.startsWith(asked)) return 2
  let alike = 0
  while (alike < asked.length && asked[alike] === term[alike]) alike += 1
  return alike / (asked.length + 1)
}
