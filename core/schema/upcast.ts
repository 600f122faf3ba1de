/**
 * Documents of older formats, brought up to the newest by small steps, each from one version to the next.
 * The one place where an old format is known.
 */

export interface Format {
  /** What `formatVersion` says in a document of today. */
  newest: number
  /** By the version that it starts from. */
  steps: Readonly<Record<number, (document: Record<string, unknown>) => Record<string, unknown>>>
}

export const FORMATS = {
  drink: { newest: 1, steps: {} },
  'edition-lock': {
    newest: 2,
    // Until then a lock did not say which model of the ice had computed it.
    steps: { 1: (lock) => ({ ...lock, model: null }) },
  },
} as const satisfies Record<string, Format>

export class NewerFormat extends Error {}

/**
 * A document in today's format. What carries no version is of the first.
 * @throws NewerFormat for a document of a version that this program does not know yet
 */
export function upcast(
  name: keyof typeof FORMATS,
  document: unknown,
  formats: Record<string, Format> = FORMATS,
): unknown {
  if (typeof document !== 'object' || document === null) return document
  const { newest, steps } = formats[name] as Format
  let current = document as Record<string, unknown>
  let version = typeof current.formatVersion === 'number' ? current.formatVersion : 1
  if (version > newest)
    throw new NewerFormat(`it is written in format ${version} of “${name}”; this program knows up to ${newest}`)
  for (; version < newest; version++) {
    const step = steps[version]
    if (!step) throw new Error(`bug: no step leads from format ${version} of “${name}”`)
    current = { ...step(current), formatVersion: version + 1 }
  }
  return current
}
