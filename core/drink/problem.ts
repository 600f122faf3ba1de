/** Something in a drink document that cannot be computed, and where. */
export interface Problem {
  path: (string | number)[]
  message: string
}

/** What is not there, with what is. */
export function missing(what: string, slug: string, list: readonly { slug: string }[]): string {
  const some = list.slice(0, 6).map((x) => x.slug)
  const known =
    some.length === 0
      ? 'the house has none yet'
      : `the house has ${some.join(', ')}${list.length > 6 ? ' and more' : ''}`
  return `there is no ${what} “${slug}”; ${known}`
}
