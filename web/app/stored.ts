/** Small things kept on this device. A full or forbidden store loses them quietly: none is the only copy. */

import { z } from 'zod'

/** Under these keys lies what only whoever may open a sealed formula may find on this device. */
export const SEALED_KEYS = 'conch:sealed:'

/** Somebody else takes the device: what was sealed is not left lying on it. */
export function forgetSealed(): void {
  try {
    for (const key of Object.keys(localStorage)) if (key.startsWith(SEALED_KEYS)) localStorage.removeItem(key)
  } catch {
    // Nothing can be read from a forbidden store either.
  }
}

/** What is kept under a key, if it has the form that is looked for; what another version left there is not used. */
export function readStored<T>(key: string, schema: z.ZodType<T>): T | undefined {
  try {
    const text = localStorage.getItem(key)
    return text === null ? undefined : schema.safeParse(JSON.parse(text)).data
  } catch {
    return undefined
  }
}

export function writeStored(key: string, value: unknown): void {
  try {
    if (value === undefined) localStorage.removeItem(key)
    else localStorage.setItem(key, JSON.stringify(value))
  } catch {
    // Kept in memory for this page at least.
  }
}

export const textSchema = z.string()
export const flagSchema = z.boolean()
