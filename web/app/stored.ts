/** Small things kept on this device. A full or forbidden store loses them quietly: none is the only copy. */

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
