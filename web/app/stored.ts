/** Small things kept on this device. A full or forbidden store loses them quietly: none is the only copy. */

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

export function readStored<T>(key: string): T | undefined {
  try {
    const text = localStorage.getItem(key)
    return text === null ? undefined : (JSON.parse(text) as T)
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
