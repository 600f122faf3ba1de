/** Finding things by what people remember of their names: beginnings of words, and with a slip of the finger. */

import MiniSearch from 'minisearch'

export interface Named {
  slug: string
  name: string
  /** Other words that lead to it: what it was called, what it is. */
  also?: string
}

/** Without capitals and accents, as people type. */
const plain = (text: string) =>
  text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()

/** Shorter words have no room for a slip: one letter makes another word of them. */
const LEAST_LETTERS_FOR_A_SLIP = 4
/** Letters that may be wrong, as a share of the word's. */
const SLIP_SHARE = 0.25

export class Finder {
  private readonly index = new MiniSearch<Named & { id: string }>({
    fields: ['name', 'also'],
    processTerm: (term) => plain(term),
    searchOptions: { boost: { name: 3 }, prefix: true, combineWith: 'AND' },
  })

  put({ slug, name, also = '' }: Named): void {
    const document = { id: slug, slug, name, also }
    if (this.index.has(slug)) this.index.replace(document)
    else this.index.add(document)
  }

  drop(slug: string): void {
    if (this.index.has(slug)) this.index.discard(slug)
  }

  /** What some of the words lead to, best first: for whoever then looks closer. */
  findSome(words: string): string[] {
    const some = this.index.search(words, { combineWith: 'OR' }).map((r) => r.id as string)
    return [...new Set([...this.find(words).slugs, ...some])]
  }

  /**
   * The slugs of what words lead to, best first.
   * @returns `isNear`: nothing has these words; these are what was likely meant
   */
  find(words: string): { slugs: string[]; isNear: boolean } {
    const exact = this.index.search(words).map((r) => r.id as string)
    if (exact.length > 0) return { slugs: exact, isNear: false }
    const near = this.index.search(words, {
      fuzzy: (term) => (term.length >= LEAST_LETTERS_FOR_A_SLIP ? SLIP_SHARE : false),
    })
    return { slugs: near.map((r) => r.id as string), isNear: near.length > 0 }
  }
}
